/** A small seeded generator (mulberry32), so that every made-up history can be made again from its seed. */
export class Random {
  private state: number;

  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  /** A whole number from `low` to `high`, both included. */
  between(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  pick<T>(items: readonly T[]): T {
    return items[this.between(0, items.length - 1)] as T;
  }

  chance(share: number): boolean {
    return this.next() < share;
  }
}

/** Gives letters that were never given before, from U+4E00 on: each tells where it is from. */
export function freshLetters(): (count: number) => string {
  let next = 0x4e00;
  return (count) => Array.from({ length: count }, () => String.fromCharCode(next++)).join('');
}
