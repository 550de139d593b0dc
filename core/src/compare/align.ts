import type { Node } from 'prosemirror-model';
import type { Anchor } from './anchors.js';
import { longestIncreasing, uniqueAnchors } from './anchors.js';
import type { Lexicon } from './lexicon.js';
import { commonRuns } from './sequence.js';
import { sameGrid } from './table.js';

/** Below this share of common words two blocks are not the same one. */
const LIKENESS = 0.3;
/** Share of common words from which a word that occurs once on both sides makes its blocks an anchor. */
const ANCHOR_LIKENESS = 0.5;
/** Largest table of similarities filled at once. */
const TABLE = 4096;

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
export function alignBlocks(a: readonly Node[], b: readonly Node[], outlook: Outlook): Anchor[] {
  const { lexicon } = outlook;
  const numbersA = Int32Array.from(a, (node) => lexicon.block(node));
  const numbersB = Int32Array.from(b, (node) => lexicon.block(node));
  const out: Anchor[] = [];
  const gap = (aLow: number, aHigh: number, bLow: number, bHigh: number): void => {
    while (aLow < aHigh && bLow < bHigh && numbersA[aLow] === numbersB[bLow])
      out.push({ a: aLow++, b: bLow++ });
    const tail: Anchor[] = [];
    while (aLow < aHigh && bLow < bHigh && numbersA[aHigh - 1] === numbersB[bHigh - 1])
      tail.push({ a: --aHigh, b: --bHigh });
    if (aLow < aHigh && bLow < bHigh) {
      const [partA, partB] = [numbersA.subarray(aLow, aHigh), numbersB.subarray(bLow, bHigh)];
      const unique = uniqueAnchors(partA, partB);
      const anchors = unique.length > 0 ? unique : single(commonRuns(partA, partB));
      if (anchors.length === 0) {
        const side = (
          nodes: readonly Node[],
          low: number,
          high: number,
          which: 'earlier' | 'later',
        ): Item[] =>
          Array.from({ length: high - low }, (_, i) => ({
            node: nodes[low + i] as Node,
            at: low + i,
          })).filter(({ node }) => !outlook.elsewhere(node, which));
        alignSimilar(side(a, aLow, aHigh, 'earlier'), side(b, bLow, bHigh, 'later'), lexicon, out);
      } else {
        let [x, y] = [aLow, bLow];
        for (const anchor of anchors) {
          gap(x, aLow + anchor.a, y, bLow + anchor.b);
          out.push({ a: aLow + anchor.a, b: bLow + anchor.b });
          [x, y] = [aLow + anchor.a + 1, bLow + anchor.b + 1];
        }
        gap(x, aHigh, y, bHigh);
      }
    }
    out.push(...tail.reverse());
  };
  gap(0, a.length, 0, b.length);
  return out;
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

function alignSimilar(a: readonly Item[], b: readonly Item[], lexicon: Lexicon, out: Anchor[]): void {
  if (a.length === 0 || b.length === 0) return;
  if (a.length * b.length <= TABLE) return alignByWeight(a, b, lexicon, out);
  const anchors = wordAnchors(a, b, lexicon);
  let [x, y] = [0, 0];
  for (const anchor of anchors) {
    alignSimilar(a.slice(x, anchor.a), b.slice(y, anchor.b), lexicon, out);
    out.push({ a: (a[anchor.a] as Item).at, b: (b[anchor.b] as Item).at });
    [x, y] = [anchor.a + 1, anchor.b + 1];
  }
  if (anchors.length > 0) return alignSimilar(a.slice(x), b.slice(y), lexicon, out);
  const [halfA, halfB] = [a.length >> 1, b.length >> 1];
  alignSimilar(a.slice(0, halfA), b.slice(0, halfB), lexicon, out);
  alignSimilar(a.slice(halfA), b.slice(halfB), lexicon, out);
}

/** Similar blocks that share a word which occurs in no other block of either side, as a heaviest increasing run. */
function wordAnchors(a: readonly Item[], b: readonly Item[], lexicon: Lexicon): Anchor[] {
  const homes = (items: readonly Item[]): Map<number, number> => {
    const home = new Map<number, number>();
    items.forEach(({ node }, i) => {
      let last = -1;
      for (const word of lexicon.words(node)) {
        if (word !== last) home.set(word, home.has(word) ? -1 : i);
        last = word;
      }
    });
    return home;
  };
  const other = homes(b);
  const likeness = new Map<number, Anchor & { like: number }>();
  for (const [word, i] of homes(a)) {
    const j = other.get(word) ?? -1;
    const key = i * b.length + j;
    if (i < 0 || j < 0 || likeness.has(key)) continue;
    const [one, two] = [(a[i] as Item).node, (b[j] as Item).node];
    likeness.set(key, { a: i, b: j, like: mayPair(one, two) ? lexicon.similarity(one, two) : 0 });
  }
  const pairs = [...likeness.values()]
    .filter(({ like }) => like >= ANCHOR_LIKENESS)
    .sort((x, y) => x.a - y.a || y.b - x.b);
  return longestIncreasing(pairs, ({ like }) => like);
}

function alignByWeight(a: readonly Item[], b: readonly Item[], lexicon: Lexicon, out: Anchor[]): void {
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
      out.push({ a: (a[i++] as Item).at, b: (b[j++] as Item).at });
    else if (best[at] === best[at + m + 1]) i++;
    else j++;
  }
}

function pairWeight(a: Node, b: Node, lexicon: Lexicon): number {
  if (!mayPair(a, b)) return 0;
  if (lexicon.block(a) === lexicon.block(b)) return 1.01;
  const like = lexicon.similarity(a, b);
  return like >= LIKENESS ? like + (a.type === b.type ? 0.01 : 0) : 0;
}

const FAMILIES: Record<string, string> = {
  heading: 'paragraph',
  ordered_list: 'bullet_list',
  check_list: 'bullet_list',
  check_item: 'list_item',
  table_header: 'table_cell',
};

/** Whether two nodes can be one node in two forms: a heading and a paragraph can, a table and a list cannot. */
export function mayPair(a: Node, b: Node): boolean {
  const family = (node: Node): string => FAMILIES[node.type.name] ?? node.type.name;
  if (a.isLeaf || b.isLeaf || family(a) !== family(b)) return false;
  return a.type.name !== 'table' || sameGrid(a, b);
}
