import * as fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { finished, wordCount } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { FUZZ } from '../testing/budget.js';
import { doc, p } from '../testing/build.js';
import { tallyStep } from './tally.js';

/** Words in and out of what is written into an empty page, piece by piece. */
function written(pieces: readonly string[]): { sum: number; words: number } {
  let now = doc(p(''));
  let sum = 0;
  for (const piece of pieces) {
    const tr = new Transform(now).insert(now.content.size - 1, schema.text(piece));
    const [step] = tr.steps;
    if (step) {
      const { wordsIn, wordsOut } = finished(tallyStep(now, tr.doc, step));
      sum += wordsIn - wordsOut;
    }
    now = tr.doc;
  }
  return { sum, words: wordCount(now) };
}

describe('words of an edit', () => {
  it('are the same for a text so long that it is counted in stretches', () => {
    for (const text of [
      'the half-tide gate, '.repeat(5000),
      'aZ9_-Qk'.repeat(5000),
      'x@y.zz<'.repeat(3000),
      '潮汐磨坊 '.repeat(4000),
    ])
      expect(written([text])).toEqual({ sum: wordCount(doc(p(text))), words: wordCount(doc(p(text))) });
  });

  it('are those that are counted in the document, in any script, typed at once or letter by letter', () => {
    for (const text of [
      'the half-tide gate at 3.5 m',
      '潮汐磨坊很旧',
      'Ines’s wheel, 12%',
      'שלום עולם',
      'a/b ebb — flood',
    ]) {
      expect(written([text]))
        .withContext(text)
        .toEqual({ sum: wordCount(doc(p(text))), words: wordCount(doc(p(text))) });
      const { sum, words } = written([...text]);
      expect(sum).withContext(`${text}, letter by letter`).toBe(words);
    }
  });

  it('add up over plain words, however they are cut into edits', () => {
    const word = fc.constantFrom('tide', 'mill', 'a', '潮', '12', 'Øre');
    fc.assert(
      fc.property(
        fc.array(word, { minLength: 1, maxLength: 12 }),
        fc.infiniteStream(fc.integer({ min: 1, max: 5 })),
        (words, cuts) => {
          const pieces: string[] = [];
          for (let text = words.join(' '); text !== '';) {
            const length = cuts.next().value as number;
            pieces.push(text.slice(0, length));
            text = text.slice(length);
          }
          const { sum, words: counted } = written(pieces);
          expect(sum).toBe(counted);
        },
      ),
      { numRuns: 300 * FUZZ },
    );
  });
});
