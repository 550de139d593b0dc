import type { Node } from 'prosemirror-model';
import type { Anchor } from './anchors.js';
import { longestIncreasing, uniqueAnchors } from './anchors.js';
import { equalRuns } from './in-step.js';
import { isItem, mayPair } from './kinship.js';
import type { Lexicon } from './lexicon.js';
import { commonRuns } from './sequence.js';
import { LIKENESS } from './thresholds.js';

/** Largest table of similarities filled at once. */
const TABLE = 4096;

/** Blocks that answer to each other, and whether they are known to be equal. */
export interface Paired extends Anchor {
  readonly equal: boolean;
}

/** What aligning needs to know of the two documents beyond the blocks in hand. */
export interface Outlook {
  readonly lexicon: Lexicon;
  /** Whether a block of one side stands word for word in the other document, so that it is not to be taken for another. */
  readonly elsewhere: (block: Node, side: 'earlier' | 'later') => boolean;
}

/**
 * Pairs the children of two nodes, in order: equal ones that occur once on each side first, then equal ones in a longest
 * common subsequence, then similar ones: anchored by words that occur in one block on each side, and at last by weight.
 */
export function alignBlocks(a: readonly Node[], b: readonly Node[], outlook: Outlook): Paired[] {
  const out: Paired[] = [];
  let [x, y] = [0, 0];
  for (const run of equalRuns(a, b)) {
    alignGap(a, x, run.a, b, y, run.b, outlook, out);
    for (let i = 0; i < run.length; i++) out.push({ a: run.a + i, b: run.b + i, equal: true });
    [x, y] = [run.a + run.length, run.b + run.length];
  }
  alignGap(a, x, a.length, b, y, b.length, outlook, out);
  return out;
}

/**
 * Pairs with one more for each place between two of them where one short text block is left on either side, and both are of
 * one kind: a heading, or the amount in a cell, is the same one though no word of it stayed.
 */
export function withLone(
  pairs: readonly Paired[],
  a: readonly Node[],
  b: readonly Node[],
  outlook: Outlook,
): Paired[] {
  const out: Paired[] = [];
  let [x, y] = [0, 0];
  for (const pair of [...pairs, { a: a.length, b: b.length, equal: false }]) {
    const [one, other] = [a[x], b[y]];
    if (pair.a - x === 1 && pair.b - y === 1 && one && other && isLone(one, other, outlook))
      out.push({ a: x, b: y, equal: false });
    if (pair.a < a.length || pair.b < b.length) out.push(pair);
    [x, y] = [pair.a + 1, pair.b + 1];
  }
  return out;
}

function isLone(one: Node, other: Node, outlook: Outlook): boolean {
  if (!one.isTextblock || one.type !== other.type) return false;
  if (one.content.size === 0 || other.content.size === 0) return false;
  const isLong = (block: Node): boolean => outlook.lexicon.count(block) > LIKENESS.alone;
  if (isLong(one) || isLong(other)) return false;
  return !outlook.elsewhere(one, 'earlier') && !outlook.elsewhere(other, 'later');
}

