import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import { blockTexts, writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import { textsWithout } from './without.js';

eachKind('a place before some edits, now, and without them', (hand) => {
  it('holds the characters that full copies of the states say, over the whole document', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 1, max: 30 }), fc.nat(4), (seed, first, more) => {
        const past = writePast(new Random(seed), 30, { hand, undo: false });
        const undone = new Set(
          Array.from({ length: more + 1 }, (_, i) => first + i).filter((seq) => seq <= 30),
        );
        const size = (past.docs.at(-1) as Node).content.size;
        const { before, now, after } = textsWithout(past.tape, undone, 0, size);
        const text = (doc: Node): string => blockTexts(doc).filter(Boolean).join('\n');
        expect(now).toBe(text(past.docs.at(-1) as Node));
        expect(before).toBe(text(past.docs[first - 1] as Node));
        const bornIn = new Map<string, number>();
        const diedIn = new Map<string, number>();
        past.docs.forEach((doc, seq) => {
          for (const sign of doc.textContent) if (!bornIn.has(sign)) bornIn.set(sign, seq);
          const here = new Set(doc.textContent);
          for (const sign of past.docs[seq - 1]?.textContent ?? '')
            if (!here.has(sign)) diedIn.set(sign, seq);
        });
        const kept = [...bornIn.keys()].filter((sign) => {
          const died = diedIn.get(sign);
          return !undone.has(bornIn.get(sign) ?? 0) && (died === undefined || undone.has(died));
        });
        expect([...after].filter((sign) => sign !== '\n').sort()).toEqual(kept.sort());
      }),
      { numRuns: 150 * FUZZ },
    );
  });
});
