import { eachSegment } from './segments.js';
import { isPlain } from './unicode/latin.js';

/** Whether a segment counts as a word: it holds a letter or a number. */
export function isWord(segment: string): boolean {
  return isPlain(segment.charCodeAt(0)) || /[\p{L}\p{N}]/u.test(segment);
}

/** Number of words in a text; "half-tide", "3.5" and "Ines's" are one word each. Signs of Han count each. */
export function countWords(text: string): number {
  let plain = 0;
  while (isPlain(text.charCodeAt(plain))) plain++;
  if (plain === text.length) return Math.min(1, plain);
  let words = 0;
  eachSegment(text, (from, to) => {
    if (isPlain(text.charCodeAt(from)) || isWord(text.slice(from, to))) words++;
  });
  return words;
}
