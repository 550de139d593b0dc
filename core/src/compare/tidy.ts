import type { TextFlow } from './flow.js';
import type { Lexicon } from './lexicon.js';
import { PieceKind } from './pieces.js';
import type { Common } from './common-runs.js';
import { CommonRuns } from './common-runs.js';
import { Scratch } from './scratch.js';
import { TOLD } from './thresholds.js';

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
 * 4. A sentence of which more words changed than stayed, in more than one place, is one replacement.
 */
export function tidied(words: readonly Common[], one: TextFlow, other: TextFlow, lexicon: Lexicon): Common[] {
  const runs = slid(withBlanks(words, one, other, lexicon), one, other, lexicon);
  const counted = wordsBetween(one, other, lexicon);
  return rewritten(absorbed(runs, one, other, lexicon, counted), one, other, lexicon, counted);
}

/** Rule 1: `words` are matches among pieces that are not blank. */
export function withBlanks(
  words: readonly Common[],
  one: TextFlow,
  other: TextFlow,
  lexicon: Lexicon,
): Common[] {
  const out = new CommonRuns();
  const equal = (a: number, b: number): boolean =>
    one.numbers[a] === other.numbers[b] && lexicon.kind(one.numbers[a] as number) >= PieceKind.Blank;
  let x = 0;
  let y = 0;
  const upTo = (a: number, b: number): void => {
    while (x < a && y < b && equal(x, y)) out.add(x++, y++, 1);
    let tail = 0;
    while (a - tail > x && b - tail > y && equal(a - tail - 1, b - tail - 1)) tail++;
    out.add(a - tail, b - tail, tail);
  };
  for (const { a, b, length } of words) {
    upTo(a, b);
    out.add(a, b, length);
    x = a + length;
    y = b + length;
  }
  upTo(one.numbers.length, other.numbers.length);
  return out.runs;
}

/** Rule 2. */
function slid(runs: readonly Common[], one: TextFlow, other: TextFlow, lexicon: Lexicon): Common[] {
  const out = [{ a: 0, b: 0, length: 0 }, ...runs.map((run) => ({ ...run }))];
  for (const [i, before] of out.entries()) {
    const after = out[i + 1] ?? { a: one.numbers.length, b: other.numbers.length, length: 0 };
    const [fromA, fromB] = [before.a + before.length, before.b + before.length];
    if ((fromA === after.a) === (fromB === after.b)) continue;
    const shift =
      fromA === after.a
        ? bestShift(other, fromB, after.b, before.length, after.length, lexicon)
        : bestShift(one, fromA, after.a, before.length, after.length, lexicon);
    before.length += shift;
    after.a += shift;
    after.b += shift;
    after.length -= shift;
  }
  return out.filter((run) => run.length > 0);
}

/** How far to slide the stretch `from` .. `to`, at most `back` to the left and `on` to the right. */
function bestShift(
  flow: TextFlow,
  from: number,
  to: number,
  back: number,
  on: number,
  lexicon: Lexicon,
): number {
  let best = 0;
  let bestScore = edgeScore(flow, from, to, lexicon);
  for (let shift = -1; -shift <= back && flow.numbers[from + shift] === flow.numbers[to + shift]; shift--) {
    const score = edgeScore(flow, from + shift, to + shift, lexicon);
    if (score > bestScore) [best, bestScore] = [shift, score];
  }
  for (
    let shift = 1;
    shift <= on && flow.numbers[from + shift - 1] === flow.numbers[to + shift - 1];
    shift++
  ) {
    const score = edgeScore(flow, from + shift, to + shift, lexicon);
    if (score >= bestScore) [best, bestScore] = [shift, score];
  }
  return best;
}

/** How well a stretch begins and ends where a reader would cut. */
function edgeScore(flow: TextFlow, from: number, to: number, lexicon: Lexicon): number {
  const space = lexicon.kind(flow.numbers[to - 1] as number) >= PieceKind.Blank ? 1 : 0;
  return startScore(flow, from, lexicon) + startScore(flow, to, lexicon) + space;
}

/** How good a place is to begin: 6 for the start of a block or sentence, 3 for a clause, 1 for a word. */
function startScore({ numbers }: TextFlow, at: number, lexicon: Lexicon): number {
  if (at === 0 || at === numbers.length) return 6;
  const before = lexicon.kind(numbers[at - 1] as number);
  if (before === PieceKind.Break || before === PieceKind.Line) return 6;
  if (before !== PieceKind.Blank) return 0;
  const sign = at > 1 ? lexicon.kind(numbers[at - 2] as number) : PieceKind.Word;
  return sign === PieceKind.Stop ? 6 : sign === PieceKind.Pause ? 3 : 1;
}

const [SUMS_A, SUMS_B] = [new Scratch(), new Scratch()];

/** How many words stand in a stretch of either flow. */
type WordsBetween = (of: 'one' | 'other', from: number, to: number) => number;

/** Counts words by sums that are made when first asked for: most pairs of blocks never ask. */
function wordsBetween(one: TextFlow, other: TextFlow, lexicon: Lexicon): WordsBetween {
  let sums: { one: Int32Array; other: Int32Array } | null = null;
  return (of, from, to) => {
    sums ??= { one: wordSums(one, lexicon, SUMS_A), other: wordSums(other, lexicon, SUMS_B) };
    return (sums[of][to] as number) - (sums[of][from] as number);
  };
}