function alignGap(
  a: readonly Node[],
  aFrom: number,
  aTo: number,
  b: readonly Node[],
  bFrom: number,
  bTo: number,
  outlook: Outlook,
  out: Paired[],
): void {
  if (aFrom === aTo || bFrom === bTo) return;
  const { lexicon } = outlook;
  if (aTo - aFrom === 1 && bTo - bFrom === 1) {
    const [one, other] = [a[aFrom] as Node, b[bFrom] as Node];
    if (outlook.elsewhere(one, 'earlier') || outlook.elsewhere(other, 'later')) return;
    if (pairWeight(one, other, lexicon) > 0) out.push({ a: aFrom, b: bFrom, equal: false });
    return;
  }
  const items = (nodes: readonly Node[], low: number, high: number, side: 'earlier' | 'later'): Item[] => {
    const all = Array.from({ length: high - low }, (_, i) => ({ node: nodes[low + i] as Node, at: low + i }));
    return all.filter(({ node }) => !outlook.elsewhere(node, side));
  };
  const numbersA = Int32Array.from(a.slice(aFrom, aTo), (node) => lexicon.block(node));
  const numbersB = Int32Array.from(b.slice(bFrom, bTo), (node) => lexicon.block(node));
  const gap = (aLow: number, aHigh: number, bLow: number, bHigh: number): void => {
    const pair = (x: number, y: number): void => void out.push({ a: aFrom + x, b: bFrom + y, equal: true });
    while (aLow < aHigh && bLow < bHigh && numbersA[aLow] === numbersB[bLow]) pair(aLow++, bLow++);
    let tail = 0;
    while (
      aLow < aHigh - tail &&
      bLow < bHigh - tail &&
      numbersA[aHigh - 1 - tail] === numbersB[bHigh - 1 - tail]
    )
      tail++;
    aHigh -= tail;
    bHigh -= tail;
    if (aLow < aHigh && bLow < bHigh) {
      const [partA, partB] = [numbersA.subarray(aLow, aHigh), numbersB.subarray(bLow, bHigh)];
      const unique = uniqueAnchors(partA, partB);
      const anchors = unique.length > 0 ? unique : single(commonRuns(partA, partB));
      let [x, y] = [aLow, bLow];
      for (const anchor of anchors) {
        gap(x, aLow + anchor.a, y, bLow + anchor.b);
        pair(aLow + anchor.a, bLow + anchor.b);
        [x, y] = [aLow + anchor.a + 1, bLow + anchor.b + 1];
      }
      if (anchors.length > 0) gap(x, aHigh, y, bHigh);
      else
        alignSimilar(
          items(a, aFrom + aLow, aFrom + aHigh, 'earlier'),
          items(b, bFrom + bLow, bFrom + bHigh, 'later'),
          lexicon,
          out,
        );
    }
    for (let i = 0; i < tail; i++) pair(aHigh + i, bHigh + i);
  };
  gap(0, aTo - aFrom, 0, bTo - bFrom);
}

function single(runs: readonly { a: number; b: number; length: number }[]): Anchor[] {
  return runs.flatMap((run) =>
    Array.from({ length: run.length }, (_, i) => ({ a: run.a + i, b: run.b + i })),
  );
}

/** A block and its index among its siblings. */
interface Item {
  readonly node: Node;
  readonly at: number;
}

/** Stands for a word of several blocks. */
const SEVERAL = -1;

/** In which of some blocks each word occurs: scratch that is used again, for a map would cost more than what is asked of it. */
class Homes {
  private homes = new Int32Array(1024);

  /** By words, all of which have their numbers: one more than the index of the only block that holds it, `SEVERAL`, or 0. */
  of(items: readonly Item[], lexicon: Lexicon): Int32Array {
    if (lexicon.size > this.homes.length) this.homes = new Int32Array(2 * lexicon.size);
    const { homes } = this;
    items.forEach(({ node }, i) => {
      for (const word of lexicon.bags.words(node)) {
        const home = homes[word] as number;
        if (home !== i + 1) homes[word] = home === 0 ? i + 1 : SEVERAL;
      }
    });
    return homes;
  }

  /** Leaves no word behind. */
  clear(items: readonly Item[], lexicon: Lexicon): void {
    for (const { node } of items) for (const word of lexicon.bags.words(node)) this.homes[word] = 0;
  }
}

