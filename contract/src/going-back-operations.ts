import * as back from './going-back.js';
import * as returned from './returned.js';
import { operation } from './operation.js';
import { DocumentSummary, Outcome } from './shapes.js';

/** How many files that came back are brought together at once. */
const RETURNED = { least: 2, most: 9 } as const;

/** The calls that bring something back, or put something of several moments together. */
export const goingBackOperations = {
  restore: operation({
    id: 'restore',
    method: 'post',
    path: '/api/documents/:document/restore',
    summary: 'Put the content of a version or moment on top as the next version',
    body: back.RestoreInput,
    status: 201,
    answer: Outcome,
  }),
  takeBack: operation({
    id: 'takeBack',
    method: 'post',
    path: '/api/documents/:document/take-back',
    summary: 'Undo edits and keep what came after them',
    body: back.TakeBackInput,
    status: 201,
    answer: Outcome,
  }),
  copyMoment: operation({
    id: 'copyMoment',
    method: 'post',
    path: '/api/documents/:document/copies',
    summary: 'Make a document of its own from a version or moment',
    body: back.CopyInput,
    status: 201,
    answer: DocumentSummary,
  }),
  homecoming: operation({
    id: 'homecoming',
    method: 'get',
    path: '/api/documents/:document/home',
    summary: 'What bringing a copy home to the document it came from would change, and the conflicts',
    status: 200,
    answer: back.Homecoming,
  }),
  bringHome: operation({
    id: 'bringHome',
    method: 'post',
    path: '/api/documents/:document/home',
    summary: 'Put what was changed in a copy into the document it came from, as its next version',
    body: back.HomecomingInput,
    status: 201,
    answer: Outcome,
  }),
  previewTakeBack: operation({
    id: 'previewTakeBack',
    method: 'post',
    path: '/api/documents/:document/take-back/preview',
    summary: 'What taking edits back would change; nothing is changed',
    body: back.TakeBackInput,
    status: 200,
    answer: back.TakeBackPreview,
  }),
  assemble: operation({
    id: 'assemble',
    method: 'post',
    path: '/api/documents/:document/assemblies',
    summary: 'Put what one decided about each change of a comparison on top, as the next version',
    body: back.AssemblyInput,
    status: 201,
    answer: Outcome,
  }),
  setAside: operation({
    id: 'setAside',
    method: 'post',
    path: '/api/documents/:document/assemblies/documents',
    summary: 'The same as a document of its own',
    body: back.AsideInput,
    status: 201,
    answer: DocumentSummary,
  }),
  assembledFile: operation({
    id: 'assembledFile',
    method: 'post',
    path: '/api/documents/:document/assemblies/file',
    summary: 'The same as a file',
    body: back.AssembledFileInput,
    status: 200,
    answer: null,
  }),
  gatherReturned: operation({
    id: 'gatherReturned',
    method: 'post',
    path: '/api/documents/:document/returned',
    summary:
      'Files that came back from readers, brought together with the moment that they had; nothing is kept',
    form: returned.ReturnedForm,
    files: RETURNED,
    status: 200,
    answer: returned.Returned,
  }),
  putReturned: operation({
    id: 'putReturned',
    method: 'post',
    path: '/api/documents/:document/returned/outcome',
    summary: 'Put what was decided about files that came back on top, as the next version',
    form: returned.ReturnedInput,
    files: RETURNED,
    status: 201,
    answer: Outcome,
  }),
  returnedFile: operation({
    id: 'returnedFile',
    method: 'post',
    path: '/api/documents/:document/returned/file',
    summary: 'The same as a file with tracked changes that name who proposed each',
    form: returned.ReturnedFileForm,
    files: RETURNED,
    status: 200,
    answer: null,
  }),
};
