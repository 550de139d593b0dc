import { Type } from '@sinclair/typebox';
import * as arrival from './arrivals.js';
import { operation } from './operation.js';

/** The calls about what comes in from outside and goes out to it. */
export const arrivalOperations = {
  listArrivals: operation({
    id: 'listArrivals',
    method: 'get',
    path: '/api/arrivals',
    summary: 'Messages with files that came to oneself, newest first',
    status: 200,
    answer: Type.Array(arrival.Letter),
  }),
  arrivedFile: operation({
    id: 'arrivedFile',
    method: 'get',
    path: '/api/arrivals/:arrival/files/:index',
    summary: 'A file that came, as it came',
    status: 200,
    answer: null,
  }),
  likeArrived: operation({
    id: 'likeArrived',
    method: 'get',
    path: '/api/arrivals/:arrival/files/:index/like',
    summary: 'Documents one may see that read like a file that came, the most alike first',
    status: 200,
    answer: Type.Array(arrival.LikeDocument),
  }),
  fileArrived: operation({
    id: 'fileArrived',
    method: 'post',
    path: '/api/arrivals/:arrival/files/:index/filing',
    summary: 'File a file that came, with its sender as the author',
    body: arrival.ArrivalFilingInput,
    status: 201,
    answer: arrival.ArrivalFiled,
  }),
  putArrivalAway: operation({
    id: 'putArrivalAway',
    method: 'delete',
    path: '/api/arrivals/:arrival',
    summary: 'Put a message away; it stays in its folder',
    status: 204,
    answer: null,
  }),
  post: operation({
    id: 'post',
    method: 'post',
    path: '/api/documents/:document/post',
    summary: 'Send a version, or a redline between two, as a message with a file',
    body: arrival.PostInput,
    status: 201,
    answer: arrival.Letter,
  }),
};
