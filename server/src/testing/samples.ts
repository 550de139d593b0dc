import { KEEP_EVERYTHING, operations } from '@oxbow/contract';
import type { Operations } from '@oxbow/contract';
import type { Caller, Reply } from './server.js';
import { PICTURE } from './worlds.js';

/** One way to ask a call. */
export interface Sample {
  readonly params?: Record<string, string>;
  readonly query?: Record<string, string | number>;
  readonly body?: object;
  readonly form?: FormData;
}
/** What a call is asked with; of another document of the reader's own, where it takes two. */
export type Asking = (own: string) => readonly Sample[];

const once: Asking = () => [{}];
/** Asks nothing that any document could change the answer to. */
export const never: Asking = () => [];
const moments = ['1', '2', '3', '@0', '@1', '@5', '@9', '@99', '77'];
const file = (name: string, text: string): FormData => {
  const form = new FormData();
  form.set('file', new Blob([text]), name);
  return form;
};

const returned = (fields: Record<string, string>): FormData => {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  for (const name of ['ada', 'ben']) form.append('file', new Blob([`The mill.\n\nBy both.`]), `${name}.md`);
  return form;
};

/** How each call of the contract is asked; a call that is not here does not compile. Those that change something come last. */
export const asked: Record<keyof Operations, Asking> = {
  signIn: never,
  signOut: never,
  demoPeople: never,
  listSessions: never,
  endOtherSessions: never,
  endSession: never,
  changePassword: never,
  health: never,
  describe: never,
  setUp: never,
  forgotten: never,
  organisation: once,
  listMembers: once,
  changeMember: () => [{ params: { person: 'jun' }, body: { disabled: true } }],
  invite: () => [{ body: { email: 'else@withy.example' } }],
  withdrawInvitation: () => [{ params: { invitation: 'none' } }],
  invitation: () => [{ params: { token: 'x'.repeat(30) } }],
  join: () => [
    {
      params: { token: 'x'.repeat(30) },
      body: { name: 'X', initials: 'X', colour: 1, password: 'quorum ladle tug' },
    },
  ],
  resetPassword: () => [{ params: { token: 'x'.repeat(30) }, body: { password: 'quorum ladle tug' } }],
  whoAmI: once,
  changeProfile: never,
  changePreferences: () => [{ body: { mail: 'none', holdBack: true, theme: 'dark', keys: false } }],
  settings: once,
  changeSettings: () => [{ body: { binDays: 9 } }],
  binDocument: once,
  listBin: once,
  putBack: once,
  deleteForGood: once,
  listPeople: once,
  listCollections: once,
  listDocuments: () => [{}, { query: { limit: 1 } }],
  getDocument: once,
  listVersions: () => [{}, { query: { limit: 2 } }, { query: { limit: 1 } }],
  pastComments: () => ['1', '2', '3', '4', '9'].map((number) => ({ params: { number } })),
  listLandmarks: once,
  getLandmark: () =>
    ['latest', 'As agreed', 'Stage 0', 'Stage 2'].map((landmark) => ({ params: { landmark } })),
  findLandmarks: () => ['', 'stage', 'agreed', 'before'].map((q) => ({ query: { q } })),
  getVersion: () => [
    ...moments.map((moment) => ({ params: { moment } })),
    ...['markdown', 'html', 'text', 'docx', 'odt'].map((format) => ({
      params: { moment: '2' },
      query: { format },
    })),
  ],
  getFiling: () => moments.map((moment) => ({ params: { moment } })),
  compare: (own) =>
    [
      ...[
        ['1', '2'],
        ['@0', '@9'],
        ['@4', '@1'],
        ['2', '3'],
        ['1', '1'],
      ].map(([earlier = '', later = '']) => ({ query: { earlier, later } })),
      { query: { earlier: '1', later: '2', format: 'html' } },
      { query: { earlier: '1', later: '1', with: own } },
    ] as Sample[],
  history: () => [{}, { query: { after: 3 } }],
  listArrivals: once,
  arrivedFile: () => [{ params: { arrival: 'none', index: '0' } }],
  likeArrived: () => [{ params: { arrival: 'none', index: '0' } }],
  fileArrived: () => [{ params: { arrival: 'none', index: '0' }, body: {} }],
  putArrivalAway: () => [{ params: { arrival: 'none' } }],
  homecoming: once,
  gatherReturned: () => [{ form: returned({ base: '1' }) }, { form: returned({ base: '@4' }) }],
  returnedFile: () => [{ form: returned({ base: '2', takes: '[]', format: 'html' }) }],
  previewTakeBack: () => [{ body: { seq: 2 } }, { body: { after: 0, upTo: 4 } }, { body: { seqs: [1, 5] } }],
  assembledFile: () => [{ body: { earlier: '1', later: '2', decisions: [], format: 'markdown' } }],
  removedPassages: () => [{}, { query: { q: 'heron' } }, { query: { q: 'tide' } }],
  whereabouts: () => [0, 3].map((moment) => ({ query: { moment: `@${moment}`, from: 1, to: 5 } })),
  passageLife: () => [0, 2, 9].map((moment) => ({ query: { moment: `@${moment}`, position: 2 } })),
  contests: once,
  findInTime: () =>
    ['heron', 'tide', 'mill', '"heron over the sluice"', 'aaa'].map((q) => ({ query: { q } })),
  findEverywhere: () => ['heron', 'tide', 'aaa', 'Draft'].map((q) => ({ query: { q } })),
  contributors: () => [{}, { query: { after: 2, upTo: 6 } }, { query: { format: 'csv' } }] as Sample[],
  ledger: once,
  edits: () => [{ query: { after: 0, upTo: 50 } }, { query: { after: 4, upTo: 6 } }],
  getLook: once,
  listWatches: once,
  listNotices: once,
  listClaims: once,
  listShares: once,
  sharing: once,
  candidates: () => [{ query: { q: 'in' } }],
  shareWith: () => [{ body: { holder: 'jun', role: 'viewer' } }],
  sendShareAgain: () => [{ params: { holder: 'jun' } }],
  endShares: once,
  listReadingLinks: once,
  makeReadingLink: () => [{ body: { shows: 'now' } }],
  endReadingLink: () => [{ params: { link: 'none' } }],
  read: () => [{ params: { token: 'x'.repeat(30) } }],
  askForDocument: () => [{ body: { message: 'Please.' } }],
  collectionSharing: () => [{ params: { collection: 'none' } }],
  collectionCandidates: () => [{ params: { collection: 'none' }, query: { q: 'in' } }],
  collectionShareWith: () => [{ params: { collection: 'none' }, body: { holder: 'jun', role: 'viewer' } }],
  collectionSetShare: () => [{ params: { collection: 'none', holder: 'jun' }, body: { role: 'viewer' } }],
  collectionSendShareAgain: () => [{ params: { collection: 'none', holder: 'jun' } }],
  collectionEndShare: () => [{ params: { collection: 'none', holder: 'jun' } }],
  collectionEndShares: () => [{ params: { collection: 'none' } }],
  documentRule: once,
  listThinnings: once,
  listErasures: once,
  listDiscards: once,
  previewDocumentRule: () => [{ body: { rule: KEEP_EVERYTHING } }],
  setDocumentRule: () => [{ body: { rule: KEEP_EVERYTHING } }],
  collectionRule: () => [{ params: { collection: 'none' } }],
  setCollectionRule: () => [{ params: { collection: 'none' }, body: { rule: KEEP_EVERYTHING } }],
  previewCollectionRule: () => [{ params: { collection: 'none' }, body: { rule: KEEP_EVERYTHING } }],
  previewErasure: () => [{ body: { find: 'heron over' } }],
  erase: () => [{ body: { preview: 'none', reason: 'Not ours to keep' } }],
  heedErasures: () => [{ body: { edits: [] } }],
  answerErasure: () => [{ params: { erasure: 'none' }, body: { agree: false } }],
  discardVersion: () => [{ params: { number: '2' } }],
  putVersionBack: () => [{ params: { number: '2' } }],
  listGroups: once,
  createGroup: () => [{ body: { name: 'Else' } }],
  changeGroup: () => [{ params: { group: 'none' }, body: { name: 'Else' } }],
  deleteGroup: () => [{ params: { group: 'none' } }],
  getImage: () => ['a'.repeat(64), PICTURE.hash].map((hash) => ({ params: { hash } })),
  writeArchive: once,
  vouch: () => [{ params: { person: 'ines' } }],
  setShare: () => [{ params: { holder: 'jun' }, body: { role: 'viewer' } }],
  endShare: () => [{ params: { holder: 'jun' } }],
  askForCheckOut: () => [{ body: { asked: true } }],
  checkOut: once,
  cancelCheckOut: once,
  checkIn: () => [{ body: {} }],
  createCollection: () => [{ body: { name: 'Own' } }],
  renameCollection: () => [{ params: { collection: 'none' }, body: { name: 'Else' } }],
  deleteCollection: () => [{ params: { collection: 'none' } }],
  createDocument: () => [{ body: { title: 'Own', kind: 'text' } }],
  importDocument: () => [{ form: file('own.md', 'The tide mill.') }],
  readArchive: () => [{ form: file('no.zip', 'no archive') }],
  post: () => [
    { body: { to: ['else@withy.example'], subject: 'S', text: 'T', later: '2', format: 'markdown' } },
  ],
  keepLook: () => [{ body: { seq: 4, upTo: 6, seen: [1] } }],
  watch: () => [{ body: {} }, { body: { position: 2 } }, { body: { position: 9999 } }],
  unwatch: () => [{ params: { watch: 'none' } }],
  readNotice: () => [{ params: { notice: 'none' } }],
  nameMoment: () => [
    { body: { seq: 0, name: 'Where I came' } },
    { body: { seq: 4, name: 'Stage 1', note: 'mine' } },
    { body: { seq: 99, name: 'Never' } },
  ],
  renameLandmark: () => [{ params: { landmark: 'Stage 1' }, body: { name: 'Stage one' } }],
  unnameMoment: () => [{ params: { landmark: 'none' } }],
  commentVersion: () => ['1', '2', '9'].map((number) => ({ params: { number }, body: { comment: 'seen' } })),
  changeDocument: () => [{ body: { title: 'The guide, again' } }],
  keepVersion: () => [{ body: { comment: 'now' } }, { body: {} }],
  copyMoment: () => [{ body: { seq: 2, title: 'A copy' } }, { body: { number: 1, title: 'Another' } }],
  assemble: () => [{ body: { earlier: '1', later: '3', decisions: [{ change: 0, take: 'earlier' }] } }],
  setAside: () => [{ body: { earlier: '1', later: '2', decisions: [], title: 'Aside' } }],
  takeBack: () => [{ body: { seq: 3 } }, { body: { after: 1, upTo: 3 } }, { body: { seq: 3 } }],
  fileVersion: () => [{ form: file('back.md', '# The mill\n\nThe tide mill and the heron.') }],
  storeImage: () => [{ form: file('no.png', 'no image') }],
  restore: () => [{ body: { number: 1 } }, { body: { seq: 5 } }, { body: { seq: 99 } }],
  putReturned: () => [{ form: returned({ base: '1', takes: '[]' }) }],
  bringHome: () => [{ body: { seq: 1, originSeq: 1, settled: [] } }],
};

/** Asks a call of the contract, about a document unless the sample says otherwise. */
export function ask(caller: Caller, id: keyof Operations, sample: Sample, document: string): Promise<Reply> {
  const { method, path } = operations[id];
  const params: Record<string, string> = { document, ...sample.params };
  const filled = path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ''));
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(sample.query ?? {})) query.set(name, String(value));
  return caller.call(
    method.toUpperCase(),
    query.size > 0 ? `${filled}?${query}` : filled,
    sample.form ?? sample.body,
  );
}
