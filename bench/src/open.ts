import { textSchema as schema, wordCount } from '@oxbow/core/content';
import { Random } from '@oxbow/core/testing';
import { Moments } from '@oxbow/server';
import { Node } from 'prosemirror-model';
import type { Large } from './document.js';
import { median } from './document.js';

const SAMPLES = 60;

/** Opening a random moment, provenance included, against parsing that moment's stored JSON once. */
export async function benchOpen({ app, key, edits }: Large): Promise<string[]> {
  const random = new Random(5);
  const room = await app.documents.rooms.get(key);
  const warm = app.documents.rooms.moments;
  const [cold, hot]: [number[], number[]] = [[], []];
  for (let i = 0; i < SAMPLES; i++) {
    const seq = random.between(1, edits);
    const json = JSON.stringify((await warm.open(key, seq)).toJSON());
    const parse = median(
      Array.from({ length: 3 }, () => {
        const start = performance.now();
        Node.fromJSON(schema, JSON.parse(json));
        return performance.now() - start;
      }),
    );
    const open = async (moments: Moments): Promise<number> => {
      const start = performance.now();
      await moments.open(key, seq);
      room.head.provenance.runs.at(seq);
      return performance.now() - start;
    };
    cold.push((await open(new Moments(app.database))) / parse);
    hot.push((await open(warm)) / parse);
  }
  return [
    `document: ${edits} edits, ${wordCount(room.head.doc)} words, ${room.head.provenance.runs.size} runs`,
    `opening a random moment / parsing its JSON, nothing cached: ${median(cold).toFixed(2)} (goal at most 3)`,
    `the same with parsed blocks at hand:                        ${median(hot).toFixed(2)}`,
  ];
}
