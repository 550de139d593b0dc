import type { Node } from 'prosemirror-model';
import { Mark } from 'prosemirror-model';
import type { BlockCut } from './cuts.js';
import { CutDifference, KeptText, nodesIn, onlyText } from './cuts.js';
import type { TextFlow } from './flow.js';
import { cutOf, flowOf, nodesOf } from './flow.js';
import type { Lexicon } from './lexicon.js';
import { PieceKind } from './pieces.js';
import type { Common } from './common-runs.js';
import { CommonRuns } from './common-runs.js';
import { Scratch } from './scratch.js';
import { commonRuns } from './sequence.js';
import { tidied, withBlanks } from './tidy.js';
import { isTypography } from './typography.js';
import type { Handle, Side, Union } from './union.js';
import { keep } from './union.js';

/** Scratch for the pieces of either side that are not blank, and their places. */
const [NUMBERS_A, PLACES_A, NUMBERS_B, PLACES_B] = [
  new Scratch(),
  new Scratch(),
  new Scratch(),
  new Scratch(),
];

/** Compares the inline content of text blocks word by word; several on one side are read as one, with breaks. */
export function compareInline(
  a: readonly Node[],
  b: readonly Node[],
  lexicon: Lexicon,
  tidy: boolean,
): Union[] {
  const [one, other] = [flowOf(a, lexicon), flowOf(b, lexicon)];
  const words = commonWords(one, other, lexicon);
  const runs = tidy ? tidied(words, one, other, lexicon) : withBlanks(words, one, other, lexicon);
  const out: Union[] = [];
  let [x, y] = [0, 0];
  for (const run of [...runs, { a: one.numbers.length, b: other.numbers.length, length: 0 }]) {
    addDifferences(one, other, lexicon, x, run.a, y, run.b, out);
    x = run.a + run.length;
    y = run.b + run.length;
    const [before, after] = [cutOf(one, run.a, x), cutOf(other, run.b, y)];
    if (before && after) keepText(before, after, out);
  }
  for (const block of [...a, ...b]) lexicon.release(block);
  return out.slice();
}

/**
 * A longest common subsequence of the pieces that are not blank, by their indices among all; with what is blank at equal
 * ends and between two neighbours, where that is equal too.
 */
export function commonWords(one: TextFlow, other: TextFlow, lexicon: Lexicon): Common[] {
  const [n, m] = [one.numbers.length, other.numbers.length];
  let [head, tail] = [0, 0];
  while (head < n && head < m && one.numbers[head] === other.numbers[head]) head++;
  const most = Math.min(n, m) - head;
  while (tail < most && one.numbers[n - 1 - tail] === other.numbers[m - 1 - tail]) tail++;
  const a = solid(one, head, n - tail, lexicon, NUMBERS_A, PLACES_A);
  const b = solid(other, head, m - tail, lexicon, NUMBERS_B, PLACES_B);
  const out = new CommonRuns();
  out.add(0, 0, head);
  for (const run of commonRuns(a.numbers, b.numbers)) {
    let [x, y] = [a.at[run.a] as number, b.at[run.b] as number];
    for (let i = 0; i < run.length; i++) {
      const [p, q] = [a.at[run.a + i] as number, b.at[run.b + i] as number];
      if (p - x === q - y && isEqual(one.numbers, x, other.numbers, y, p - x)) out.add(x, y, p - x + 1);
      else out.add(p, q, 1);
      [x, y] = [p + 1, q + 1];
    }
  }
  out.add(n - tail, m - tail, tail);
  return out.runs;
}

function isEqual(a: Int32Array, x: number, b: Int32Array, y: number, length: number): boolean {
  for (let i = 0; i < length; i++) if (a[x + i] !== b[y + i]) return false;
  return true;
}

/** Whether a sign took the place of another of its meaning, such as a curly quote that of a straight one. */
function isReshaped(one: TextFlow, a: number, other: TextFlow, b: number, lexicon: Lexicon): boolean {
  const [p, q] = [one.numbers[a] as number, other.numbers[b] as number];
  if (lexicon.kind(p) !== PieceKind.Sign || lexicon.kind(q) !== PieceKind.Sign) return false;
  return isTypography(lexicon.text(p), lexicon.text(q));
}

/** Of the pieces `from` up to `to` of a flow those that are not blank, and their indices. */
function solid(
  flow: TextFlow,
  from: number,
  to: number,
  lexicon: Lexicon,
  numberScratch: Scratch,
  placeScratch: Scratch,
): { numbers: Int32Array; at: Int32Array } {
  const [numbers, at] = [numberScratch.of(to - from), placeScratch.of(to - from)];
  let length = 0;
  for (let i = from; i < to; i++) {
    const piece = flow.numbers[i] as number;
    if (lexicon.kind(piece) >= PieceKind.Blank) continue;
    numbers[length] = piece;
    at[length++] = i;
  }
  return { numbers: numbers.subarray(0, length), at };
}

/**
 * What lies between two kept stretches: nothing, one difference, or several with the breaks between them. What the unbroken side
 * has goes with the first of them, or, when it is only a space, into the last break. A block that is new from end to end comes with its
 * break.
 */
