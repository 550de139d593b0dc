import type { Flow } from './flow.js';
import { isBreak } from './flow.js';
import { isBlank, isLeafPiece } from './lexicon.js';
import type { Common } from './sequence.js';

/**
 * Makes a minimal script one that people read easily. It only ever shortens what is kept, or slides it along equal pieces,
 * so it cannot break exactness. The rules, in order:
 *
 * 1. White space beside kept words is kept when it is equal, so that a word comes or goes with one space.
 * 2. A stretch that came or went slides along equal pieces to the best edge: the start of a sentence, else of a clause,
 *    else where it leaves the space behind it.
 * 3. A kept stretch between two replacements that holds no word joins them, and so does one of up to three words when
 *    both replacements are at least twice as long: several replaced words read as one replacement, not as confetti. The
 *    end of a sentence joins only replacements of more than three words.
 */
export function tidied(words: readonly Common[], one: Flow, other: Flow): Common[] {
  return absorbed(slid(withBlanks(words, one, other), one, other), one, other);
}

/** Rule 1: `words` are matches among pieces that are not blank. */
export function withBlanks(words: readonly Common[], one: Flow, other: Flow): Common[] {
  const out: Common[] = [];
  const add = (a: number, b: number, length: number): void => {
    const last = out.at(-1);
    if (length === 0) return;
    if (last && last.a + last.length === a && last.b + last.length === b)
      out[out.length - 1] = { ...last, length: last.length + length };
    else out.push({ a, b, length });
  };
  const equal = (a: number, b: number): boolean =>
    one.numbers[a] === other.numbers[b] && isBlank(one.texts[a] ?? '');
  let [x, y] = [0, 0];
  for (const { a, b, length } of [...words, { a: one.texts.length, b: other.texts.length, length: 0 }]) {
    while (x < a && y < b && equal(x, y)) add(x++, y++, 1);
    let tail = 0;
    while (a - tail > x && b - tail > y && equal(a - tail - 1, b - tail - 1)) tail++;
    add(a - tail, b - tail, tail);
    add(a, b, length);
    [x, y] = [a + length, b + length];
  }
  return out;
}

/** Rule 2. */
function slid(runs: readonly Common[], one: Flow, other: Flow): Common[] {
  const out = [{ a: 0, b: 0, length: 0 }, ...runs.map((run) => ({ ...run }))];
  for (const [i, before] of out.entries()) {
    const after = out[i + 1] ?? { a: one.texts.length, b: other.texts.length, length: 0 };
    const [fromA, fromB] = [before.a + before.length, before.b + before.length];
    if ((fromA === after.a) === (fromB === after.b)) continue;
    const shift =
      fromA === after.a
        ? bestShift(other, fromB, after.b, before.length, after.length)
        : bestShift(one, fromA, after.a, before.length, after.length);
    before.length += shift;
    after.a += shift;
    after.b += shift;
    after.length -= shift;
  }
  return out.filter((run) => run.length > 0);
}

/** How far to slide the stretch `from` .. `to`, at most `back` to the left and `on` to the right. */
function bestShift(flow: Flow, from: number, to: number, back: number, on: number): number {
  let best = 0;
  let bestScore = edgeScore(flow, from, to);
  for (let shift = -1; -shift <= back && flow.numbers[from + shift] === flow.numbers[to + shift]; shift--) {
    const score = edgeScore(flow, from + shift, to + shift);
    if (score > bestScore) [best, bestScore] = [shift, score];
  }
  for (
    let shift = 1;
    shift <= on && flow.numbers[from + shift - 1] === flow.numbers[to + shift - 1];
    shift++
  ) {
    const score = edgeScore(flow, from + shift, to + shift);
    if (score >= bestScore) [best, bestScore] = [shift, score];
  }
  return best;
}

const SENTENCE = /^[.!?…。！？]+$/u;
const CLAUSE = /^[,;:–—)]$/u;

/** How well a stretch begins and ends where a reader would cut. */
function edgeScore(flow: Flow, from: number, to: number): number {
  return startScore(flow, from) + startScore(flow, to) + (isBlank(flow.texts[to - 1] ?? 'x') ? 1 : 0);
}

/** How good a place is to begin: 6 for the start of a block or sentence, 3 for a clause, 1 for a word. */
function startScore(flow: Flow, at: number): number {
  if (at === 0 || at === flow.texts.length) return 6;
  const before = flow.texts[at - 1] as string;
  if (isBreak(before) || before === '\n') return 6;
  if (!isBlank(before)) return 0;
  const sign = flow.texts[at - 2] ?? '';
  return SENTENCE.test(sign) ? 6 : CLAUSE.test(sign) ? 3 : 1;
}

/** Longest kept stretch, in words, that two replacements round it may swallow. */
const ISLAND = 3;

/** Rule 3. */
function absorbed(runs: readonly Common[], one: Flow, other: Flow): Common[] {
  const kept: Common[] = [];
  const countA = prefixSums(one.words);
  const countB = prefixSums(other.words);
  const gap = (before: Common | undefined, after: Common | undefined) => {
    const [a, b] = before ? [before.a + before.length, before.b + before.length] : [0, 0];
    const [p, q] = after ? [after.a, after.b] : [one.texts.length, other.texts.length];
    const words = Math.max(
      (countA[p] as number) - (countA[a] as number),
      (countB[q] as number) - (countB[b] as number),
    );
    return { replaced: p > a && q > b, words };
  };
  const swallows = (before: Common | undefined, run: Common, after: Common | undefined): boolean => {
    const [left, right] = [gap(before, run), gap(run, after)];
    if (!left.replaced || !right.replaced) return false;
    const pieces = one.texts.slice(run.a, run.a + run.length);
    if (pieces.some((piece) => isLeafPiece(piece) || isBreak(piece))) return false;
    const words = (countA[run.a + run.length] as number) - (countA[run.a] as number);
    const closes = words === 0 && pieces.some((piece) => SENTENCE.test(piece));
    if (closes) return Math.min(left.words, right.words) > ISLAND;
    return words === 0 || (words <= ISLAND && Math.min(left.words, right.words) >= 2 * words);
  };
  runs.forEach((run, i) => {
    const after = runs[i + 1];
    kept.push(run);
    for (let last = kept.at(-1); last && swallows(kept.at(-2), last, after); last = kept.at(-1)) kept.pop();
  });
  return kept;
}

function prefixSums(values: Uint8Array): Int32Array {
  const out = new Int32Array(values.length + 1);
  values.forEach((value, i) => (out[i + 1] = (out[i] as number) + value));
  return out;
}
