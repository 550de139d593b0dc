import type { TObject, TSchema } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import * as shape from './shapes.js';

/** One call of the API: everything that routing, checking and the published description need to know of it. */
export interface Operation {
  readonly id: string;
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** With parameters as `:name`. */
  readonly path: string;
  readonly summary: string;
  readonly query?: TObject;
  readonly body?: TSchema;
  /** A multipart body: its fields; the file itself is the part `file`. */
  readonly form?: TObject;
  readonly status: number;
  readonly answer: TSchema | null;
  /** Whether it may be called without being signed in. */
  readonly open?: boolean;
}

const Format = Type.Union([
  Type.Literal('json'),
  Type.Literal('markdown'),
  Type.Literal('html'),
  Type.Literal('text'),
]);
const page = {
  cursor: Type.Optional(Type.String({ maxLength: 200 })),
  limit: Type.Optional(Type.Integer({ minimum: 1, maximum: 200 })),
};
const MomentRef = Type.String({
  pattern: '^(@\\d{1,9}|\\d{1,9})$',
  description: 'a version number, or @SEQ for any moment',
});

function operation<const T extends Operation>(value: T): T {
  return value;
}

/** The API, call by call. */
export const operations = {
  signIn: operation({
    id: 'signIn',
    method: 'post',
    path: '/api/session',
    summary: 'Sign in; sets the session cookie',
    body: shape.Credentials,
    status: 200,
    answer: shape.Person,
    open: true,
  }),
  whoAmI: operation({
    id: 'whoAmI',
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in',
    status: 200,
    answer: shape.Person,
  }),
  signOut: operation({
    id: 'signOut',
    method: 'delete',
    path: '/api/session',
    summary: 'Sign out',
    status: 204,
    answer: null,
  }),
  demoPeople: operation({
    id: 'demoPeople',
    method: 'get',
    path: '/api/session/people',
    summary: 'The invented people of the demo; 404 outside demo mode',
    status: 200,
    answer: Type.Array(shape.DemoPerson),
    open: true,
  }),
  listPeople: operation({
    id: 'listPeople',
    method: 'get',
    path: '/api/people',
    summary: 'Everybody here',
    status: 200,
    answer: Type.Array(shape.Person),
  }),
  listCollections: operation({
    id: 'listCollections',
    method: 'get',
    path: '/api/collections',
    summary: 'Collections of documents',
    status: 200,
    answer: Type.Array(shape.Collection),
  }),
  createCollection: operation({
    id: 'createCollection',
    method: 'post',
    path: '/api/collections',
    summary: 'Make a collection',
    body: shape.CollectionInput,
    status: 201,
    answer: shape.Collection,
  }),
  renameCollection: operation({
    id: 'renameCollection',
    method: 'patch',
    path: '/api/collections/:collection',
    summary: 'Rename a collection',
    body: shape.CollectionInput,
    status: 200,
    answer: shape.Collection,
  }),
  listDocuments: operation({
    id: 'listDocuments',
    method: 'get',
    path: '/api/documents',
    summary: 'Documents one may see, last changed first',
    query: Type.Object(page),
    status: 200,
    answer: shape.pageOf(shape.DocumentSummary),
  }),
  createDocument: operation({
    id: 'createDocument',
    method: 'post',
    path: '/api/documents',
    summary: 'Make an empty document',
    body: shape.DocumentInput,
    status: 201,
    answer: shape.DocumentSummary,
  }),
  importDocument: operation({
    id: 'importDocument',
    method: 'post',
    path: '/api/documents/import',
    summary: 'Make a document from a Markdown, HTML or text file',
    form: shape.FileForm,
    status: 201,
    answer: shape.DocumentSummary,
  }),
  getDocument: operation({
    id: 'getDocument',
    method: 'get',
    path: '/api/documents/:document',
    summary: 'One document',
    status: 200,
    answer: shape.DocumentSummary,
  }),
  changeDocument: operation({
    id: 'changeDocument',
    method: 'patch',
    path: '/api/documents/:document',
    summary: 'Change the title or the collection',
    body: shape.DocumentPatch,
    status: 200,
    answer: shape.DocumentSummary,
  }),
  fileVersion: operation({
    id: 'fileVersion',
    method: 'post',
    path: '/api/documents/:document/files',
    summary: 'File a file as the next version',
    form: shape.FileForm,
    status: 201,
    answer: shape.Outcome,
  }),
  listVersions: operation({
    id: 'listVersions',
    method: 'get',
    path: '/api/documents/:document/versions',
    summary: 'Versions, newest first',
    query: Type.Object(page),
    status: 200,
    answer: shape.pageOf(shape.Version),
  }),
  keepVersion: operation({
    id: 'keepVersion',
    method: 'post',
    path: '/api/documents/:document/versions',
    summary: 'Keep a version now',
    body: shape.VersionInput,
    status: 201,
    answer: shape.Version,
  }),
  commentVersion: operation({
    id: 'commentVersion',
    method: 'patch',
    path: '/api/documents/:document/versions/:number',
    summary: 'Write or change the comment of a version',
    body: shape.CommentInput,
    status: 200,
    answer: shape.Version,
  }),
  pastComments: operation({
    id: 'pastComments',
    method: 'get',
    path: '/api/documents/:document/versions/:number/comments',
    summary: 'What the comment of a version has said, oldest first',
    status: 200,
    answer: Type.Array(shape.PastComment),
  }),
  listLandmarks: operation({
    id: 'listLandmarks',
    method: 'get',
    path: '/api/documents/:document/landmarks',
    summary: 'Named moments of a document, in the order of its life',
    status: 200,
    answer: Type.Array(shape.Landmark),
  }),
  nameMoment: operation({
    id: 'nameMoment',
    method: 'post',
    path: '/api/documents/:document/landmarks',
    summary: 'Name a version or any moment',
    body: shape.LandmarkInput,
    status: 201,
    answer: shape.Landmark,
  }),
  getLandmark: operation({
    id: 'getLandmark',
    method: 'get',
    path: '/api/documents/:document/landmarks/:landmark',
    summary: 'A landmark by id or name, one it had before too; "latest" is the one furthest along',
    status: 200,
    answer: shape.Landmark,
  }),
  renameLandmark: operation({
    id: 'renameLandmark',
    method: 'patch',
    path: '/api/documents/:document/landmarks/:landmark',
    summary: 'Change the name or the note of a landmark',
    body: shape.LandmarkPatch,
    status: 200,
    answer: shape.Landmark,
  }),
  unnameMoment: operation({
    id: 'unnameMoment',
    method: 'delete',
    path: '/api/documents/:document/landmarks/:landmark',
    summary: 'Take the name off a moment; the moment stays',
    status: 204,
    answer: null,
  }),
  findLandmarks: operation({
    id: 'findLandmarks',
    method: 'get',
    path: '/api/landmarks',
    summary: 'Landmarks of all documents one may see whose name or note holds some words, newest first',
    query: Type.Object({ q: Type.Optional(Type.String({ maxLength: 200 })) }),
    status: 200,
    answer: Type.Array(shape.FoundLandmark),
  }),
  getVersion: operation({
    id: 'getVersion',
    method: 'get',
    path: '/api/documents/:document/versions/:moment',
    summary: 'The content of a version or moment',
    query: Type.Object({ format: Type.Optional(Format) }),
    status: 200,
    answer: shape.Moment,
  }),
  compare: operation({
    id: 'compare',
    method: 'get',
    path: '/api/documents/:document/compare',
    summary: 'The changes between two versions or moments, of one document or two',
    query: Type.Object({
      earlier: MomentRef,
      later: MomentRef,
      with: Type.Optional(
        Type.String({ maxLength: 40, description: 'another document that `earlier` is a moment of' }),
      ),
      format: Type.Optional(Type.Union([Type.Literal('json'), Type.Literal('html')])),
    }),
    status: 200,
    answer: shape.ComparisonResult,
  }),
  history: operation({
    id: 'history',
    method: 'get',
    path: '/api/documents/:document/history',
    summary: 'Every edit, without its content',
    query: Type.Object({ after: Type.Optional(Type.Integer({ minimum: 0 })) }),
    status: 200,
    answer: shape.History,
  }),
  restore: operation({
    id: 'restore',
    method: 'post',
    path: '/api/documents/:document/restore',
    summary: 'Put the content of a version or moment on top as the next version',
    body: shape.RestoreInput,
    status: 201,
    answer: shape.Outcome,
  }),
  takeBack: operation({
    id: 'takeBack',
    method: 'post',
    path: '/api/documents/:document/take-back',
    summary: 'Undo one edit and keep what came after it',
    body: shape.TakeBackInput,
    status: 201,
    answer: shape.Outcome,
  }),
  listShares: operation({
    id: 'listShares',
    method: 'get',
    path: '/api/documents/:document/shares',
    summary: 'Who may do what',
    status: 200,
    answer: Type.Array(shape.Share),
  }),
  setShare: operation({
    id: 'setShare',
    method: 'put',
    path: '/api/documents/:document/shares/:person',
    summary: 'Give somebody a role',
    body: shape.ShareInput,
    status: 200,
    answer: shape.Share,
  }),
  endShare: operation({
    id: 'endShare',
    method: 'delete',
    path: '/api/documents/:document/shares/:person',
    summary: 'End a share',
    status: 204,
    answer: null,
  }),
  storeImage: operation({
    id: 'storeImage',
    method: 'post',
    path: '/api/documents/:document/images',
    summary: 'Store an image (PNG, JPEG, GIF, WebP)',
    form: Type.Object({}),
    status: 201,
    answer: shape.StoredImage,
  }),
  getImage: operation({
    id: 'getImage',
    method: 'get',
    path: '/api/documents/:document/images/:hash',
    summary: 'The bytes of an image of this document',
    status: 200,
    answer: null,
  }),
  health: operation({
    id: 'health',
    method: 'get',
    path: '/api/health',
    summary: 'Ready or not, and why',
    status: 200,
    answer: shape.Health,
    open: true,
  }),
  describe: operation({
    id: 'describe',
    method: 'get',
    path: '/api/openapi.json',
    summary: 'This description',
    status: 200,
    answer: Type.Unknown(),
    open: true,
  }),
} satisfies Record<string, Operation>;

export type Operations = typeof operations;
