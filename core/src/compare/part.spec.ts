import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { tokensOf } from '../content/index.js';
import { applySteps, partOf, undo } from '../history/index.js';
import type { InstanceRange, PlacedRun, Run } from '../history/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import { Random } from '../testing/random.js';
import { tokensOfEdits, writeHistory } from '../testing/writers.js';
import type { Stretch } from './changes.js';
import { standsOf } from './changes.js';
import { compare } from './compare.js';

const units = (node: Node): string =>
  tokensOf(node.content)
    .map((token) => (token.kind === 'unit' ? token.unit : ''))
    .join('');

eachKind('undoing one change of a comparison', (hand) => {
  it('takes out what it brought, puts back what it removed, and leaves every other letter', () => {
    let [done, conflicts] = [0, 0];
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, random.between(8, 24), {
          hand,
          structure: random.chance(0.5),
          undo: false,
        });
        const head = history.edits.length;
        const later = random.between(1, head);
        const earlier = random.between(0, later - 1);
        const [a, b, now] = [earlier, later, head].map((seq) => history.docs[seq] as Node) as [
          Node,
          Node,
          Node,
        ];
        const { changes } = compare(a, b);
        if (changes.length === 0) return;
        const change = random.pick(changes);
        const { runs } = history.provenance;
        const within = (moment: number, stretches: readonly Stretch[]): PlacedRun[] =>
          stretches.flatMap(({ from, to }) => runs.at(moment).between(from, to));
        const brought = within(later, standsOf(change).later).filter(({ seq }) => seq > earlier);
        const removed = within(earlier, standsOf(change).earlier).filter(
          ({ diedAt }) => diedAt > earlier && diedAt <= later,
        );
        const part = partOf({ first: earlier + 1, last: later, brought, removed }, () => false);
        const tokens = tokensOfEdits(history.edits, hand.kind);
        const outcome = undo(now, history.provenance, part, tokens);
        if (outcome.kind === 'conflict') return void conflicts++;
        const result = outcome.kind === 'steps' ? applySteps(now, outcome.steps) : now;
        result.check();
        const holds = (
          ranges: readonly InstanceRange[],
          { seq, offset }: Pick<Run, 'seq' | 'offset'>,
        ): boolean =>
          ranges.some((one) => one.seq === seq && offset >= one.offset && offset < one.offset + one.length);
        let wanted = '';
        for (const run of runs.all())
          for (let i = 0; i < run.length; i++) {
            const at = { seq: run.seq, offset: run.offset + i };
            const stands = run.diedAt === 0 ? !holds(brought, at) : holds(removed, at);
            const token = tokens(run.seq)[at.offset];
            if (stands && token?.kind === 'unit') wanted += token.unit;
          }
        expect(units(result)).toBe(wanted);
        done++;
      }),
      { numRuns: 500 * FUZZ },
    );
    expect(done).toBeGreaterThan(300 * FUZZ);
    expect(conflicts / (done + conflicts)).toBeLessThan(0.1);
  });
});
