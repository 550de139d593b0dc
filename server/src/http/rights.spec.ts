import { operations } from '@oxbow/contract';
import type { HistoryReach, Operation, Operations, Role } from '@oxbow/contract';
import { may, mayWithCollection } from '../access/policy.js';
import type { Action, CollectionAction } from '../access/policy.js';
import type { Whom } from '../access/shares.js';
import type { View } from '../access/view.js';
import { TestServer, edit, send, typing } from '../testing/server.js';
import type { Caller, Client, Reply } from '../testing/server.js';
import { ask, asked } from '../testing/samples.js';
import type { Sample } from '../testing/samples.js';

type About<Part extends string> = {
  [K in keyof Operations]: Operations[K]['path'] extends `${string}:${Part}${string}` ? K : never;
}[keyof Operations];

/**
 * What each call about a document asks for; one that is new does not compile until it is here. `anybody` may ask whatever they
 * have, `binned` is only for owners of what is in the bin.
 */
const NEEDS: Record<About<'document'>, Action | 'anybody' | 'binned'> = {
  getDocument: 'read',
  // What stands now can be read by its edit without looking back.
  getVersion: 'lookBack',
  getImage: 'read',
  listShares: 'read',
  checkOut: 'write',
  cancelCheckOut: 'share',
  checkIn: 'write',
  listVersions: 'lookBack',
  getFiling: 'lookBack',
  compare: 'lookBack',
  history: 'lookBack',
  post: 'lookBack',
  copyMoment: 'lookBack',
  setAside: 'lookBack',
  assembledFile: 'lookBack',
  homecoming: 'lookBack',
  gatherReturned: 'lookBack',
  returnedFile: 'lookBack',
  pastComments: 'lookBack',
  listLandmarks: 'lookBack',
  getLandmark: 'lookBack',
  removedPassages: 'lookBack',
  whereabouts: 'lookBack',
  passageLife: 'lookBack',
  contests: 'lookBack',
  findInTime: 'lookBack',
  contributors: 'lookBack',
  ledger: 'lookBack',
  edits: 'lookBack',
  getLook: 'lookBack',
  keepLook: 'lookBack',
  listWatches: 'lookBack',
  watch: 'lookBack',
  unwatch: 'lookBack',
  listClaims: 'lookBack',
  bringHome: 'lookBack',
  commentVersion: 'comment',
  fileVersion: 'write',
  storeImage: 'write',
  restore: 'restore',
  putReturned: 'restore',
  assemble: 'restore',
  takeBack: 'restore',
  previewTakeBack: 'restore',
  keepVersion: 'keep',
  nameMoment: 'keep',
  renameLandmark: 'keep',
  unnameMoment: 'keep',
  changeDocument: 'retitle',
  writeArchive: 'archive',
  vouch: 'share',
  askForCheckOut: 'share',
  sharing: 'share',
  candidates: 'share',
  sendShareAgain: 'share',
  shareWith: 'share',
  setShare: 'share',
  endShare: 'share',
  endShares: 'share',
  listReadingLinks: 'share',
  makeReadingLink: 'share',
  endReadingLink: 'share',
  askForDocument: 'anybody',
  documentRule: 'read',
  listThinnings: 'lookBack',
  listErasures: 'lookBack',
  setDocumentRule: 'rule',
  previewDocumentRule: 'rule',
  discardVersion: 'erase',
  putVersionBack: 'erase',
  listDiscards: 'erase',
  previewErasure: 'erase',
  erase: 'erase',
  heedErasures: 'read',
  answerErasure: 'erase',
  binDocument: 'bin',
  putBack: 'binned',
  deleteForGood: 'binned',
};

const COLLECTION_NEEDS: Record<About<'collection'>, CollectionAction> = {
  renameCollection: 'manage',
  collectionSharing: 'manage',
  collectionCandidates: 'manage',
  collectionShareWith: 'manage',
  collectionSetShare: 'manage',
  collectionSendShareAgain: 'manage',
  collectionEndShare: 'manage',
  collectionEndShares: 'manage',
  deleteCollection: 'manage',
  collectionRule: 'see',
  setCollectionRule: 'manage',
  previewCollectionRule: 'manage',
};

const ROLES: readonly Role[] = ['owner', 'editor', 'commenter', 'viewer'];
const REACHES: readonly HistoryReach[] = ['all', 'since', 'none'];
const VIAS = ['name', 'group', 'everybody', 'collection', 'collection and group'] as const;
const GONE = ['never', 'ended', 'expired', 'binned', 'out of the group', 'out of the collection'] as const;

