import { Type } from '@sinclair/typebox';
import { operation } from './operation.js';
import * as shape from './shapes.js';
import * as sharing from './sharing.js';

/** Who has a document, and through what. */
export const sharingOperations = {
  listShares: operation({
    id: 'listShares',
    method: 'get',
    path: '/api/documents/:document/shares',
    summary: 'Who has it, and how',
    status: 200,
    answer: Type.Array(shape.Share),
  }),
  sharing: operation({
    id: 'sharing',
    method: 'get',
    path: '/api/documents/:document/sharing',
    summary: 'Who has it, who is invited to it, and what happened to that, for owners',
    status: 200,
    answer: sharing.Sharing,
  }),
  candidates: operation({
    id: 'candidates',
    method: 'get',
    path: '/api/documents/:document/candidates',
    summary: 'People here whose name or address begins so, for owners; at least two letters',
    query: Type.Object({ q: Type.String({ minLength: 2, maxLength: 100 }) }),
    status: 200,
    answer: Type.Array(sharing.Candidate),
  }),
  shareWith: operation({
    id: 'shareWith',
    method: 'post',
    path: '/api/documents/:document/shares',
    summary:
      'Share it with somebody by address or as somebody here, and write to them; an address outside becomes an invited guest',
    body: sharing.ShareWithInput,
    status: 201,
    answer: sharing.Sharing,
  }),
  setShare: operation({
    id: 'setShare',
    method: 'put',
    path: '/api/documents/:document/shares/:person',
    summary: 'Share it with somebody here, or change how they have it',
    body: shape.ShareInput,
    status: 200,
    answer: shape.Share,
  }),
  sendShareAgain: operation({
    id: 'sendShareAgain',
    method: 'post',
    path: '/api/documents/:document/shares/send',
    summary:
      'Write again to somebody that it is shared with them; to whoever is only invited, with a new link',
    body: Type.Object(
      { email: Type.Optional(Type.String({ format: 'email' })), person: Type.Optional(Type.String()) },
      { additionalProperties: false },
    ),
    status: 200,
    answer: sharing.Sharing,
  }),
  endShare: operation({
    id: 'endShare',
    method: 'delete',
    path: '/api/documents/:document/shares/:person',
    summary: 'Stop sharing it with somebody, at once',
    status: 204,
    answer: null,
  }),
  endInvitedShare: operation({
    id: 'endInvitedShare',
    method: 'delete',
    path: '/api/documents/:document/invited',
    summary: 'Stop sharing it with whoever was invited by an address and has not come',
    query: Type.Object({ email: Type.String({ format: 'email' }) }),
    status: 204,
    answer: null,
  }),
  endShares: operation({
    id: 'endShares',
    method: 'delete',
    path: '/api/documents/:document/shares',
    summary: 'Stop sharing it with everybody but its owners, at once',
    status: 204,
    answer: null,
  }),
};
