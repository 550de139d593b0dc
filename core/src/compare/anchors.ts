/** Items of two sequences that answer to each other, by index. */
export interface Anchor {
  readonly a: number;
  readonly b: number;
}

/**
 * Items that occur exactly once on both sides, as a longest increasing run: safe anchors before any finer search.
 * Source: the unique lines of P. Heckel, "A technique for isolating differences between files", CACM 21 (1978).
 */
export function uniqueAnchors(a: Int32Array, b: Int32Array): Anchor[] {
  /** Index of an item's one occurrence, or -1 for several. */
  const once = (items: Int32Array): Map<number, number> => {
    const places = new Map<number, number>();
    items.forEach((item, i) => places.set(item, places.has(item) ? -1 : i));
    return places;
  };
  const other = once(b);
  const pairs: Anchor[] = [];
  for (const [item, i] of once(a)) {
    const j = other.get(item) ?? -1;
    if (i >= 0 && j >= 0) pairs.push({ a: i, b: j });
  }
  return longestIncreasing(pairs.sort((x, y) => x.a - y.a));
}

/**
 * Of pairs in the order of the first sequence, a heaviest run that increases in the second too; longest when all weigh the
 * same. O(n log n), by patience sorting when no weight is given (D. Aldous and P. Diaconis, 1999), else over a tree of maxima.
 */
export function longestIncreasing<T extends Anchor>(pairs: readonly T[], weight?: (pair: T) => number): T[] {
  return weight ? heaviest(pairs, weight) : longest(pairs);
}

function longest<T extends Anchor>(pairs: readonly T[]): T[] {
  const tops: number[] = [];
  const previous: number[] = [];
  pairs.forEach((pair, i) => {
    let low = 0;
    let high = tops.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((pairs[tops[middle] as number] as T).b < pair.b) low = middle + 1;
      else high = middle;
    }
    previous[i] = low > 0 ? (tops[low - 1] as number) : -1;
    tops[low] = i;
  });
  return backwards(pairs, previous, tops.at(-1) ?? -1);
}

function heaviest<T extends Anchor>(pairs: readonly T[], weight: (pair: T) => number): T[] {
  const order = [...pairs.keys()].sort((x, y) => (pairs[x] as T).b - (pairs[y] as T).b || y - x);
  const rank: number[] = [];
  order.forEach((i, at) => (rank[i] = at + 1));
  const best = new Array<number>(pairs.length + 1).fill(-1);
  const total: number[] = [];
  const previous: number[] = [];
  const better = (i: number, j: number): number =>
    i < 0 || (j >= 0 && (total[j] as number) > (total[i] as number)) ? j : i;
  let top = -1;
  pairs.forEach((pair, i) => {
    let before = -1;
    for (let at = (rank[i] as number) - 1; at > 0; at &= at - 1) before = better(before, best[at] as number);
    previous[i] = before;
    total[i] = weight(pair) + (before < 0 ? 0 : (total[before] as number));
    for (let at = rank[i] as number; at < best.length; at += at & -at)
      best[at] = better(best[at] as number, i);
    top = better(top, i);
  });
  return backwards(pairs, previous, top);
}

function backwards<T>(pairs: readonly T[], previous: readonly number[], last: number): T[] {
  const out: T[] = [];
  for (let i = last; i >= 0; i = previous[i] as number) out.push(pairs[i] as T);
  return out.reverse();
}