/** Rule 3. */
function absorbed(
  runs: readonly Common[],
  one: TextFlow,
  other: TextFlow,
  lexicon: Lexicon,
  words: WordsBetween,
): Common[] {
  if (runs.length === 0) return [];
  const kept: Common[] = [];
  const gap = (before: Common | undefined, after: Common | undefined) => {
    const [a, b] = before ? [before.a + before.length, before.b + before.length] : [0, 0];
    const [p, q] = after ? [after.a, after.b] : [one.numbers.length, other.numbers.length];
    return { replaced: p > a && q > b, words: Math.max(words('one', a, p), words('other', b, q)) };
  };
  const swallows = (before: Common | undefined, run: Common, after: Common | undefined): boolean => {
    let held = 0;
    for (let i = run.a; i < run.a + run.length && held <= TOLD.island; i++)
      if (lexicon.kind(one.numbers[i] as number) === PieceKind.Word) held++;
    if (held > TOLD.island) return false;
    const [left, right] = [gap(before, run), gap(run, after)];
    if (!left.replaced || !right.replaced) return false;
    let closes = false;
    for (let i = run.a; i < run.a + run.length; i++) {
      const kind = lexicon.kind(one.numbers[i] as number);
      if (kind === PieceKind.Leaf || kind === PieceKind.Break) return false;
      if (kind === PieceKind.Stop) closes = true;
    }
    const least = Math.min(left.words, right.words);
    if (held === 0) return !closes || least > TOLD.island;
    return least >= 2 * held;
  };
  runs.forEach((run, i) => {
    const after = runs[i + 1];
    kept.push(run);
    for (let last = kept.at(-1); last && swallows(kept.at(-2), last, after); last = kept.at(-1)) kept.pop();
  });
  return kept;
}

/** What sentences are told apart by; what is no text counts too, so that nothing is given up across it. */
const ENDS: ReadonlySet<PieceKind> = new Set([
  PieceKind.Stop,
  PieceKind.Break,
  PieceKind.Line,
  PieceKind.Leaf,
]);

/**
 * Rule 4. Kept stretches are cut at the ends of sentences that both sides have; between two such ends, what stayed is given up
 * where more changed and it changed in more than one place.
 */
function rewritten(
  runs: Common[],
  one: TextFlow,
  other: TextFlow,
  lexicon: Lexicon,
  words: WordsBetween,
): Common[] {
  const ends = [one.numbers.length, other.numbers.length] as const;
  if (!isScattered(runs, 0, 0, ...ends)) return runs;
  const out = new CommonRuns();
  let region: Common[] = [];
  let [fromA, fromB] = [0, 0];
  const close = (toA: number, toB: number): void => {
    if (!isScattered(region, fromA, fromB, toA, toB) || !isOther(toA, toB))
      for (const { a, b, length } of region) out.add(a, b, length);
    region = [];
  };
  const isOther = (toA: number, toB: number): boolean => {
    let kept = 0;
    for (const { a, length } of region) kept += words('one', a, a + length);
    const [before, after] = [words('one', fromA, toA), words('other', fromB, toB)];
    return Math.max(before, after) > 2 * kept && Math.min(before, after) > 1;
  };
  for (const { a, b, length } of runs) {
    const first = firstEnd(one, a, a + length, lexicon) - a;
    if (first > 0) region.push({ a, b, length: first });
    if (first === length) continue;
    close(a + first, b + first);
    const last = lastEnd(one, a, a + length, lexicon) - a;
    out.add(a + first, b + first, last - first);
    [fromA, fromB] = [a + last, b + last];
    if (last < length) region.push({ a: fromA, b: fromB, length: length - last });
  }
  close(...ends);
  return out.runs;
}

/** Where the first sentence, block or line of a stretch ends; the end of the stretch when none does. */
function firstEnd({ numbers }: TextFlow, from: number, to: number, lexicon: Lexicon): number {
  while (from < to && !ENDS.has(lexicon.kind(numbers[from] as number))) from++;
  return from;
}

/** Where the text behind the last sentence, block or line that ends in a stretch begins: behind its blanks. */
function lastEnd({ numbers }: TextFlow, from: number, to: number, lexicon: Lexicon): number {
  let at = to;
  while (at > from && !ENDS.has(lexicon.kind(numbers[at - 1] as number))) at--;
  while (at < to && lexicon.kind(numbers[at] as number) === PieceKind.Blank) at++;
  return at;
}

/** Whether something changed in more than one place between kept stretches, and in one of them was replaced. */
function isScattered(
  runs: readonly Common[],
  fromA: number,
  fromB: number,
  toA: number,
  toB: number,
): boolean {
  let [places, replaced] = [0, 0];
  const changed = (a: number, b: number): void => {
    if (a > fromA || b > fromB) places++;
    if (a > fromA && b > fromB) replaced++;
  };
  for (const { a, b, length } of runs) {
    changed(a, b);
    if (places > 1 && replaced > 0) return true;
    fromA = a + length;
    fromB = b + length;
  }
  changed(toA, toB);
  return places > 1 && replaced > 0;
}

/** How many words stand before each piece of a flow, and in all of it. */
function wordSums({ numbers }: TextFlow, lexicon: Lexicon, scratch: Scratch): Int32Array {
  const out = scratch.of(numbers.length + 1);
  out[0] = 0;
  for (let i = 0; i < numbers.length; i++)
    out[i + 1] = (out[i] as number) + Number(lexicon.kind(numbers[i] as number) === PieceKind.Word);
  return out;
}
