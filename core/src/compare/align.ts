import type { Node } from 'prosemirror-model';
import { isRectangular } from '../content/index.js';
import type { Lexicon } from './lexicon.js';
import { commonRuns, uniqueAnchors } from './sequence.js';

/** A block of one side that answers to a block of the other, by index. */
export interface Pairing {
  readonly a: number;
  readonly b: number;
}

/** Below this share of common words two blocks are not the same one. */
const LIKENESS = 0.3;
/** Largest table of similarities filled at once; larger gaps are matched by equal blocks and then cut. */
const TABLE = 16_384;

/**
 * Pairs the children of two nodes, in order: equal ones that occur once on each side first, then equal ones in a longest
 * common subsequence, then similar ones by weight.
 */
export function alignBlocks(a: readonly Node[], b: readonly Node[], lexicon: Lexicon): Pairing[] {
  const numbersA = Int32Array.from(a, (node) => lexicon.block(node));
  const numbersB = Int32Array.from(b, (node) => lexicon.block(node));
  const out: Pairing[] = [];
  const gap = (aLow: number, aHigh: number, bLow: number, bHigh: number): void => {
    while (aLow < aHigh && bLow < bHigh && numbersA[aLow] === numbersB[bLow])
      out.push({ a: aLow++, b: bLow++ });
    const tail: Pairing[] = [];
    while (aLow < aHigh && bLow < bHigh && numbersA[aHigh - 1] === numbersB[bHigh - 1])
      tail.push({ a: --aHigh, b: --bHigh });
    if (aLow < aHigh && bLow < bHigh) {
      const [partA, partB] = [numbersA.subarray(aLow, aHigh), numbersB.subarray(bLow, bHigh)];
      const unique = uniqueAnchors(partA, partB);
      const anchors = unique.length > 0 ? unique : single(commonRuns(partA, partB));
      if (anchors.length === 0) out.push(...alignSimilar(a, b, aLow, aHigh, bLow, bHigh, lexicon));
      else {
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

function single(runs: readonly { a: number; b: number; length: number }[]): Pairing[] {
  return runs.flatMap((run) =>
    Array.from({ length: run.length }, (_, i) => ({ a: run.a + i, b: run.b + i })),
  );
}

function alignSimilar(
  a: readonly Node[],
  b: readonly Node[],
  aLow: number,
  aHigh: number,
  bLow: number,
  bHigh: number,
  lexicon: Lexicon,
): Pairing[] {
  const n = aHigh - aLow;
  const m = bHigh - bLow;
  if (n * m > TABLE) {
    const parts = Math.ceil(Math.sqrt((n * m) / TABLE)) + 1;
    return Array.from({ length: parts }).flatMap((_, i) => {
      const cut = (low: number, size: number, part: number): number =>
        low + Math.floor((size * part) / parts);
      return alignSimilar(
        a,
        b,
        cut(aLow, n, i),
        cut(aLow, n, i + 1),
        cut(bLow, m, i),
        cut(bLow, m, i + 1),
        lexicon,
      );
    });
  }
  const best = new Float64Array((n + 1) * (m + 1));
  const likeness = new Float64Array(n * m);
  for (let i = n - 1; i >= 0; i--) {
    for (let j = m - 1; j >= 0; j--) {
      const like = pairWeight(a[aLow + i] as Node, b[bLow + j] as Node, lexicon);
      likeness[i * m + j] = like;
      const at = i * (m + 1) + j;
      const skip = Math.max(best[at + m + 1] as number, best[at + 1] as number);
      best[at] = like > 0 ? Math.max(skip, like + (best[at + m + 2] as number)) : skip;
    }
  }
  const out: Pairing[] = [];
  for (let i = 0, j = 0; i < n && j < m;) {
    const at = i * (m + 1) + j;
    const like = likeness[i * m + j] as number;
    if (like > 0 && best[at] === like + (best[at + m + 2] as number))
      out.push({ a: aLow + i++, b: bLow + j++ });
    else if (best[at] === best[at + m + 1]) i++;
    else j++;
  }
  return out;
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
  table_header: 'table_cell',
};

/** Whether two nodes can be one node in two forms: a heading and a paragraph can, a table and a list cannot. */
function mayPair(a: Node, b: Node): boolean {
  const family = (node: Node): string => FAMILIES[node.type.name] ?? node.type.name;
  if (a.isLeaf || b.isLeaf || family(a) !== family(b)) return false;
  return a.type.name !== 'table' || sameGrid(a, b);
}

/** Whether two tables have no spans and equally many columns, so that rows can be compared cell by cell. */
function sameGrid(a: Node, b: Node): boolean {
  const plain = (table: Node): boolean => {
    let simple = isRectangular(table);
    table.descendants((node) => {
      if (node.attrs['colspan'] > 1 || node.attrs['rowspan'] > 1) simple = false;
      return node.type.name === 'table_row' || node.type.name === 'table';
    });
    return simple;
  };
  return plain(a) && plain(b) && a.firstChild?.childCount === b.firstChild?.childCount;
}
