import type { Operations } from '@oxbow/contract';
import { Random } from '@oxbow/core/testing';
import { nanoid } from 'nanoid';
import type { Signed } from '../access/people.js';
import { Caller, TestServer, edit, send, typing } from '../testing/server.js';
import type { Client } from '../testing/server.js';
import { ask, asked, never } from '../testing/samples.js';
import type { Asking, Sample } from '../testing/samples.js';
import { Worlds } from '../testing/worlds.js';
import type { World } from '../testing/worlds.js';

/** Pairs of worlds that are asked everything: ten in `npm test`, two hundred in `npm run fuzz`; and how many at once. */
const TIMES = Number(process.env['OXBOW_FUZZ'] ?? 1);
const PAIRS = TIMES === 1 ? 4 : 10 * TIMES;
const TOGETHER = 4;
const SEED = TIMES === 1 ? 20261129 : Date.now() % 1_000_000;

/** Where two answers part, with what stands around it; empty for the same. */
function difference(one: string, other = 'nothing'): string {
  if (one === other) return '';
  let at = 0;
  while (one[at] === other[at]) at++;
  const around = (text: string): string => text.slice(Math.max(0, at - 60), at + 120);
  return `${around(one)} <> ${around(other)}`;
}

/** Somebody to whom two worlds must look the same: one reader in each. */
interface Reader {
  readonly person: Signed;
  readonly caller: Caller;
  readonly world: World;
  /** A document of the reader's own. */
  readonly own: string;
}

