import { Type } from '@sinclair/typebox';
import * as keeping from './keeping.js';
import { BUDGETS } from './budgets.js';
import { ProposedEdit } from './live.js';
import { operation } from './operation.js';
import { closed } from './primitives.js';
import { Version } from './shapes.js';

/** The calls by which versions are discarded and thinned, and text is erased. */
export const keepingOperations = {
  discardVersion: operation({
    id: 'discardVersion',
    method: 'delete',
    path: '/api/documents/:document/versions/:number',
    summary: 'Discard a version, for owners: it is out of sight, and its number is never used again',
    status: 204,
    answer: null,
  }),
  putVersionBack: operation({
    id: 'putVersionBack',
    method: 'post',
    path: '/api/documents/:document/versions/:number/put-back',
    summary: 'Put a discarded version back where it stood',
    status: 200,
    answer: Version,
  }),
  listDiscards: operation({
    id: 'listDiscards',
    method: 'get',
    path: '/api/documents/:document/discards',
    summary: 'Discarded versions, for owners, those discarded last first',
    status: 200,
    answer: Type.Array(keeping.Discard),
  }),
  documentRule: operation({
    id: 'documentRule',
    method: 'get',
    path: '/api/documents/:document/rule',
    summary: 'How a document is kept',
    status: 200,
    answer: keeping.KeptBy,
  }),
  setDocumentRule: operation({
    id: 'setDocumentRule',
    method: 'put',
    path: '/api/documents/:document/rule',
    summary: 'Say, as an owner, how a document is kept',
    body: keeping.RuleInput,
    status: 200,
    answer: keeping.KeptBy,
  }),
  previewDocumentRule: operation({
    id: 'previewDocumentRule',
    method: 'post',
    path: '/api/documents/:document/rule/preview',
    summary: 'What would go now under a rule; nothing is changed',
    body: keeping.RuleInput,
    status: 200,
    answer: keeping.RulePreview,
  }),
  collectionRule: operation({
    id: 'collectionRule',
    method: 'get',
    path: '/api/collections/:collection/rule',
    summary: 'How the documents of a collection are kept',
    status: 200,
    answer: keeping.KeptBy,
  }),
  setCollectionRule: operation({
    id: 'setCollectionRule',
    method: 'put',
    path: '/api/collections/:collection/rule',
    summary:
      'Say, as an owner, how the documents of a collection are kept where they do not say so themselves',
    body: keeping.RuleInput,
    status: 200,
    answer: keeping.KeptBy,
  }),
  previewCollectionRule: operation({
    id: 'previewCollectionRule',
    method: 'post',
    path: '/api/collections/:collection/rule/preview',
    summary: 'What would go now under a rule, document by document; nothing is changed',
    body: keeping.RuleInput,
    status: 200,
    answer: keeping.RulePreview,
  }),
  listThinnings: operation({
    id: 'listThinnings',
    method: 'get',
    path: '/api/documents/:document/thinnings',
    summary: 'Versions that went by a rule, newest first',
    status: 200,
    answer: Type.Array(keeping.Thinning),
  }),
  previewErasure: operation({
    id: 'previewErasure',
    method: 'post',
    path: '/api/documents/:document/erasures/preview',
    summary: 'Everything that holds what is to be erased; nothing is changed',
    body: keeping.ErasureWish,
    status: 200,
    answer: keeping.ErasurePreview,
  }),
  erase: operation({
    id: 'erase',
    method: 'post',
    path: '/api/documents/:document/erasures',
    summary: 'Erase what a preview showed, for good, everywhere; for owners',
    body: keeping.ErasureInput,
    status: 202,
    answer: keeping.Certificate,
  }),
  heedErasures: operation({
    id: 'heedErasures',
    method: 'post',
    path: '/api/documents/:document/erasures/heed',
    summary:
      'Edits that wait on a device, with what they bring of erased text erased in them too; nothing is changed',
    body: Type.Object({ edits: Type.Array(ProposedEdit, { maxItems: BUDGETS.messageEdits }) }, closed),
    status: 200,
    answer: Type.Object({ edits: Type.Array(ProposedEdit) }),
  }),
  listErasures: operation({
    id: 'listErasures',
    method: 'get',
    path: '/api/documents/:document/erasures',
    summary: 'What was erased in a document, without the text, newest first',
    status: 200,
    answer: Type.Array(keeping.Certificate),
  }),
  answerErasure: operation({
    id: 'answerErasure',
    method: 'post',
    path: '/api/documents/:document/erasures/:erasure/answer',
    summary: 'Agree, as a second owner, to what another asks to erase, or decline it',
    body: Type.Object({ agree: Type.Boolean() }, closed),
    status: 200,
    answer: keeping.Certificate,
  }),
};
