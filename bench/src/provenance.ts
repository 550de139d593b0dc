import { RunSequence } from '@oxbow/core/history';
import type { Step, StepMap } from 'prosemirror-transform';
import { Step as Steps } from 'prosemirror-transform';
import { textSchema } from '@oxbow/core/kinds/text';
import type { Large } from './document.js';
import { median } from './document.js';
import { less } from './figures.js';
import type { Figure } from './figures.js';

const WINDOW = 1000;

/** What provenance costs for each edit, early and late in a long log. */
export async function benchProvenance({ app, key, edits }: Large): Promise<Figure[]> {
  const rows = await app.rooms.moments.log.between(key, 0, edits);
  const maps: StepMap[][] = rows.map((row) =>
    (JSON.parse(row.steps) as object[])
      .map((step): Step => Steps.fromJSON(textSchema, step))
      .map((step) => step.getMap()),
  );
  const early: number[] = [];
  const late: number[] = [];
  for (let pass = 0; pass < 5; pass++) {
    const runs = RunSequence.starting(0, 2);
    let start = performance.now();
    for (const [i, list] of maps.entries()) {
      if (i === WINDOW || i === maps.length - WINDOW) start = performance.now();
      runs.append(i + 1, list);
      if (i === 2 * WINDOW - 1) early.push((performance.now() - start) / WINDOW);
      if (i === maps.length - 1) late.push((performance.now() - start) / WINDOW);
    }
  }
  const [one, other] = [median(early) * 1000, median(late) * 1000];
  return [
    less(`provenance for each edit at ${edits} edits / at 1,000`, other / one, {
      goal: 1.5,
      note: `${one.toFixed(1)} µs and ${other.toFixed(1)} µs`,
    }),
  ];
}