function addDifferences(
  one: TextFlow,
  other: TextFlow,
  lexicon: Lexicon,
  a: number,
  aEnd: number,
  b: number,
  bEnd: number,
  out: Union[],
): void {
  if (a === aEnd && b === bEnd) return;
  const [before, after] = [breaksIn(one, a, aEnd, lexicon), breaksIn(other, b, bEnd, lexicon)];
  if (before.length + after.length === 0) addUnbroken(one, other, lexicon, a, aEnd, b, bEnd, out);
  else if (before.length > 0) cutAtBreaks('earlier', before, one, a, aEnd, other, b, bEnd);
  else cutAtBreaks('later', after, other, b, bEnd, one, a, aEnd);

  function cutAtBreaks(
    side: Side,
    breaks: readonly number[],
    broken: TextFlow,
    from: number,
    to: number,
    whole: TextFlow,
    start: number,
    end: number,
  ): void {
    const space = end - start === 1 && lexicon.kind(whole.numbers[start] as number) >= PieceKind.Blank;
    const part = (low: number, high: number, left: number, right: number): Union[] => {
      const parts: Union[] = [];
      if (side === 'earlier') addUnbroken(one, other, lexicon, low, high, left, right, parts);
      else addUnbroken(one, other, lexicon, left, right, low, high, parts);
      return parts;
    };
    out.push(...part(from, breaks[0] as number, start, space ? start : end));
    breaks.forEach((at, i) => {
      const next = breaks[i + 1] ?? to;
      const text = part(at + 1, next, end, end);
      const [first] = text;
      const filled = next < to && first?.kind === 'difference';
      out.push({
        kind: 'break',
        change: filled ? first.change : { id: -1 },
        side,
        shape: broken.blocks[breakNumber(broken, at, lexicon)] as Node,
        gap: space && next === to ? nodesOf(whole, start, end) : [],
        filled,
      });
      out.push(...text);
    });
  }
}

/** What differs where neither side has a break. Signs at either end that only changed their shape are changes of their own. */
function addUnbroken(
  one: TextFlow,
  other: TextFlow,
  lexicon: Lexicon,
  a: number,
  aEnd: number,
  b: number,
  bEnd: number,
  out: Union[],
): void {
  let [head, tail] = [0, 0];
  const most = Math.min(aEnd - a, bEnd - b);
  if (most > 1) {
    while (head < most && isReshaped(one, a + head, other, b + head, lexicon)) head++;
    while (tail < most - head && isReshaped(one, aEnd - 1 - tail, other, bEnd - 1 - tail, lexicon)) tail++;
  }
  const add = (fromA: number, toA: number, fromB: number, toB: number): void => {
    const [earlier, later] = [cutOf(one, fromA, toA), cutOf(other, fromB, toB)];
    if (earlier || later) out.push(new CutDifference(earlier, later));
  };
  if (head > 0) add(a, a + head, b, b + head);
  add(a + head, aEnd - tail, b + head, bEnd - tail);
  if (tail > 0) add(aEnd - tail, aEnd, bEnd - tail, bEnd);
}

const NO_BREAKS: readonly number[] = [];

function breaksIn(
  { numbers, blocks }: TextFlow,
  from: number,
  to: number,
  lexicon: Lexicon,
): readonly number[] {
  if (blocks.length === 1) return NO_BREAKS;
  const out: number[] = [];
  for (let i = from; i < to; i++) if (lexicon.kind(numbers[i] as number) === PieceKind.Break) out.push(i);
  return out;
}

/** Index of the block that begins after the break at piece `at`. */
function breakNumber(flow: TextFlow, at: number, lexicon: Lexicon): number {
  return breaksIn(flow, 0, at + 1, lexicon).length;
}

/** Text both blocks have, cut where the form on either side changes. Neighbours whose form changes alike share a change. */
function keepText(before: BlockCut, after: BlockCut, out: Union[]): void {
  const [one, other] = [onlyText(before.block), onlyText(after.block)];
  if (one && other && Mark.sameSet(one.marks, other.marks))
    return void out.push(new KeptText(other, after.from, after.to - after.from));
  const [earlier, later] = [nodesIn(before), nodesIn(after)];
  let [i, j, insideI, insideJ] = [0, 0, 0, 0];
  let last: { handle: Handle; what: string } | null = null;
  while (i < earlier.length && j < later.length) {
    const [p, q] = [earlier[i] as Node, later[j] as Node];
    const length = Math.min(p.nodeSize - insideI, q.nodeSize - insideJ);
    const [old, now] = [sub(p, insideI, length), sub(q, insideJ, length)];
    if (Mark.sameSet(old.marks, now.marks) && old.hasMarkup(now.type, now.attrs, now.marks)) {
      out.push(keep(now));
      last = null;
    } else {
      const what = formDifference(old, now);
      const handle: Handle = last?.what === what ? last.handle : { id: -1 };
      out.push({ kind: 'pair', earlier: old, later: now, form: handle, kids: [] });
      last = { handle, what };
    }
    insideI += length;
    insideJ += length;
    if (insideI === p.nodeSize) [i, insideI] = [i + 1, 0];
    if (insideJ === q.nodeSize) [j, insideJ] = [j + 1, 0];
  }
}

/** What differs in the form of two stretches of text, as a key. */
function formDifference(a: Node, b: Node): string {
  const gone = a.marks.filter((mark) => !mark.isInSet(b.marks));
  const come = b.marks.filter((mark) => !mark.isInSet(a.marks));
  return JSON.stringify([
    a.isText ? null : [a.attrs, b.attrs],
    gone.map((mark) => mark.toJSON()),
    come.map((mark) => mark.toJSON()),
  ]);
}

function sub(node: Node, from: number, length: number): Node {
  return node.isText ? node.cut(from, from + length) : node;
}
