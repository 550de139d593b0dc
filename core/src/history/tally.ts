import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Work } from '../content/index.js';
import { eachSegment, isWord } from '../content/index.js';

/** Words an edit began and words it ended. */
export interface Tally {
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/** Units to either side of a stretch that are read to tell where its words begin. */
const REACH = 64;
const ELSE = '\ufffc';

/** Units of a text whose words are counted at a time. */
const STRETCH = 1 << 13;

/**
 * Counts the words that a step puts in and takes out, words being what `countWords` counts. A word belongs to the edit that
 * wrote its first letter, so figures of single edits add up over any stretch of them: typing "tide" letter by letter is one
 * word, whoever finishes it. Rests now and then.
 */
export function* tallyStep(before: Node, after: Node, step: Step): Work<Tally> {
  const ranges: [number, number, number, number][] = [];
  step.getMap().forEach((...range) => ranges.push(range));
  let [wordsIn, wordsOut] = [0, 0];
  for (const [oldStart, oldEnd, newStart, newEnd] of ranges) {
    wordsOut += yield* wordsBegun(before, oldStart, oldEnd);
    wordsIn += yield* wordsBegun(after, newStart, newEnd);
  }
  return { wordsIn, wordsOut };
}

function* wordsBegun(doc: Node, from: number, to: number): Work<number> {
  if (to <= from) return 0;
  const stretches: [block: Node, from: number, to: number][] = [];
  const add = (block: Node, start: number): void => {
    const end = Math.min(block.content.size, to - start);
    for (let at = Math.max(0, from - start); at < end; at += STRETCH)
      stretches.push([block, at, Math.min(end, at + STRETCH)]);
  };
  // Of a document of very many blocks only those that hold the stretch are looked through.
  const $from = doc.resolve(from);
  const depth = $from.sharedDepth(to);
  const [round, begin] = [$from.node(depth), $from.start(depth)];
  if (round.isTextblock) add(round, begin);
  else
    round.nodesBetween(
      from - begin,
      to - begin,
      (node, position) => {
        if (!node.isTextblock) return true;
        add(node, position + 1);
        return false;
      },
      begin,
    );
  let count = 0;
  for (const [block, start, end] of stretches) {
    count += begunWithin(block, start, end);
    yield;
  }
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
