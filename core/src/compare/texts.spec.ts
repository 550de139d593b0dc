import * as fc from 'fast-check';
import { FUZZ } from '../testing/budget.js';
import { compareTexts } from './texts.js';

describe('two texts as one', () => {
  it('give each of the two again when the pieces of the other are left out', () => {
    const words = fc.array(fc.constantFrom('mill', 'tide', ' ', ', ', 'creek'), { maxLength: 20 });
    fc.assert(
      fc.property(words, words, (a, b) => {
        const [earlier, later] = [a.join(''), b.join('')];
        const pieces = compareTexts(earlier, later);
        const without = (side: string): string =>
          pieces
            .filter((piece) => piece.side !== side)
            .map(({ text }) => text)
            .join('');
        expect([without('later'), without('earlier')]).toEqual([earlier, later]);
      }),
      { numRuns: 200 * FUZZ },
    );
  });

  it('put a word that was replaced before the one in its place', () => {
    expect(
      compareTexts('The gate is open.', 'The gate is shut.').map(({ side, text }) => [side, text]),
    ).toEqual([
      ['both', 'The gate is '],
      ['earlier', 'open'],
      ['later', 'shut'],
      ['both', '.'],
    ]);
  });
});
