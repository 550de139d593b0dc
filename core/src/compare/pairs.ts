import { Scratch } from './scratch.js';

/** How many matching pairs are looked at for each item, before another way is tried. */
const MOST_EACH = 6;

const [NEXT, PLACES, LINKS, MATCHES] = [new Scratch(), new Scratch(), new Scratch(), new Scratch()];
const [OF_A, OF_B, BEFORE] = [new Scratch(), new Scratch(), new Scratch()];

/** Scratch space that grows and is never given back: for each item, the last place of it in `b`, plus one. */
let heads = new Int32Array(1024);

/**
 * Tells a longest common subsequence of two short stretches by their matching pairs, or answers false when there are too
 * many of them. Items must be small whole numbers. O((r + n) log n) for r pairs, which in prose are few.
 * Source: J. W. Hunt and T. G. Szymanski, "A fast algorithm for computing longest common subsequences", CACM 20 (1977).
 */
export function solvePairs(
  a: Int32Array,
  b: Int32Array,
  aLow: number,
  aHigh: number,
  bLow: number,
  bHigh: number,
  tell: (a: number, b: number) => void,
): boolean {
  const [n, m] = [aHigh - aLow, bHigh - bLow];
  const next = NEXT.of(m);
  for (let j = m - 1; j >= 0; j--) {
    const item = b[bLow + j] as number;
    if (item >= heads.length) heads = widened(item);
    next[j] = heads[item] as number;
    heads[item] = j + 1;
  }
  const most = MOST_EACH * (n + m);
  const [places, links] = [PLACES.of(Math.min(n, m) + 1), LINKS.of(Math.min(n, m) + 1)];
  const [ofA, ofB, before] = [OF_A.of(most + 1), OF_B.of(most + 1), BEFORE.of(most + 1)];
  const matches = MATCHES.of(m);
  let pairs = 0;
  let length = 0;
  let seen = 0;
  for (let i = 0; i < n && seen <= most; i++) {
    const item = a[aLow + i] as number;
    let found = 0;
    for (
      let j = item < heads.length ? (heads[item] as number) : 0;
      j > 0 && seen <= most;
      j = next[j - 1] as number
    ) {
      matches[found++] = j - 1;
      seen++;
    }
    for (let at = found - 1; at >= 0; at--) {
      const j = matches[at] as number;
      let [low, high] = [0, length];
      while (low < high) {
        const middle = (low + high) >> 1;
        if ((places[middle] as number) < j) low = middle + 1;
        else high = middle;
      }
      if (low < length && places[low] === j) continue;
      places[low] = j;
      before[pairs] = low > 0 ? (links[low - 1] as number) : -1;
      ofA[pairs] = i;
      ofB[pairs] = j;
      links[low] = pairs++;
      if (low === length) length++;
    }
  }
  for (let j = 0; j < m; j++) heads[b[bLow + j] as number] = 0;
  if (seen > most) return false;
  let at = length > 0 ? (links[length - 1] as number) : -1;
  for (let i = length - 1; at >= 0; at = before[at] as number) places[i--] = at;
  for (let i = 0; i < length; i++) {
    const pair = places[i] as number;
    tell(aLow + (ofA[pair] as number), bLow + (ofB[pair] as number));
  }
  return true;
}

function widened(item: number): Int32Array<ArrayBuffer> {
  const more = new Int32Array(Math.max(item + 1, heads.length * 2));
  more.set(heads);
  return more;
}