describe('whoever has a document from a day on', () => {
  let server: TestServer;
  let began: number;
  let readers = 1;

  beforeAll(async () => {
    server = await TestServer.start();
    began = Date.now();
  });
  afterAll(() => server.stop());

  /** What is told, but for the names of things and for the time at which it is told. */
  const plain = (text: string, { world, person, own }: Reader): string =>
    text
      .replaceAll(world.id, 'DOCUMENT')
      .replaceAll(own, 'OWN')
      .replaceAll(person.id, 'READER')
      .replaceAll(/"(id|document)":"[\w-]{10,12}"/g, '"$1":"#"')
      .replaceAll(/"client":"[\w-]+"/g, '"client":"#"')
      .replaceAll(/reader-[\w-]+@/g, 'reader@')
      // Where the shelf goes on is told by the database's own number of a document.
      .replaceAll(/("checkOut":[^\]]*\]),"next":"[\w-]+"/g, '$1,"next":"#"')
      .replaceAll(/\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{3})?Z/g, (at) =>
        Date.parse(at) >= began - 1000 ? 'NOW' : at,
      )
      .replaceAll(/\b1[78]\d{11}\b/g, (at) => (Number(at) >= began - 1000 ? 'NOW' : at));

  async function answer(id: keyof Operations, sample: Sample, reader: Reader): Promise<string> {
    const reply = await ask(reader.caller, id, sample, reader.world.id);
    const body = typeof reply.body === 'string' ? reply.body : JSON.stringify(reply.body);
    return plain(`${reply.status} ${body}`, reader);
  }

  async function readerOf(before: number, since: number): Promise<Reader> {
    const { app } = server;
    const person = await app.people.create({
      id: `reader-${nanoid(8)}`,
      name: 'Reader',
      initials: 'RE',
      colour: 5,
      email: `reader-${nanoid(8)}@withy.example`,
      about: '',
      passwordHash: 'none',
    });
    const worlds = new Worlds(app, [server.people.ines, server.people.jun]);
    const world = await worlds.make(person, before, since);
    const own = await app.documents.create(person, 'My own', null);
    const token = await app.people.sessions.begin(person.key, 'test');
    // Attempts are counted by address, whoever makes them: each reader has one of their own.
    const address = `10.${(readers >> 16) & 255}.${(readers >> 8) & 255}.${readers & 255}`;
    readers++;
    const caller = new Caller(server.port, `oxbow_session=${token}`, address);
    return { person, caller, world, own: own.id };
  }

  /** Everything that one reader is told, call by call. */
  async function everything(reader: Reader): Promise<Map<string, string>> {
    const told = new Map<string, string>();
    for (const [id, asking] of Object.entries(asked) as [keyof Operations, Asking][])
      for (const [i, sample] of asking(reader.own).entries())
        told.set(
          `${id} ${i} ${JSON.stringify(sample)}`.replaceAll(reader.own, 'OWN'),
          await answer(id, sample, reader),
        );
    return told;
  }

  // Non-interference after Goguen and Meseguer (1982): what may not be known makes no difference to any answer.
  it('is told the same, whatever was before', async () => {
    const random = new Random(SEED);
    for (let pair = 0; pair < PAIRS; pair += TOGETHER)
      await Promise.all(
        Array.from({ length: Math.min(TOGETHER, PAIRS - pair) }, async () => {
          const [since, one, other] = [0, 1, 2].map(() => random.between(1, 1_000_000)) as [
            number,
            number,
            number,
          ];
          const [a, b] = await Promise.all([readerOf(one, since), readerOf(other, since)]);
          const [left, right] = await Promise.all([everything(a), everything(b)]);
          for (const [call, told] of left)
            expect(difference(told, right.get(call)))
              .withContext(`${call} of worlds ${one}, ${other} since ${since}`)
              .toBe('');
        }),
      );
  });

  it('is told enough to be asked about: of every kind of answer some are no refusals', async () => {
    const reader = await readerOf(7, 8);
    const told = await everything(reader);
    const refused = new Set([
      'arrivedFile',
      'likeArrived',
      'fileArrived',
      'putArrivalAway',
      'homecoming',
      'getFiling',
      'getImage',
      'writeArchive',
      'vouch',
      'setShare',
      'endShare',
      'askForCheckOut',
      'checkOut',
      'cancelCheckOut',
      'checkIn',
      'renameCollection',
      'readArchive',
      'unwatch',
      'readNotice',
      'renameLandmark',
      'unnameMoment',
      'storeImage',
      'bringHome',
      'listMembers',
      'changeMember',
      'invite',
      'withdrawInvitation',
      'invitation',
      'join',
      'resetPassword',
      'sharing',
      'candidates',
      'shareWith',
      'sendShareAgain',
      'endShares',
      'changeSettings',
      'listDiscards',
      'discardVersion',
      'putVersionBack',
      'previewDocumentRule',
      'setDocumentRule',
      'collectionRule',
      'setCollectionRule',
      'previewCollectionRule',
      'previewErasure',
      'erase',
      'answerErasure',
      'binDocument',
      'putBack',
      'deleteForGood',
      'listReadingLinks',
      'makeReadingLink',
      'endReadingLink',
      'read',
      'collectionSharing',
      'collectionCandidates',
      'collectionShareWith',
      'collectionSetShare',
      'collectionSendShareAgain',
      'collectionEndShare',
      'collectionEndShares',
      'deleteCollection',
      'listGroups',
      'createGroup',
      'changeGroup',
      'deleteGroup',
    ]);
    for (const [id, asking] of Object.entries(asked)) {
      if (asking === never) continue;
      const isGood = [...told].some(([call, text]) => call.startsWith(`${id} `) && text.startsWith('2'));
      expect(isGood).withContext(id).toBe(!refused.has(id));
    }
  });

  it('hears the same on the live channel', async () => {
    for (let pair = 0; pair < 2 * TIMES; pair++) {
      const since = 100 + pair;
      const readers = await Promise.all([readerOf(10 + pair, since), readerOf(900 + pair, since)]);
      const heard = await Promise.all(readers.map((reader) => listened(reader)));
      const [left = [], right = []] = heard;
      expect(left.length).toBeGreaterThan(5);
      for (const [i, message] of left.entries())
        expect(difference(message, right[i])).withContext(`message ${i} of pair ${pair}`).toBe('');
      expect(right.length).toBe(left.length);
    }
  });

  /** What a reader hears while they and others write. */
  async function listened(reader: Reader): Promise<string[]> {
    const out: string[] = [];
    const own = await reader.caller.live();
    const ines = await (await server.as('ines')).live();
    const document = reader.world.id;
    const note = (event: string, message: unknown): void =>
      void out.push(plain(`${event} ${JSON.stringify(message)}`, reader));
    for (const event of ['edits', 'presence', 'left', 'version', 'landmarks', 'revoked'] as const)
      own.on(event, (message: unknown) => note(event, message));
    note('joined', await send(own, 'join', { document }));
    note('back', await send(own, 'join', { document, since: 2 }));
    note('too far', await send(own, 'join', { document, since: 5000 }));
    const joined = await send<{ seq: number }>(ines, 'join', { document });
    if (!joined.ok) throw new Error('ines cannot join');
    const base = joined.value.seq;
    const write = (socket: Client, client: string, from: number, message: object): Promise<unknown> =>
      send(socket, 'edits', { document, client, base: from, edits: [message] });
    await write(ines, 'client-of-ines', base, edit(1, typing(2, 'by the owner ')));
    const told = base - reader.world.first;
    note('own', await write(own, 'client-of-reader', told, edit(1, typing(2, 'by the reader '))));
    note(
      'old',
      await write(own, 'client-of-reader', 0, {
        ...edit(2, typing(2, 'l')),
        sources: [{ step: 0, at: 0, length: 1, seq: 0, offset: 2 }],
      }),
    );
    note(
      'guess',
      await write(own, 'client-of-reader', told, {
        ...edit(3, typing(2, 'heron')),
        sources: [{ step: 0, at: 0, length: 5, seq: 1, offset: 0 }],
      }),
    );
    note('future', await write(own, 'client-of-reader', 5000, edit(4, typing(2, 'x'))));
    ines.emit('presence', { document, client: 'client-of-ines', seq: base, anchor: 2, head: 4 });
    ines.emit('presence', { document, client: 'client-of-ines', seq: 1, anchor: 2, head: 4 });
    await (await server.as('ines')).post(`/api/documents/${document}/versions`, { comment: 'heard' });
    await (
      await server.as('ines')
    ).post(`/api/documents/${document}/landmarks`, { seq: 1, name: `Of old ${nanoid(4)}` });
    note('last', await send(own, 'join', { document, since: 1 }));
    ines.disconnect();
    await new Promise((resolve) => setTimeout(resolve, 100));
    own.disconnect();
    return out;
  }
});
