import * as fc from 'fast-check';
import { doc, p } from '../testing/build.js';
import { FUZZ } from '../testing/budget.js';
import { Random } from '../testing/random.js';
import { HANDS } from '../testing/hands.js';
import { writeHistory } from '../testing/writers.js';
import { readDocument, tellDocument, tellJson } from './json.js';
import { textSchema } from '../kinds/text/schema.js';
import { finished } from './work.js';

describe('JSON that is told in parts', () => {
  // The reference is the engine's own JSON (ECMA-404).
  it('is what is told in one go', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.integer({ min: 0, max: 4 }), (value, depth) => {
        expect(finished(tellJson(value, depth))).toBe(JSON.stringify(value));
      }),
      { numRuns: 300 * FUZZ },
    );
    const odd = { kept: 1, gone: undefined, at: new Date(0), list: [undefined, null, [undefined]] };
    expect(finished(tellJson(odd, 3))).toBe(JSON.stringify(odd));
  });

  it('rests at least once for each item of a long list', () => {
    const work = tellJson({ items: Array.from({ length: 50 }, (_, i) => ({ i })) }, 2);
    let rests = 0;
    while (!work.next().done) rests++;
    expect(rests).toBeGreaterThanOrEqual(50);
  });

  for (const hand of HANDS)
    it(`gives a document back as it was, of the kind ${hand.kind.name}`, () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          for (const one of writeHistory(new Random(seed), 12, { hand }).docs) {
            const json = finished(tellDocument(one));
            expect(json).toBe(JSON.stringify(one.toJSON()));
            expect(finished(readDocument(hand.kind.schema, json)).eq(one)).toBeTrue();
          }
        }),
        { numRuns: 15 * FUZZ },
      );
    });

  it('reads no document of what is none', () => {
    const broken = JSON.stringify(doc(p('x')).toJSON()).replace('paragraph', 'parable');
    expect(() => finished(readDocument(textSchema, broken))).toThrowError(RangeError);
  });
});
