import { Random, build, prose, word } from '@oxbow/core/testing';
import type { Node } from 'prosemirror-model';

const { doc, p } = build;

/**
 * How much of a text is revised: a tenth of the words in one block of twenty, a word in every block, two words of five, or
 * all of it.
 */
export type Level = 'light' | 'scattered' | 'medium' | 'total';
export const LEVELS: readonly Level[] = ['light', 'scattered', 'medium', 'total'];

/** A generated text of about that many words, and what a revision made of it, as paragraphs. */
export function revision(
  words: number,
  level: Level,
  seed = 20261125,
): { earlier: string[]; later: string[] } {
  const random = new Random(seed);
  const earlier: string[] = [];
  for (let have = 0; have < words;) {
    const text = prose(random, 5);
    have += text.split(' ').length;
    earlier.push(text);
  }
  const some = (text: string, share: number): string =>
    text
      .split(' ')
      .map((one) => (random.chance(share) ? word(random) : one))
      .join(' ');
  const one = (text: string): string => {
    const list = text.split(' ');
    list[random.between(0, list.length - 1)] = word(random);
    return list.join(' ');
  };
  const revise: Record<Level, (text: string, i: number) => string> = {
    light: (text, i) => (i % 20 === 7 ? some(text, 0.1) : text),
    scattered: (text) => one(text),
    medium: (text) => some(text, 0.4),
    total: () => prose(random, 5),
  };
  return { earlier, later: earlier.map((text, i) => revise[level](text, i)) };
}

export function page(paragraphs: readonly string[]): Node {
  return doc(...paragraphs.map((text) => p(text)));
}
