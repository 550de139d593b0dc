import { Type } from '@sinclair/typebox';
import { operation } from './operation.js';
import { closed } from './primitives.js';
import { Collection, CollectionInput } from './shapes.js';
import * as sharing from './sharing.js';

/** The calls about who has something, a document or a collection; `id` names a call about it. */
function sharingOf<const Path extends string>(path: Path, id: (call: string) => string) {
  return {
    sharing: operation({
      id: id('sharing'),
      method: 'get',
      path: `${path}/sharing`,
      summary: 'Who has it, who is invited to it, and what happened to that, for owners',
      status: 200,
      answer: sharing.Sharing,
    }),
    candidates: operation({
      id: id('candidates'),
      method: 'get',
      path: `${path}/candidates`,
      summary: 'People and groups here whose name or address begins so, for owners; at least two letters',
      query: Type.Object({ q: Type.String({ minLength: 2, maxLength: 100 }) }),
      status: 200,
      answer: Type.Array(sharing.Candidate),
    }),
    shareWith: operation({
      id: id('shareWith'),
      method: 'post',
      path: `${path}/shares`,
      summary:
        'Share it with somebody by address, or with a person, a group or everybody here, and write to them; an address outside becomes an invited guest',
      body: sharing.ShareWithInput,
      status: 201,
      answer: sharing.Sharing,
    }),
    setShare: operation({
      id: id('setShare'),
      method: 'put',
      path: `${path}/shares/:holder`,
      summary: 'Share it with a person, a group or everybody here, or change how they have it',
      body: sharing.ShareInput,
      status: 200,
      answer: sharing.Share,
    }),
    sendShareAgain: operation({
      id: id('sendShareAgain'),
      method: 'post',
      path: `${path}/shares/:holder/send`,
      summary: 'Write to them again that it is shared with them; to whoever is only invited, with a new link',
      status: 200,
      answer: sharing.Sharing,
    }),
    endShare: operation({
      id: id('endShare'),
      method: 'delete',
      path: `${path}/shares/:holder`,
      summary: 'Stop sharing it with them, at once',
      status: 204,
      answer: null,
    }),
    endShares: operation({
      id: id('endShares'),
      method: 'delete',
      path: `${path}/shares`,
      summary: 'Stop sharing it with everybody but its owners, at once',
      status: 204,
      answer: null,
    }),
  };
}

const ofCollection = sharingOf(
  '/api/collections/:collection',
  (call) => `collection${call[0]?.toUpperCase()}${call.slice(1)}`,
);

/** Who has a document or a collection, and through what. */
export const sharingOperations = {
  listShares: operation({
    id: 'listShares',
    method: 'get',
    path: '/api/documents/:document/shares',
    summary: 'With whom it is shared, and how',
    status: 200,
    answer: Type.Array(sharing.Share),
  }),
  ...sharingOf('/api/documents/:document', (call) => call),
  askForDocument: operation({
    id: 'askForDocument',
    method: 'post',
    path: '/api/documents/:document/asking',
    summary:
      'Ask the owners of a document that one does not have for it; answered alike whether there is one or not',
    body: Type.Object({ message: Type.Optional(Type.String({ maxLength: 500 })) }, closed),
    status: 204,
    answer: null,
  }),
  collectionSharing: ofCollection.sharing,
  collectionCandidates: ofCollection.candidates,
  collectionShareWith: ofCollection.shareWith,
  collectionSetShare: ofCollection.setShare,
  collectionSendShareAgain: ofCollection.sendShareAgain,
  collectionEndShare: ofCollection.endShare,
  collectionEndShares: ofCollection.endShares,
};

/** Collections of documents: a share of one holds for all that is in it, now and later. */
export const collectionOperations = {
  listCollections: operation({
    id: 'listCollections',
    method: 'get',
    path: '/api/collections',
    summary: 'Collections that one has',
    status: 200,
    answer: Type.Array(Collection),
  }),
  createCollection: operation({
    id: 'createCollection',
    method: 'post',
    path: '/api/collections',
    summary: 'Make a collection, which is one’s own',
    body: CollectionInput,
    status: 201,
    answer: Collection,
  }),
  renameCollection: operation({
    id: 'renameCollection',
    method: 'patch',
    path: '/api/collections/:collection',
    summary: 'Rename a collection, for owners',
    body: CollectionInput,
    status: 200,
    answer: Collection,
  }),
  deleteCollection: operation({
    id: 'deleteCollection',
    method: 'delete',
    path: '/api/collections/:collection',
    summary:
      'Delete a collection, for owners; its documents stay with whoever has them by name, and stand in none',
    status: 204,
    answer: null,
  }),
};

/** Groups of people, for administrators. */
export const groupOperations = {
  listGroups: operation({
    id: 'listGroups',
    method: 'get',
    path: '/api/groups',
    summary: 'Groups of people, for administrators',
    status: 200,
    answer: Type.Array(sharing.Group),
  }),
  createGroup: operation({
    id: 'createGroup',
    method: 'post',
    path: '/api/groups',
    summary: 'Make a group, for administrators',
    body: sharing.GroupInput,
    status: 201,
    answer: sharing.Group,
  }),
  changeGroup: operation({
    id: 'changeGroup',
    method: 'patch',
    path: '/api/groups/:group',
    summary: 'Rename a group, or say who is in it, for administrators',
    body: sharing.GroupPatch,
    status: 200,
    answer: sharing.Group,
  }),
  deleteGroup: operation({
    id: 'deleteGroup',
    method: 'delete',
    path: '/api/groups/:group',
    summary: 'Delete a group, and with it what was shared with it, for administrators',
    status: 204,
    answer: null,
  }),
};
