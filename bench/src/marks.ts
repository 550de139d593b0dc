import type { Change } from '@oxbow/core/compare';
import { commonRuns, compare, groupsOf, totalsOf } from '@oxbow/core/compare';
import { isWord, plainText, segments } from '@oxbow/core/content';
import { readFile } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { releases } from './releases.js';

/**
 * What a reader has to look at: over series of releases, read as Markdown, how many marks there are, with what is told as one counted once, and how
 * many words they mark for each that must be.
 */
export async function benchMarks(): Promise<Figure[]> {
  const pairs = await releases();
  let [marks, told, plain, words, least] = [0, 0, 0, 0, 0];
  for (const { earlier, later } of pairs) {
    const [a, b] = [read(earlier), read(later)];
    const { changes } = compare(a, b);
    marks += changes.length;
    told += changes.length - inGroups(changes);
    plain += compare(a, b, { tidy: false }).changes.length;
    const { wordsAdded, wordsRemoved } = totalsOf(changes);
    words += wordsAdded + wordsRemoved;
    least += leastOf(a, b);
  }
  const note = `${pairs.length} pairs; ${marks} marks, ${plain} without tidying`;
  return [
    less('marks to look at, groups as one / marks without tidying', told / plain, { note }),
    less('words marked / fewest that must be', words / least, { digits: 3, goal: 1.15 }),
  ];
}

function read(text: string): Node {
  return readFile('markdown', new TextEncoder().encode(text)).doc;
}

/** How many marks fewer there are to look at when each group is one. */
function inGroups(changes: readonly Change[]): number {
  return [...groupsOf(changes).values()].reduce((sum, all) => sum + all.length - 1, 0);
}

/** Fewest words that any marks of two documents can hold: all that are in no longest common subsequence. */
export function leastOf(a: Node, b: Node): number {
  const numbers = new Map<string, number>();
  const wordsOf = (node: Node): Int32Array =>
    Int32Array.from(
      segments(plainText(node)).filter(isWord),
      (one) => numbers.get(one) ?? (numbers.set(one, numbers.size), numbers.size - 1),
    );
  const [one, other] = [wordsOf(a), wordsOf(b)];
  const kept = commonRuns(one, other).reduce((sum, run) => sum + run.length, 0);
  return one.length + other.length - 2 * kept;
}
