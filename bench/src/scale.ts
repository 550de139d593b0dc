import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { eachSegment } from '@oxbow/core/content';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { mapsOf, orderBatch } from '@oxbow/core/history';
import type { Proposal } from '@oxbow/core/history';
import { Random, document, prose } from '@oxbow/core/testing';
import { createApp } from '@oxbow/server';
import type { App } from '@oxbow/server';
import { Slice, Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { ReplaceStep, Transform } from 'prosemirror-transform';
import { median } from './document.js';
import { shelfBytes } from './sharers.js';
import { less } from './figures.js';
import type { Figure } from './figures.js';

/** What grows with the work, and what must not grow with the whole. */
export async function benchScale(): Promise<Figure[]> {
  return [...wordsCut(), ...batchesOrdered(), ...(await manyDocuments()), await shelfBytes()];
}

/** The least time of some runs, in milliseconds: what the work takes when nothing disturbs it. */
function least(runs: number, act: () => void): number {
  let best = Infinity;
  for (let i = 0; i < runs; i++) {
    const begun = performance.now();
    act();
    best = Math.min(best, performance.now() - begun);
  }
  return best;
}

function wordsCut(): Figure[] {
  const kinds: Record<string, string> = {
    'base64url with a dot': 'aZ9_-Qk',
    'addresses in a row': 'x@y.zz<',
    'letters with marks': 'e\u0301a\u0308',
  };
  return Object.entries(kinds).map(([name, piece]) => {
    const text = (size: number): string =>
      `${piece.repeat(size / piece.length / 2)}.${piece.repeat(size / piece.length / 2)}`;
    const cut = (size: number, times: number): number => {
      const long = text(size);
      return (
        least(7, () => {
          for (let i = 0; i < times; i++) eachSegment(long, () => undefined);
        }) /
        (long.length * times)
      );
    };
    cut(1000, 500);
    const ratio = cut(1_000_000, 1) / cut(1000, 1000);
    return less(`words of ${name}: time for a letter at 1 MB against at 1 kB`, ratio, { goal: 2 });
  });
}

/** So many that no paragraph grows much longer by what is typed. */
const PLACES = 200;

function batchesOrdered(): Figure[] {
  const now = document(new Random(3), 200);
  const places: number[] = [];
  now.descendants((node, position) => {
    if (node.isText) places.push(position + 1);
  });
  const put = (at: number): Proposal => ({
    steps: [new ReplaceStep(at, at, new Slice(Fragment.from(schema.text('a')), 0, 0))],
    sources: [],
  });
  /** Letters typed in two hundred places in turn, each step on what those before it made. */
  const batch = (size: number): Proposal[] => {
    const at = places.slice(0, PLACES);
    return Array.from({ length: size }, (_, i) => {
      const turn = (i * 7) % at.length;
      const proposal = put(at[turn] ?? 1);
      for (let later = turn + 1; later < at.length; later++) at[later] = (at[later] ?? 0) + 1;
      return proposal;
    });
  };
  const between = mapsOf(batch(300).flatMap(({ steps }) => steps));
  const cases = { 'on the present document': [], 'behind 300 edits': between };
  return Object.entries(cases).map(([name, maps]) => {
    const [few, many] = [batch(400), batch(4000)];
    const tenTimes = (): void => {
      for (let i = 0; i < 10; i++) orderBatch(now, few, maps);
    };
    least(2, tenTimes);
    const ratio = (10 * least(4, () => orderBatch(now, many, maps))) / least(4, tenTimes);
    return less(`a batch of 4,000 steps against one of 400, ${name}`, ratio, { digits: 1, goal: 12 });
  });
}

/** Until what follows on writing, such as indexing, is done; milliseconds. */
const SETTLING = 6000;
const FEW = 10;
const MANY = 1000;
/** Landmarks on each shelf. */
const LANDMARKS = 10;

async function manyDocuments(): Promise<Figure[]> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-scale-'));
  const app = await createApp({ folder });
  const [few, many] = [await shelfOf(app, FEW), await shelfOf(app, MANY)];
  await pause(SETTLING);
  const time = async (act: () => Promise<unknown>): Promise<number> => {
    const times: number[] = [];
    for (let i = 0; i < 9; i++) {
      const begun = performance.now();
      await act();
      times.push(performance.now() - begun);
    }
    return median(times);
  };
  const figures: Figure[] = [];
  const compared = async (what: string, act: (shelf: typeof few) => Promise<unknown>): Promise<void> => {
    await act(few);
    const [small, large] = [await time(() => act(few)), await time(() => act(many))];
    figures.push(
      less(`${what} in ${MANY} documents against in ${FEW}`, large / small, { digits: 1, goal: 3 }),
      less(`${what} in ${MANY} documents`, large, { unit: 'ms', digits: 1, goal: 150 }),
    );
  };
  for (const words of ['tide', 'sluice gate', 'heron'])
    await compared(`find “${words}”`, async ({ person }) => app.lookingBack.findEverywhere(person, words));
  await compared('landmarks named so', async ({ person }) => app.landmarks.search(person, 'agreed'));
  await app.close();
  await rm(folder, { recursive: true, force: true });
  return figures;
}

/** Somebody with so many documents: one word in all, one in every second, one in a single one; ten have a landmark. */
async function shelfOf(app: App, count: number) {
  const person = await app.people.create({
    name: `Keeper of ${count}`,
    initials: 'K',
    colour: 0,
    email: `keeper-${count}@withy.example`,
    about: '',
    passwordHash: 'none',
  });
  const random = new Random(count);
  for (let i = 0; i < count; i++) {
    const row = await app.documents.create(person, `Document ${i} of ${count}`, null);
    const room = await app.rooms.get(row.key);
    const text = `tide ${prose(random, 4)} ${i % 2 === 0 ? 'sluice gate ' : ''}${i === 3 ? 'heron ' : ''}`;
    await room.compose(({ doc, seq }) => ({
      author: person.key,
      client: 'bench-keeper',
      base: seq,
      edits: [{ counter: 1, steps: typed(doc, text), sources: [], writtenAt: 0, cause: { kind: 'writing' } }],
    }));
    await app.chronicles.index(row.key);
    if (i % (count / LANDMARKS) === 0)
      await app.landmarks.name({ ...row, seq: 1 }, person, 1, { name: 'As agreed', note: '' });
  }
  return { person };
}

function typed(doc: Node, text: string) {
  return new Transform(doc).insert(1, schema.text(text)).steps;
}