function alignSimilar(a: readonly Item[], b: readonly Item[], lexicon: Lexicon, out: Paired[]): void {
  if (a.length === 0 || b.length === 0) return;
  if (a.length * b.length <= TABLE) return alignByWeight(a, b, lexicon, out);
  const anchors = wordAnchors(a, b, lexicon);
  let [x, y] = [0, 0];
  for (const anchor of anchors) {
    alignSimilar(a.slice(x, anchor.a), b.slice(y, anchor.b), lexicon, out);
    out.push({ a: (a[anchor.a] as Item).at, b: (b[anchor.b] as Item).at, equal: false });
    [x, y] = [anchor.a + 1, anchor.b + 1];
  }
  if (anchors.length > 0) return alignSimilar(a.slice(x), b.slice(y), lexicon, out);
  const [halfA, halfB] = [a.length >> 1, b.length >> 1];
  alignSimilar(a.slice(0, halfA), b.slice(0, halfB), lexicon, out);
  alignSimilar(a.slice(halfA), b.slice(halfB), lexicon, out);
}

const [HOMES_A, HOMES_B] = [new Homes(), new Homes()];

/** Similar blocks that share a word which occurs in no other block of either side, as a heaviest increasing run. */
function wordAnchors(a: readonly Item[], b: readonly Item[], lexicon: Lexicon): Anchor[] {
  for (const { node } of [...a, ...b]) lexicon.bags.words(node);
  const [own, other] = [HOMES_A.of(a, lexicon), HOMES_B.of(b, lexicon)];
  const likeness = new Map<number, Anchor & { like: number }>();
  a.forEach(({ node }, i) => {
    for (const word of lexicon.bags.words(node)) {
      const j = (other[word] as number) - 1;
      const key = i * b.length + j;
      if (own[word] !== i + 1 || j < 0 || likeness.has(key)) continue;
      const two = (b[j] as Item).node;
      likeness.set(key, { a: i, b: j, like: mayPair(node, two) ? lexicon.bags.similarity(node, two) : 0 });
    }
  });
  HOMES_A.clear(a, lexicon);
  HOMES_B.clear(b, lexicon);
  const pairs = [...likeness.values()]
    .filter(({ like }) => like >= LIKENESS.anchor)
    .sort((x, y) => x.a - y.a || y.b - x.b);
  return longestIncreasing(pairs, ({ like }) => like);
}

function alignByWeight(a: readonly Item[], b: readonly Item[], lexicon: Lexicon, out: Paired[]): void {
  const [n, m] = [a.length, b.length];
  const best = new Float64Array((n + 1) * (m + 1));
  const likeness = new Float64Array(n * m);
  for (let i = n - 1; i >= 0; i--) {
    for (let j = m - 1; j >= 0; j--) {
      const like = pairWeight((a[i] as Item).node, (b[j] as Item).node, lexicon);
      likeness[i * m + j] = like;
      const at = i * (m + 1) + j;
      const skip = Math.max(best[at + m + 1] as number, best[at + 1] as number);
      best[at] = like > 0 ? Math.max(skip, like + (best[at + m + 2] as number)) : skip;
    }
  }
  for (let i = 0, j = 0; i < n && j < m;) {
    const at = i * (m + 1) + j;
    const like = likeness[i * m + j] as number;
    if (like > 0 && best[at] === like + (best[at + m + 2] as number))
      out.push({ a: (a[i++] as Item).at, b: (b[j++] as Item).at, equal: false });
    else if (best[at] === best[at + m + 1]) i++;
    else j++;
  }
}

function pairWeight(a: Node, b: Node, lexicon: Lexicon): number {
  if (!mayPair(a, b)) return 0;
  if (a.nodeSize === b.nodeSize && a.eq(b)) return 1.01;
  if (a.isLeaf) return LIKENESS.same;
  const like = Math.max(lexicon.bags.similarity(a, b), hasOneHead(a, b) ? LIKENESS.grown : 0);
  return like >= LIKENESS.same ? like + (a.type === b.type ? 0.01 : 0) : 0;
}

/** Whether two items begin with the same text, whatever stands below it: one that others were put under is the same one. */
function hasOneHead(a: Node, b: Node): boolean {
  if (a.isTextblock || a.type !== b.type || !isItem(a)) return false;
  const [one, other] = [a.firstChild, b.firstChild];
  return one !== null && other !== null && one.content.size > 0 && one.eq(other);
}
