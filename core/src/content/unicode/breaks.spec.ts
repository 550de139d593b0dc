import * as fc from 'fast-check';
import { FUZZ } from '../../testing/budget.js';
import { graphemeBreaks, wordBreaks } from './breaks.js';
import cases from './cases.json' with { type: 'json' };
import { unitsOf } from '../units.js';
import { eachLatinEnd, isLatin } from './latin.js';

/** Each case of the published files, as text and where it is to be cut. */
const published = (list: readonly number[][][]): [text: string, ends: number[]][] =>
  list.map((pieces) => {
    const parts = pieces.map((codes) => String.fromCodePoint(...codes));
    return [parts.join(''), parts.map((_, i) => parts.slice(0, i + 1).join('').length)];
  });

describe('breaks of UAX #29', () => {
  it('cuts words as all of WordBreakTest.txt says (Unicode 15.0)', () => {
    expect(cases.word.length).toBeGreaterThan(1800);
    for (const [text, ends] of published(cases.word))
      expect(wordBreaks(text)).withContext(escape(text)).toEqual(ends);
  });

  it('cuts grapheme clusters as all of GraphemeBreakTest.txt says (Unicode 15.0)', () => {
    expect(cases.grapheme.length).toBeGreaterThan(600);
    for (const [text, ends] of published(cases.grapheme))
      expect(graphemeBreaks(text)).withContext(escape(text)).toEqual(ends);
  });

  it('cuts Latin text the fast way as by the tables', () => {
    const unit = fc.constantFrom(...'aZéø09_\'’‘.,:;-–—"“”/@()$%', 'ab', '12');
    fc.assert(
      fc.property(fc.array(unit, { maxLength: 14 }), (units) => {
        const text = units.join('');
        const cut = unitsOf(text, new Uint16Array(1));
        const ends: number[] = [];
        eachLatinEnd(cut, 0, text.length, (end) => ends.push(end));
        expect(isLatin(cut, 0, text.length)).toBe(true);
        expect(ends).toEqual(wordBreaks(text));
      }),
      { numRuns: 3000 * FUZZ },
    );
  });
});

function escape(text: string): string {
  return [...text].map((sign) => sign.codePointAt(0)?.toString(16)).join(' ');
}
