import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';

/** Words an edit began and words it ended. */
export interface Tally {
  readonly wordsIn: number;
  readonly wordsOut: number;
}

const WORD_UNIT = /[\p{L}\p{N}\p{M}\ud800-\udfff]/u;
const ELSE = '\ufffc';

/**
 * Counts the words that a step puts in and takes out. A word belongs to the edit that wrote its first letter, so figures
 * of single edits add up over any stretch of them: typing "tide" letter by letter is one word, whoever finishes it.
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
  const $from = doc.resolve(from);
  const lead = $from.parentOffset > 0 && $from.parent.isTextblock ? 1 : 0;
  const text = doc.textBetween(from - lead, to, ELSE, ELSE);
  let count = 0;
  for (let i = lead; i < text.length; i++) {
    if (WORD_UNIT.test(text.charAt(i)) && (i === 0 || !WORD_UNIT.test(text.charAt(i - 1)))) count++;
  }
  return count;
}
