import { segments } from '../content/index.js';
import type { Common } from './common-runs.js';
import { commonRuns } from './sequence.js';

/** A longest common subsequence of two lists of words, as runs in order. */
export function commonStrings(a: readonly string[], b: readonly string[]): Common[] {
  const numbers = new Map<string, number>();
  const numbered = (words: readonly string[]): Int32Array =>
    Int32Array.from(words, (word) => {
      const number = numbers.get(word) ?? numbers.size;
      numbers.set(word, number);
      return number;
    });
  return commonRuns(numbered(a), numbered(b));
}

/** A piece of one text, of the other, or of both. */
export interface TextPiece {
  readonly text: string;
  readonly side: 'both' | 'earlier' | 'later';
}

/** Two plain texts as one: what both have, with what only one of them has where it stood, earlier before later. */
export function compareTexts(earlier: string, later: string): TextPiece[] {
  const [a, b] = [segments(earlier), segments(later)];
  const out: TextPiece[] = [];
  const add = (side: TextPiece['side'], words: readonly string[]): void => {
    if (words.length > 0) out.push({ side, text: words.join('') });
  };
  let [x, y] = [0, 0];
  for (const run of [...commonStrings(a, b), { a: a.length, b: b.length, length: 0 }]) {
    add('earlier', a.slice(x, run.a));
    add('later', b.slice(y, run.b));
    add('both', a.slice(run.a, run.a + run.length));
    [x, y] = [run.a + run.length, run.b + run.length];
  }
  return out;
}
