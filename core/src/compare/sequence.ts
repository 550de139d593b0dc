/** A run of equal items: `length` items from `a` in one sequence and from `b` in the other. */
export interface Common {
  readonly a: number;
  readonly b: number;
  readonly length: number;
}

/** Edit distance at which the search for a minimal script stops and goes on from the furthest point reached. */
const PATIENCE = 1024;

/**
 * A longest common subsequence of two integer sequences, as runs in order. Minimal up to an edit distance of 1,024 per
 * part, good beyond it, so that no input is quadratic.
 * Source: E. W. Myers, "An O(ND) Difference Algorithm and Its Variations", Algorithmica 1 (1986), linear-space form.
 */
export function commonRuns(a: Int32Array, b: Int32Array): Common[] {
  const out: Common[] = [];
  new Search(a, b, out).between(0, a.length, 0, b.length);
  return out;
}

class Search {
  private readonly forward: Int32Array;
  private readonly backward: Int32Array;

  constructor(
    private readonly a: Int32Array,
    private readonly b: Int32Array,
    private readonly out: Common[],
  ) {
    const size = 2 * Math.min(a.length + b.length, 2 * PATIENCE) + 8;
    this.forward = new Int32Array(size);
    this.backward = new Int32Array(size);
  }

  between(aLow: number, aHigh: number, bLow: number, bHigh: number): void {
    const { a, b } = this;
    const start = aLow;
    while (aLow < aHigh && bLow < bHigh && a[aLow] === b[bLow]) {
      aLow++;
      bLow++;
    }
    this.push(start, bLow - (aLow - start), aLow - start);
    let tail = 0;
    while (aLow < aHigh - tail && bLow < bHigh - tail && a[aHigh - 1 - tail] === b[bHigh - 1 - tail]) tail++;
    aHigh -= tail;
    bHigh -= tail;
    if (aLow < aHigh && bLow < bHigh) {
      const [x, y] = this.middle(aLow, aHigh, bLow, bHigh);
      if ((x > aLow || y > bLow) && (x < aHigh || y < bHigh)) {
        this.between(aLow, x, bLow, y);
        this.between(x, aHigh, y, bHigh);
      }
    }
    this.push(aHigh, bHigh, tail);
  }

  private push(a: number, b: number, length: number): void {
    if (length === 0) return;
    const last = this.out.at(-1);
    if (last && last.a + last.length === a && last.b + last.length === b) {
      this.out[this.out.length - 1] = { a: last.a, b: last.b, length: last.length + length };
    } else this.out.push({ a, b, length });
  }

  /** A point on a shortest path between the corners, where the searches from both ends meet. */
  private middle(aLow: number, aHigh: number, bLow: number, bHigh: number): [number, number] {
    const { a, b, forward, backward } = this;
    const n = aHigh - aLow;
    const m = bHigh - bLow;
    const delta = n - m;
    const odd = (delta & 1) !== 0;
    const most = Math.min((n + m + 1) >> 1, PATIENCE);
    const offset = most + 1;
    forward.fill(0, 0, 2 * offset + 1);
    backward.fill(0, 0, 2 * offset + 1);
    let best: [number, number] = [aLow, bLow];
    let reach = -1;
    for (let d = 0; d <= most; d++) {
      for (let k = -d; k <= d; k += 2) {
        const down =
          k === -d || (k !== d && (forward[offset + k - 1] as number) < (forward[offset + k + 1] as number));
        let x = down ? (forward[offset + k + 1] as number) : (forward[offset + k - 1] as number) + 1;
        let y = x - k;
        while (x < n && y < m && a[aLow + x] === b[bLow + y]) {
          x++;
          y++;
        }
        forward[offset + k] = x;
        if (x <= n && y <= m && x + y > reach) {
          reach = x + y;
          best = [aLow + x, bLow + y];
        }
        const other = delta - k;
        if (odd && Math.abs(other) <= d - 1 && x + (backward[offset + other] as number) >= n)
          return [aLow + x, bLow + y];
      }
      for (let k = -d; k <= d; k += 2) {
        const down =
          k === -d ||
          (k !== d && (backward[offset + k - 1] as number) < (backward[offset + k + 1] as number));
        let x = down ? (backward[offset + k + 1] as number) : (backward[offset + k - 1] as number) + 1;
        let y = x - k;
        while (x < n && y < m && a[aHigh - 1 - x] === b[bHigh - 1 - y]) {
          x++;
          y++;
        }
        backward[offset + k] = x;
        const other = delta - k;
        if (!odd && Math.abs(other) <= d && x + (forward[offset + other] as number) >= n)
          return [aHigh - x, bHigh - y];
      }
    }
    return best;
  }
}

/**
 * Items that occur exactly once on both sides, as a longest increasing run: safe anchors before any finer search.
 * Source: the unique lines of P. Heckel, "A technique for isolating differences between files", CACM 21 (1978); kept in
 * order by patience sorting after D. Aldous and P. Diaconis (1999).
 */
export function uniqueAnchors(a: Int32Array, b: Int32Array): { a: number; b: number }[] {
  const places = new Map<number, { a: number; b: number }>();
  a.forEach((item, i) => places.set(item, { a: places.has(item) ? -1 : i, b: -2 }));
  b.forEach((item, i) => {
    const place = places.get(item);
    if (place) place.b = place.b === -2 ? i : -1;
  });
  const pairs = [...places.values()]
    .filter((place) => place.a >= 0 && place.b >= 0)
    .sort((x, y) => x.a - y.a);
  return longestIncreasing(pairs);
}

function longestIncreasing(pairs: readonly { a: number; b: number }[]): { a: number; b: number }[] {
  const tops: number[] = [];
  const previous: number[] = [];
  pairs.forEach((pair, i) => {
    let low = 0;
    let high = tops.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((pairs[tops[middle] as number] as { b: number }).b < pair.b) low = middle + 1;
      else high = middle;
    }
    previous[i] = low > 0 ? (tops[low - 1] as number) : -1;
    tops[low] = i;
  });
  const out: { a: number; b: number }[] = [];
  for (let i = tops.at(-1) ?? -1; i >= 0; i = previous[i] as number)
    out.push(pairs[i] as { a: number; b: number });
  return out.reverse();
}
