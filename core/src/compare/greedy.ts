import { Scratch } from './scratch.js';

/** Most items that may have come and gone; with more, another way is tried. */
const MOST = 20;
/** Diagonals on either side, and the one from the start, which stands in their middle. */
const WIDTH = 2 * MOST + 5;
const MIDDLE = MOST + 2;
/** Stands for a diagonal that is not reached. */
const NONE = -2;

/** For each number of items that came or went, how far each diagonal is reached in the first sequence. */
const REACH = new Int32Array((MOST + 1) * WIDTH);
const FOUND = new Scratch();

/**
 * Tells a longest common subsequence of two stretches that differ in few items, or answers false when they differ in more
 * than twenty. O(n + d²) for d items that came or went.
 * Source: E. W. Myers, "An O(ND) difference algorithm and its variations", Algorithmica 1 (1986), the greedy algorithm.
 */
export function solveGreedy(
  a: Int32Array,
  b: Int32Array,
  aLow: number,
  aHigh: number,
  bLow: number,
  bHigh: number,
  tell: (a: number, b: number) => void,
): boolean {
  const [n, m] = [aHigh - aLow, bHigh - bLow];
  if (Math.abs(n - m) > MOST) return false;
  for (let edits = 0; edits <= MOST; edits++) {
    const row = edits * WIDTH;
    REACH[row + MIDDLE - edits - 2] = REACH[row + MIDDLE + edits + 2] = NONE;
    for (let k = MIDDLE - edits; k <= MIDDLE + edits; k += 2) {
      let x = startOf(edits, k, n, m);
      let y = x - k + MIDDLE;
      while (x >= 0 && x < n && y < m && a[aLow + x] === b[bLow + y]) {
        x++;
        y++;
      }
      REACH[row + k] = x;
    }
    const past = edits - Math.abs(n - m);
    if (past >= 0 && past % 2 === 0 && REACH[row + MIDDLE + n - m] === n) {
      retrace(edits, n, m, aLow, bLow, tell);
      return true;
    }
  }
  return false;
}

/** Where the equal items of a diagonal begin after so many came or went; negative when it is not reached by then. */
function startOf(edits: number, k: number, n: number, m: number): number {
  if (edits === 0) return 0;
  const row = (edits - 1) * WIDTH;
  const come = REACH[row + k + 1] as number;
  const gone = (REACH[row + k - 1] as number) + 1;
  const fits = come >= 0 && come - k + MIDDLE <= m;
  return gone > 0 && gone <= n && !(fits && come >= gone) ? gone : fits ? come : NONE;
}

/** Tells the equal items on the way to the end, first to last. */
function retrace(
  edits: number,
  n: number,
  m: number,
  aLow: number,
  bLow: number,
  tell: (a: number, b: number) => void,
): void {
  const found = FOUND.of(2 * Math.min(n, m));
  let count = 0;
  let [x, k] = [n, MIDDLE + n - m];
  for (; edits >= 0; edits--) {
    const start = startOf(edits, k, n, m);
    while (x > start) {
      x--;
      found[count++] = x;
      found[count++] = x - k + MIDDLE;
    }
    if (edits === 0) break;
    if (REACH[(edits - 1) * WIDTH + k + 1] === start) k++;
    else [x, k] = [start - 1, k - 1];
  }
  while (count > 0) {
    const y = found[--count] as number;
    tell(aLow + (found[--count] as number), bLow + y);
  }
}
