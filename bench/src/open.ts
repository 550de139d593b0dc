import { textSchema as schema, wordCount } from '@oxbow/core/content';
import { Random } from '@oxbow/core/testing';
import { Moments } from '@oxbow/server';
import { Node } from 'prosemirror-model';
import type { Large } from './document.js';
import { median } from './document.js';

const SAMPLES = 40;

/** The middle one of a few runs, each on a collected heap. */
async function timed(act: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < 5; i++) {
    globalThis.gc?.();
    const start = performance.now();
    await act();
    times.push(performance.now() - start);
  }
  return median(times);
}

/** Opening a random moment, provenance included, against parsing that moment's stored JSON once. */
export async function benchOpen({ app, key, edits }: Large): Promise<string[]> {
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
    `document: ${edits} edits, ${wordCount(room.head.doc)} words, ${room.head.provenance.runs.size} runs`,
    `opening a random moment / parsing its JSON, nothing cached: ${median(cold).toFixed(2)} (goal at most 3)`,
    `the same with parsed blocks at hand:                        ${median(hot).toFixed(2)}`,
  ];
}
