const BITS = 30;
const FULL = (1 << BITS) - 1;

/**
 * Rows of the table of common subsequence lengths, thirty columns to a word of bits: a zero bit in column i says that the
 * length grows there. Of each row only the words that hold the symbol in hand, and those a carry runs into, are visited.
 * Sources: Crochemore et al. 2001, Hyyrö 2004; see `commonRuns`.
 */
export class Rows {
  /** Per symbol, the first of its entries; an entry is a word and the bits where the symbol stands. */
  private readonly head: Int32Array;
  private readonly word: Int32Array;
  private readonly mask: Int32Array;
  private readonly next: Int32Array;
  private readonly count: Int32Array;
  private readonly row: Int32Array;
  private readonly lengths: Int32Array;

  /** For sequences of symbols 0 to `symbols` - 1. */
  constructor(
    private readonly a: Int32Array,
    private readonly b: Int32Array,
    symbols: number,
  ) {
    this.head = new Int32Array(symbols).fill(-1);
    this.count = new Int32Array(symbols);
    this.word = new Int32Array(a.length);
    this.mask = new Int32Array(a.length);
    this.next = new Int32Array(a.length);
    this.row = new Int32Array(Math.ceil(a.length / BITS));
    this.lengths = new Int32Array(a.length + 1);
  }

  /** At most how many words all rows of a gap visit without carries; counting stops beyond `limit`. */
  cost(aLow: number, aHigh: number, bLow: number, bHigh: number, limit: number): number {
    const { a, b, count } = this;
    const most = Math.ceil((aHigh - aLow) / BITS);
    for (let i = aLow; i < aHigh; i++) count[a[i] as number] = (count[a[i] as number] as number) + 1;
    let cost = 0;
    for (let j = bLow; j < bHigh && cost <= limit; j++)
      cost += Math.min(most, count[b[j] as number] as number);
    for (let i = aLow; i < aHigh; i++) count[a[i] as number] = 0;
    return cost;
  }

  /** Where to cut `a` so that its parts keep most with `b` before and after `middle` (Hirschberg's step). */
  cut(aLow: number, aHigh: number, bLow: number, middle: number, bHigh: number): number {
    const n = aHigh - aLow;
    const { lengths } = this;
    this.fill(aLow, aHigh, bLow, middle, 1);
    this.tally(n, (i, length) => (lengths[i] = length));
    this.fill(aLow, aHigh, bHigh - 1, middle - 1, -1);
    let best = -1;
    let at = 0;
    this.tally(n, (i, length) => {
      const sum = (lengths[n - i] as number) + length;
      if (sum > best) [best, at] = [sum, n - i];
    });
    return aLow + at;
  }

  /** Runs `b` from `from` up to `to` over the row of `a`, forwards or, both mirrored, backwards. */
  private fill(aLow: number, aHigh: number, from: number, to: number, direction: 1 | -1): void {
    const { a, b, head, word, mask, next, row } = this;
    const n = aHigh - aLow;
    const words = Math.ceil(n / BITS);
    let entries = 0;
    for (let i = n - 1; i >= 0; i--) {
      const symbol = a[direction === 1 ? aLow + i : aHigh - 1 - i] as number;
      const first = head[symbol] as number;
      const at = (i / BITS) | 0;
      if (first >= 0 && word[first] === at) mask[first] = (mask[first] as number) | (1 << (i - at * BITS));
      else {
        word[entries] = at;
        mask[entries] = 1 << (i - at * BITS);
        next[entries] = first;
        head[symbol] = entries++;
      }
    }
    row.fill(FULL, 0, words);
    for (let j = from; j !== to; j += direction) {
      let carry = 0;
      let w = 0;
      for (let entry = head[b[j] as number] as number; entry >= 0; entry = next[entry] as number) {
        const at = word[entry] as number;
        for (; carry > 0 && w < at; w++) carry = this.carryInto(w);
        const bits = mask[entry] as number;
        const value = row[at] as number;
        const sum = value + (value & bits) + carry;
        row[at] = (sum & FULL) | (value & ~bits);
        carry = sum >>> BITS;
        w = at + 1;
      }
      for (; carry > 0 && w < words; w++) carry = this.carryInto(w);
    }
    for (let i = aLow; i < aHigh; i++) head[a[i] as number] = -1;
  }

  private carryInto(w: number): number {
    const value = this.row[w] as number;
    const sum = value + 1;
    this.row[w] = (sum & FULL) | value;
    return sum >>> BITS;
  }

  /** Tells the length for each prefix of the row, from the empty one to all `n` columns. */
  private tally(n: number, tell: (prefix: number, length: number) => void): void {
    let length = 0;
    tell(0, 0);
    for (let i = 0; i < n; i++) {
      const at = (i / BITS) | 0;
      if ((((this.row[at] as number) >>> (i - at * BITS)) & 1) === 0) length++;
      tell(i + 1, length);
    }
  }
}
