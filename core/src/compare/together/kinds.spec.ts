import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { plainText, brokenIn } from '../../content/index.js';
import { applySteps, orderBatch } from '../../history/index.js';
import { FUZZ } from '../../testing/budget.js';
import { eachKind } from '../../testing/hands.js';
import { orderless } from '../../testing/orderless.js';
import { Random } from '../../testing/random.js';
import type { Hand } from '../../testing/writers.js';
import { writeHistory } from '../../testing/writers.js';
import { assembleThree, compareThree } from './three.js';
import type { Settlement } from './three.js';
import { bringTogether } from './together.js';
import { assembleTogether } from './parts.js';

/** A document, and what two people made of it, each with letters that nobody else writes. */
function branchesOf(hand: Hand, seed: number): [base: Node, ours: Node, theirs: Node] {
  const { docs } = writeHistory(new Random(seed), 16, { hand, undo: false, stale: false });
  const base = docs.at(-1) as Node;
  let letter = 0x8000;
  const branch = (salt: number): Node => {
    const random = new Random(seed + salt);
    const fresh = (count: number): string =>
      Array.from({ length: count }, () => String.fromCharCode(letter++)).join('');
    let doc = base;
    for (let acts = random.between(1, 6); acts > 0; acts--) {
      const { steps } = hand.act(random, doc, fresh, true);
      const [verdict] = orderBatch(doc, [{ steps, sources: [] }], []);
      if (verdict?.taken) doc = applySteps(doc, verdict.steps);
    }
    return doc;
  };
  return [base, branch(1), branch(2)];
}

function lettersIn(doc: Node): Set<string> {
  return new Set(plainText(doc).replace(/\s/g, ''));
}

eachKind('bringing together', (hand) => {
  it('gives the other side when one left the base alone', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const [base, ours, theirs] = branchesOf(hand, seed);
        const only = (one: Node, other: Node): unknown =>
          orderless(assembleThree(compareThree(base, one, other), () => 'base'));
        expect(only(ours, base)).toEqual(orderless(ours));
        expect(only(base, theirs)).toEqual(orderless(theirs));
        expect(compareThree(base, ours, ours).conflicts).toEqual([]);
      }),
      { numRuns: 200 * FUZZ },
    );
  });

  it('gives a valid document whatever is settled', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const [base, ours, theirs] = branchesOf(hand, seed);
        const random = new Random(seed);
        const three = compareThree(base, ours, theirs);
        const settled = three.conflicts.map(() =>
          random.pick<Settlement>(['base', 'ours', 'theirs', 'both']),
        );
        const outcome = assembleThree(three, (conflict) => settled[conflict] ?? 'base');
        outcome.check();
        expect(brokenIn(outcome, -1)).toEqual([]);
        const many = bringTogether(base, [ours, theirs, ours], { tidy: true });
        const other = assembleTogether(many, () => random.pick(['base', 'all', 0] as const));
        other.check();
        expect(brokenIn(other, -1)).toEqual([]);
      }),
      { numRuns: 200 * FUZZ },
    );
  });

  it('loses no letter of a side that is taken where both changed something', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const [base, ours, theirs] = branchesOf(hand, seed);
        const three = compareThree(base, ours, theirs);
        for (const [side, settlement] of [
          [ours, 'ours'],
          [theirs, 'theirs'],
        ] as const) {
          const outcome = lettersIn(assembleThree(three, () => settlement));
          const had = lettersIn(base);
          expect([...lettersIn(side)].filter((one) => !had.has(one) && !outcome.has(one))).toEqual([]);
        }
      }),
      { numRuns: 200 * FUZZ },
    );
  });
});
