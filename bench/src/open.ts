import { setTimeout as pause } from 'node:timers/promises';
import { wordCount } from '@oxbow/core/content';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Random } from '@oxbow/core/testing';
import { Moments } from '@oxbow/server';
import { Node } from 'prosemirror-model';
import type { Large } from './document.js';
import { median } from './document.js';
import { less } from './figures.js';
import type { Figure } from './figures.js';

const SAMPLES = 40;

/** Milliseconds after a collection until what it does beside the main thread no longer delays a query. */
const SWEEPING = 5;

/** The middle one of a few runs, each when what those before it left is collected. */
async function timed(act: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < 5; i++) {
    globalThis.gc?.(true);
    await pause(SWEEPING);
    const start = performance.now();
    await act();
    times.push(performance.now() - start);
  }
  return median(times);
}

/** Opening a random moment, provenance included, against parsing that moment's stored JSON once. */
export async function benchOpen({ app, key, edits }: Large): Promise<Figure[]> {
  const random = new Random(5);
  const room = await app.rooms.get(key);
  const warm = app.rooms.moments;
  const [cold, hot]: [number[], number[]] = [[], []];
  for (let i = 0; i < SAMPLES; i++) {
    const seq = random.between(1, edits);
    const json = JSON.stringify((await warm.open(key, seq)).toJSON());
    const open = async (moments: () => Moments): Promise<number> =>
      timed(async () => {
        await moments().open(key, seq);
        room.head.provenance.runs.at(seq);
      });
    const parse = await timed(async () => Node.fromJSON(schema, JSON.parse(json)));
    cold.push((await open(() => new Moments(app.database))) / parse);
    hot.push((await open(() => warm)) / parse);
  }
  return [
    less('opening a random moment / parsing its JSON, nothing cached', median(cold), {
      goal: 2.5,
      note: `${edits} edits, ${wordCount(room.head.doc)} words, ${room.head.provenance.runs.size} runs`,
    }),
    less('the same with parsed blocks at hand', median(hot)),
  ];
}
