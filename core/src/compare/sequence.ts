import { uniqueAnchors } from './anchors.js';
import { Rows } from './bits.js';
import type { Common } from './common-runs.js';
import { CommonRuns } from './common-runs.js';
import { solveGreedy } from './greedy.js';
import { solvePairs } from './pairs.js';

/** Largest area of a gap that is filled as a table. */
const TABLE = 2048;
/** Work, in words of a bit-parallel row, up to which a gap is solved exactly; more for longer sequences. */
const PATIENCE = 1 << 19;
const PATIENCE_EACH = 16;
/** How often unique items may cut a gap before it is halved instead. */
const DEPTH = 12;

/**
 * A longest common subsequence of two integer sequences, as runs in order. Exact while a row of the search costs at most
 * 524,288 + 16 (n + m) words of bits, which holds for prose of 8,000 words; beyond that, items that occur once on both
 * sides are taken as anchors and what they leave is solved in turn, so that no input is quadratic.
 * Two sequences that differ in few items are walked greedily (see `solveGreedy`), and two with few matching pairs are
 * solved by those (see `solvePairs`).
 * Sources: D. S. Hirschberg, "A linear space algorithm for computing maximal common subsequences", CACM 18 (1975); rows
 * of bits after M. Crochemore et al., "A fast and practical bit-vector algorithm for the longest common subsequence
 * problem", Information Processing Letters 80 (2001), and H. Hyyrö, "Bit-parallel LCS-length computation revisited" (2004).
 */
export function commonRuns(a: Int32Array, b: Int32Array): Common[] {
  const out = new CommonRuns();
  const add: Add = (x, y, length) => out.add(x, y, length);
  trimmed(a, b, 0, a.length, 0, b.length, add, (aLow, aHigh, bLow, bHigh) => {
    const [n, m] = [aHigh - aLow, bHigh - bLow];
    if (solveGreedy(a, b, aLow, aHigh, bLow, bHigh, (x, y) => add(x, y, 1))) return;
    if (solvePairs(a, b, aLow, aHigh, bLow, bHigh, (x, y) => add(x, y, 1))) return;
    if (n * m <= TABLE) return solveTable(a, b, aLow, aHigh, bLow, bHigh, add);
    const shared = sharedItems(a.subarray(aLow, aHigh), b.subarray(bLow, bHigh));
    const search = new Search(shared.a, shared.b, shared.symbols, (x, y) =>
      add(aLow + (shared.atA[x] as number), bLow + (shared.atB[y] as number), 1),
    );
    search.between(0, shared.a.length, 0, shared.b.length, 0);
  });
  return out.runs;
}

type Add = (a: number, b: number, length: number) => void;

/** Reports equal ends, and hands on what lies between them when both sides have something there. */
function trimmed(
  a: Int32Array,
  b: Int32Array,
  aLow: number,
  aHigh: number,
  bLow: number,
  bHigh: number,
  add: Add,
  inside: (aLow: number, aHigh: number, bLow: number, bHigh: number) => void,
): void {
  let head = 0;
  while (aLow + head < aHigh && bLow + head < bHigh && a[aLow + head] === b[bLow + head]) head++;
  add(aLow, bLow, head);
  [aLow, bLow] = [aLow + head, bLow + head];
  let tail = 0;
  while (aHigh - tail > aLow && bHigh - tail > bLow && a[aHigh - 1 - tail] === b[bHigh - 1 - tail]) tail++;
  if (aHigh - tail > aLow && bHigh - tail > bLow) inside(aLow, aHigh - tail, bLow, bHigh - tail);
  add(aHigh - tail, bHigh - tail, tail);
}

/** Both sequences without the items that only one of them has, which no common subsequence can hold; symbols from 0. */
function sharedItems(a: Int32Array, b: Int32Array) {
  const numbers = new Map<number, number>();
  for (const item of a) numbers.set(item, -1);
  const atB: number[] = [];
  const inB: number[] = [];
  let symbols = 0;
  b.forEach((item, i) => {
    let number = numbers.get(item);
    if (number === undefined) return;
    if (number === -1) numbers.set(item, (number = symbols++));
    atB.push(i);
    inB.push(number);
  });
  const atA: number[] = [];
  const inA: number[] = [];
  a.forEach((item, i) => {
    const number = numbers.get(item) as number;
    if (number === -1) return;
    atA.push(i);
    inA.push(number);
  });
  return { a: Int32Array.from(inA), b: Int32Array.from(inB), atA, atB, symbols };
}