type Via = (typeof VIAS)[number];
interface Way {
  readonly role: Role;
  readonly history: HistoryReach;
  readonly via: Via;
}

/** What became of a call: done or refused for another reason than rights, forbidden, or that there is no such thing. */
type Outcome = 'allowed' | 'forbidden' | 'absent';

/** Calls after which others would be answered otherwise: each is asked of a document of its own. */
const DISTURBING: ReadonlySet<keyof Operations> = new Set<keyof Operations>([
  'askForCheckOut',
  'binDocument',
  'setShare',
  'shareWith',
  'endShare',
  'endShares',
  'deleteCollection',
  'collectionSetShare',
  'collectionShareWith',
  'collectionEndShare',
  'collectionEndShares',
]);

describe('who may do what', () => {
  let server: TestServer;
  let tobias: Caller;
  let socket: Client;
  let crew: number;
  let titles = 0;

  beforeAll(async () => {
    server = await TestServer.start();
    tobias = await server.as('tobias');
    socket = await tobias.live();
    await server.app.groups.create({ name: 'Crew', people: ['tobias'] });
    crew = (await server.app.database.models.groups.findOne({ raw: true }))?.key ?? 0;
  });
  afterAll(async () => {
    socket.disconnect();
    await server.stop();
  });

  const whomOf = (via: Via): Whom => ({
    person: via === 'name' || via === 'collection' ? server.people.tobias.key : 0,
    groupKey: via === 'group' || via === 'collection and group' ? crew : 0,
    email: '',
  });

  /** A document of Ines’s with a landmark, which Tobias has in a way. */
  async function shared({ role, history, via }: Way): Promise<{ view: View; collection: string }> {
    const { app, people } = server;
    const isWithin = via.startsWith('collection');
    const board = isWithin ? await app.collections.create(people.ines, `Board ${titles++}`) : null;
    const view = await app.documents.create(people.ines, `Guide ${titles++}`, board?.id ?? null);
    await app.landmarks.name(view, people.ines, 0, { name: 'Stage 1' });
    const what = {
      document: board ? 0 : view.key,
      collection: board?.id ?? '',
      person: people.ines.key,
      id: view.id,
      name: view.title,
    };
    await app.sharing.set(what, whomOf(via), { role, history });
    return { view, collection: board?.id ?? '' };
  }

  /** Takes away what Tobias had. */
  async function lose(how: (typeof GONE)[number], view: View, via: Via): Promise<void> {
    const { app, people } = server;
    const { shares, groupMembers } = app.database.models;
    const what = { document: view.key, collection: '', person: people.ines.key };
    if (how === 'ended') await app.shares.end(what, whomOf(via));
    if (how === 'binned') await app.bin.put(view);
    if (how === 'expired')
      await app.database.writes.add((transaction) =>
        shares.update(
          { until: Date.now() - 1 },
          { where: { document: view.key, role: 'viewer' }, transaction },
        ),
      );
    if (how === 'out of the group')
      await app.database.writes.add((transaction) =>
        groupMembers.destroy({ where: { groupKey: crew }, transaction }),
      );
    if (how === 'out of the collection') await app.documents.change(view, people.ines, { collection: null });
    app.people.standings.stale();
  }

  function outcomeOf({ status, body }: Reply, what: string): Outcome {
    if (status === 403) return 'forbidden';
    const isAbsent =
      status === 404 && (body as { title?: string }).title?.startsWith(`There is no such ${what}`);
    expect(status).withContext(JSON.stringify(body)).toBeLessThan(500);
    return isAbsent ? 'absent' : 'allowed';
  }

  const sampleOf = (id: keyof Operations): Sample => asked[id]('none')[0] as Sample;

  function expected(id: About<'document'>, way: Way): Outcome {
    const action = NEEDS[id];
    if (action === 'anybody') return 'allowed';
    if (action === 'binned') return 'absent';
    return may(way, action) ? 'allowed' : 'forbidden';
  }

  it('names every call about a document or a collection', () => {
    const about = (part: string): string[] =>
      Object.values<Operation>(operations)
        .filter(({ path }) => path.includes(`:${part}`))
        .map(({ id }) => id)
        .sort();
    expect(Object.keys(NEEDS).sort()).toEqual(about('document'));
    expect(Object.keys(COLLECTION_NEEDS).sort()).toEqual(about('collection'));
  });

  for (const via of VIAS)
    it(`is what the policy says of each role and reach, for every call and live message, where it is had by ${via}`, async () => {
      for (const role of ROLES)
        for (const history of role === 'owner' ? (['all'] as const) : REACHES) {
          const way = { role, history, via };
          let { view } = await shared(way);
          const said = `${role}, ${history}, by ${via}`;
          for (const id of Object.keys(NEEDS) as About<'document'>[]) {
            if (id === 'askForDocument') continue;
            const reply = await ask(tobias, id, sampleOf(id), view.id);
            expect(outcomeOf(reply, 'document')).withContext(`${id}: ${said}`).toBe(expected(id, way));
            if (DISTURBING.has(id) && expected(id, way) === 'allowed') ({ view } = await shared(way));
          }
          expect((await send(socket, 'join', { document: view.id })).ok)
            .withContext(said)
            .toBe(may(way, 'read'));
          const message = {
            document: view.id,
            client: `of-tobias-${titles}`,
            base: 0,
            edits: [edit(1, typing(1, 'x'))],
          };
          expect((await send(socket, 'edits', message)).ok)
            .withContext(said)
            .toBe(may(way, 'write'));
        }
    });

  for (const how of GONE)
    it(`is nothing, and the document not there, where it was ${how}`, async () => {
      const via =
        how === 'out of the group' ? 'group' : how === 'out of the collection' ? 'collection' : 'name';
      const { view } =
        how === 'never'
          ? { view: await server.app.documents.create(server.people.ines, 'Own', null) }
          : await shared({ role: 'viewer', history: 'all', via });
      await lose(how, view, via);
      for (const id of Object.keys(NEEDS) as About<'document'>[]) {
        if (id === 'askForDocument') continue;
        const reply = await ask(tobias, id, sampleOf(id), view.id);
        expect(outcomeOf(reply, 'document')).withContext(id).toBe('absent');
      }
      for (const [event, more] of [
        ['join', {}],
        ['edits', { client: 'of-tobias', base: 0, edits: [edit(1, typing(1, 'x'))] }],
      ] as const) {
        const answer = await send(socket, event, { document: view.id, ...more });
        expect(answer.ok ? 200 : answer.problem.status)
          .withContext(event)
          .toBe(404);
      }
      if (how === 'out of the group')
        await server.app.database.writes.add((transaction) =>
          server.app.database.models.groupMembers.create(
            { groupKey: crew, person: server.people.tobias.key },
            { transaction },
          ),
        );
    });

  it('with a collection is what the policy says of each role', async () => {
    const ids = Object.keys(COLLECTION_NEEDS) as About<'collection'>[];
    for (const role of ROLES)
      for (const id of ids) {
        const { collection } = await shared({ role, history: 'all', via: 'collection' });
        const sample = sampleOf(id);
        const reply = await ask(tobias, id, { ...sample, params: { ...sample.params, collection } }, '');
        expect(outcomeOf(reply, 'collection'))
          .withContext(`${id}: ${role}`)
          .toBe(mayWithCollection(role, COLLECTION_NEEDS[id]) ? 'allowed' : 'forbidden');
      }
    for (const id of ids)
      expect(outcomeOf(await ask(tobias, id, sampleOf(id), ''), 'collection'))
        .withContext(id)
        .toBe('absent');
  });

  it('of one document gives nothing of another: its parts are not found there', async () => {
    const ines = await server.as('ines');
    const make = async (): Promise<{ id: string; link: string; landmark: string; watch: string }> => {
      const { id } = (await ines.post('/api/documents', { title: 'Guide', kind: 'text' })).body;
      const link = (await ines.post(`/api/documents/${id}/links`, { shows: 'now' })).body.id;
      const landmark = (await ines.post(`/api/documents/${id}/landmarks`, { seq: 0, name: 'Here' })).body.id;
      const watch = (await ines.post(`/api/documents/${id}/watches`, {})).body.id;
      return { id, link, landmark, watch };
    };
    const [one, other] = [await make(), await make()];
    for (const path of [`links/${other.link}`, `landmarks/${other.landmark}`, `watches/${other.watch}`])
      expect((await ines.call('DELETE', `/api/documents/${one.id}/${path}`)).status)
        .withContext(path)
        .toBe(404);
    for (const path of [`links/${other.link}`, `landmarks/${other.landmark}`, `watches/${other.watch}`])
      expect((await ines.call('DELETE', `/api/documents/${other.id}/${path}`)).status)
        .withContext(path)
        .toBe(204);
  });
});
