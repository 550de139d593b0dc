import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { eachSegment, isWord } from '../content/index.js';

/** Words an edit began and words it ended. */
export interface Tally {
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/** Units to either side of a stretch that are read to tell where its words begin. */
const REACH = 64;
const ELSE = '\ufffc';

/**
 * Counts the words that a step puts in and takes out, words being what `countWords` counts. A word belongs to the edit that
 * wrote its first letter, so figures of single edits add up over any stretch of them: typing "tide" letter by letter is one
 * word, whoever finishes it.
 */
export function tallyStep(before: Node, after: Node, step: Step): Tally {
  let [wordsIn, wordsOut] = [0, 0];
  step.getMap().forEach((oldStart, oldEnd, newStart, newEnd) => {
    wordsOut += wordsBegun(before, oldStart, oldEnd);
    wordsIn += wordsBegun(after, newStart, newEnd);
  });
  return { wordsIn, wordsOut };
}

function wordsBegun(doc: Node, from: number, to: number): number {
  if (to <= from) return 0;
  let count = 0;
  doc.nodesBetween(from, to, (node, position) => {
    if (!node.isTextblock) return true;
    const start = position + 1;
    count += begunWithin(node, Math.max(0, from - start), Math.min(node.content.size, to - start));
    return false;
  });
  return count;
}

/** How many words of a text block begin from one offset up to another. */
function begunWithin(block: Node, from: number, to: number): number {
  const left = Math.max(0, from - REACH);
  const text = block.textBetween(left, Math.min(block.content.size, to + REACH), '', ELSE);
  let count = 0;
  eachSegment(text, (start, end) => {
    const at = left + start;
    if (at >= from && at < to && isWord(text.slice(start, end))) count++;
  });
  return count;
}