const table = new Uint16Array(TABLE + 2 * TABLE + 2);

/** A longest common subsequence by the table of its lengths. */
function solveTable(
  a: Int32Array,
  b: Int32Array,
  aLow: number,
  aHigh: number,
  bLow: number,
  bHigh: number,
  add: Add,
): void {
  const [n, m] = [aHigh - aLow, bHigh - bLow];
  const width = m + 1;
  table.fill(0, n * width, (n + 1) * width);
  for (let i = n - 1; i >= 0; i--) {
    table[i * width + m] = 0;
    for (let j = m - 1; j >= 0; j--) {
      const at = i * width + j;
      table[at] =
        a[aLow + i] === b[bLow + j]
          ? (table[at + width + 1] as number) + 1
          : Math.max(table[at + width] as number, table[at + 1] as number);
    }
  }
  for (let i = 0, j = 0; i < n && j < m;) {
    const at = i * width + j;
    if (a[aLow + i] === b[bLow + j]) add(aLow + i++, bLow + j++, 1);
    else if ((table[at + width] as number) >= (table[at + 1] as number)) i++;
    else j++;
  }
}

class Search {
  private readonly rows: Rows;
  private readonly add: Add = (x, y, length) => {
    for (let i = 0; i < length; i++) this.found(x + i, y + i);
  };

  constructor(
    private readonly a: Int32Array,
    private readonly b: Int32Array,
    symbols: number,
    private readonly found: (a: number, b: number) => void,
  ) {
    this.rows = new Rows(a, b, symbols);
  }

  between(aFrom: number, aTo: number, bFrom: number, bTo: number, depth: number): void {
    const { a, b, add } = this;
    trimmed(a, b, aFrom, aTo, bFrom, bTo, add, (aLow, aHigh, bLow, bHigh) => {
      if ((aHigh - aLow) * (bHigh - bLow) <= TABLE) solveTable(a, b, aLow, aHigh, bLow, bHigh, add);
      else if (this.affordable(aLow, aHigh, bLow, bHigh)) this.exact(aLow, aHigh, bLow, bHigh);
      else this.anchored(aLow, aHigh, bLow, bHigh, depth);
    });
  }

  private affordable(aLow: number, aHigh: number, bLow: number, bHigh: number): boolean {
    const limit = PATIENCE + PATIENCE_EACH * (aHigh - aLow + bHigh - bLow);
    return this.rows.cost(aLow, aHigh, bLow, bHigh, limit) <= limit;
  }

  /** Halves the second sequence and cuts the first where both halves together keep most. */
  private exact(aFrom: number, aTo: number, bFrom: number, bTo: number): void {
    const { a, b, add } = this;
    trimmed(a, b, aFrom, aTo, bFrom, bTo, add, (aLow, aHigh, bLow, bHigh) => {
      if ((aHigh - aLow) * (bHigh - bLow) <= TABLE) return solveTable(a, b, aLow, aHigh, bLow, bHigh, add);
      if (bHigh - bLow === 1) {
        const at = a.subarray(aLow, aHigh).indexOf(b[bLow] as number);
        return at < 0 ? undefined : add(aLow + at, bLow, 1);
      }
      const middle = (bLow + bHigh) >> 1;
      const cut = this.rows.cut(aLow, aHigh, bLow, middle, bHigh);
      this.exact(aLow, cut, bLow, middle);
      this.exact(cut, aHigh, middle, bHigh);
    });
  }

  private anchored(aLow: number, aHigh: number, bLow: number, bHigh: number, depth: number): void {
    const { a, b } = this;
    const anchors = depth < DEPTH ? uniqueAnchors(a.subarray(aLow, aHigh), b.subarray(bLow, bHigh)) : [];
    let [x, y] = [aLow, bLow];
    for (const anchor of anchors) {
      this.between(x, aLow + anchor.a, y, bLow + anchor.b, depth + 1);
      this.found(aLow + anchor.a, bLow + anchor.b);
      [x, y] = [aLow + anchor.a + 1, bLow + anchor.b + 1];
    }
    if (anchors.length > 0) return this.between(x, aHigh, y, bHigh, depth + 1);
    const [halfA, halfB] = [(aLow + aHigh) >> 1, (bLow + bHigh) >> 1];
    this.between(aLow, halfA, bLow, halfB, depth);
    this.between(halfA, aHigh, halfB, bHigh, depth);
  }
}
