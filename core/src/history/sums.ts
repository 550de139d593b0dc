/**
 * Sums of the first so many of a row of numbers that change: both a change and a sum cost the logarithm of their count.
 * Source: Fenwick, A New Data Structure for Cumulative Frequency Tables (1994).
 */
export class Sums {
  private readonly tree: Int32Array;

  constructor(count: number) {
    this.tree = new Int32Array(count + 1);
  }

  add(index: number, value: number): void {
    for (let at = index + 1; at < this.tree.length; at += at & -at)
      this.tree[at] = (this.tree[at] as number) + value;
  }

  /** The sum of the numbers in front of an index. */
  before(index: number): number {
    let sum = 0;
    for (let at = index; at > 0; at -= at & -at) sum += this.tree[at] as number;
    return sum;
  }
}
