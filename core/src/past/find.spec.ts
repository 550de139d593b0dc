import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { finished } from '../content/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import type { Past } from '../testing/pasts.js';
import { blockTexts, writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import type { Appearance } from './find.js';
import { appearancesOf, holdsAll, presence, termsOf, together, wordsBegun } from './find.js';
import { folded, foldedWords } from './window.js';

/** Text of few letters, with spaces and signs, so that words are made, broken and made again. */
const text = (random: Random, length: number): string =>
  Array.from({ length }, () => random.pick(['a', 'b', 'A', ' ', ' ', 'é', '-', '.'])).join('');

/** How often a state holds a phrase: consecutive words of one block. */
function count(doc: Node, phrase: readonly string[]): number {
  let found = 0;
  for (const block of blockTexts(doc)) {
    const words = foldedWords(block);
    for (let i = 0; i + phrase.length <= words.length; i++)
      if (phrase.every((word, k) => words[i + k] === word)) found++;
  }
  return found;
}

/** Phrases of one to three words that some state holds, and one that none does. */
function phrases({ docs }: Past, random: Random): string[][] {
  const out: string[][] = [['nowhere']];
  for (let i = 0; i < 6; i++) {
    const words = foldedWords(random.pick(['', ...blockTexts(random.pick(docs))]));
    const start = random.between(0, Math.max(0, words.length - 1));
    const phrase = words.slice(start, start + random.between(1, 3));
    if (phrase.length > 0) out.push(phrase);
  }
  return out;
}

eachKind('finding words in time', (hand) => {
  it('gives, for every moment, as many appearances as the text then holds', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const past = writePast(random, 40, { hand, text });
        for (const phrase of phrases(past, random)) {
          const rare = random.between(0, phrase.length - 1);
          const found = finished(appearancesOf(past.tape, phrase, phrase.indexOf(phrase[rare] ?? '')));
          const standing = past.docs.map(
            (_doc, seq) => found.filter(({ came, went }) => came <= seq && (went === 0 || went > seq)).length,
          );
          expect(standing)
            .withContext(phrase.join(' '))
            .toEqual(past.docs.map((doc) => count(doc, phrase)));
          for (const { round } of found) expect(foldedWords(round().match)).toEqual(phrase);
        }
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('needs to look only at edits in which the rare word may have come about', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const past = writePast(random, 40, { hand, text });
        const chunk = (seq: number): number => Math.ceil(seq / 8);
        const begun = new Map<number, Set<string>>();
        for (let last = 0; last <= 40; last += 8)
          begun.set(chunk(last), finished(wordsBegun(past.tape, last - 8, last)));
        for (const phrase of phrases(past, random)) {
          const maybe = (seq: number): boolean => begun.get(chunk(seq))?.has(phrase[0] ?? '') ?? false;
          const told = (found: readonly Appearance[]) =>
            found.map(({ round, ...rest }) => ({ ...rest, ...round() }));
          expect(told(finished(appearancesOf(past.tape, phrase, 0, maybe)))).toEqual(
            told(finished(appearancesOf(past.tape, phrase))),
          );
        }
      }),
      { numRuns: 300 * FUZZ },
    );
  });
});

describe('words found in time', () => {
  it('tells the words round an appearance, and joins appearances into the times something was there', () => {
    const past = writePast(new Random(3), 60, {
      text: (random) => random.pick(['mill ', 'tide ', 'wheel ']),
    });
    const found = finished(appearancesOf(past.tape, ['tide']));
    expect(found.length).toBeGreaterThan(0);
    for (const { came, round } of found) {
      const { before, match, after } = round();
      const whole = blockTexts(past.docs[came] as Node).find((block) =>
        block.includes(before + match + after),
      );
      expect(whole).toBeDefined();
      const end = (whole?.indexOf(before + match + after) ?? 0) + (before + match + after).length;
      expect(after.endsWith(' ') || ' '.startsWith(whole?.charAt(end) ?? ''))
        .withContext(`whole words: ${after}`)
        .toBe(true);
    }
    expect(
      presence([
        { came: 9, went: 0 },
        { came: 1, went: 3 },
        { came: 2, went: 5 },
        { came: 5, went: 6 },
      ]),
    ).toEqual([
      [1, 6],
      [9, 0],
    ]);
  });

  it('folds case and Latin accents, and leaves other scripts as they are', () => {
    expect(folded('ÉTÉ')).toBe('ete');
    expect(folded('Straße')).toBe('straße');
    expect(folded('กำ')).toBe('กำ');
    expect(foldedWords('The tide-mill, at 3.5 m.')).toEqual(['the', 'tide-mill', 'at', '3.5', 'm']);
  });

  it('reads a query: phrases in quotes, other words each by itself', () => {
    expect(termsOf('Mill "The high  Tide" “low water” ... "open').map(({ words }) => words)).toEqual([
      ['mill'],
      ['the', 'high', 'tide'],
      ['low', 'water'],
      ['open'],
    ]);
    expect(holdsAll('At high tide, the mill', termsOf('mill "high tide"'))).toBeTrue();
    expect(holdsAll('The tide is high at the mill', termsOf('mill "high tide"'))).toBeFalse();
  });

  it('tells when all of several things were there', () => {
    expect(
      together([
        [
          [1, 5],
          [8, 0],
        ],
        [[3, 9]],
      ]),
    ).toEqual([
      [3, 5],
      [8, 9],
    ]);
    expect(together([[[1, 0]], [[4, 0]]])).toEqual([[4, 0]]);
    expect(together([[[1, 3]], [[3, 5]]])).toEqual([]);
  });
});
