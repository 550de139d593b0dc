import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { Mapping, StepMap } from 'prosemirror-transform';
import { textSchema as schema } from '../kinds/text/index.js';
import { FUZZ } from '../testing/budget.js';
import { HANDS, Random, writeHistory } from '../testing/index.js';
import { Crossing } from './rebase.js';
import { mapOfJSON, mapsOf } from './step-maps.js';

/** Where each letter stands; every letter is used once ever. */
function lettersOf(doc: Node): Map<string, number> {
  const out = new Map<string, number>();
  doc.descendants((node, position) => {
    for (const [i, letter] of [...(node.text ?? '')].entries()) out.set(letter, position + i);
  });
  return out;
}

describe('crossing what others did', () => {
  for (const hand of HANDS)
    it(`leads every letter from the writer’s document to where it stands in the other, whatever was done on either side, of the kind ${hand.kind.name}`, () => {
      let [stayed, letters] = [0, 0];
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const random = new Random(seed);
          const base = writeHistory(random, 10, { stale: false, hand }).docs.at(-1) as Node;
          let next = 0x8000;
          const fresh = (count: number): string =>
            String.fromCharCode(...Array.from({ length: count }, () => next++));
          const write = (edits: number): { doc: Node; steps: Step[] } => {
            const out = { doc: base, steps: [] as Step[] };
            for (let i = 0; i < edits; i++) {
              const tr = hand.act(random, out.doc, fresh, random.chance(0.5));
              out.doc = tr.doc;
              out.steps.push(...tr.steps);
            }
            return out;
          };
          const [theirs, own] = [write(random.between(0, 6)), write(random.between(1, 6))];
          const crossing = new Crossing(mapsOf(theirs.steps));
          let now = theirs.doc;
          for (const step of own.steps)
            crossing.carry(step, (carried) => {
              const after = carried.apply(now).doc;
              now = after ?? now;
              return after !== null;
            });
          const mapping = new Mapping([...crossing.mark()]);
          const there = lettersOf(now);
          for (const [letter, at] of lettersOf(own.doc)) {
            letters++;
            const found = there.get(letter);
            if (found === undefined) continue;
            stayed++;
            expect([mapping.map(at, 1), mapping.map(at + 1, -1)]).toEqual([found, found + 1]);
          }
        }),
        { numRuns: 200 * FUZZ },
      );
      expect(stayed / letters).toBeGreaterThan(0.5);
    });

  it('reads the map of a stored step off its JSON', () => {
    for (let seed = 1; seed <= 20; seed++)
      for (const { steps } of writeHistory(new Random(seed), 40).edits)
        for (const step of steps) {
          const stored = JSON.parse(JSON.stringify(step.toJSON())) as unknown;
          expect(mapOfJSON(schema, stored).toString()).toBe(step.getMap().toString());
        }
  });

  it('takes typing for one map, however many steps it was', () => {
    const typed = Array.from({ length: 300 }, (_, i) => new StepMap([5 + i, 0, 1]));
    expect(new Crossing(typed).width).toBe(1);
    expect(new Crossing([...typed, new StepMap([1, 0, 1])]).width).toBe(2);
  });
});
