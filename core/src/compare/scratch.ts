/** Scratch for more numbers than this is not kept. */
const KEPT = 1 << 16;

/**
 * Scratch for numbers that is used again and again: an array of its own for every stretch of text costs more than what is
 * done with it. What is in it is whatever the last user left.
 */
export class Scratch {
  private numbers = new Int32Array(1024);

  /** Scratch for at least so many numbers, which takes the place of any given out before. */
  of(size: number): Int32Array<ArrayBuffer> {
    if (size > KEPT) return new Int32Array(size);
    if (size > this.numbers.length) this.numbers = new Int32Array(Math.max(size, this.numbers.length * 2));
    return this.numbers;
  }
}

/** How many numbers are set apart at once, at first and at most. */
const FIRST = 2048;
const MOST = 1 << 16;

/** What a store that was closed left, for the next one. */
let left: Int32Array<ArrayBuffer> | null = null;

/** Gives out arrays that stay, cut from larger ones, which are let go of when nothing cut from them is held any more. */
export class ScratchStore {
  private numbers = left ?? new Int32Array(FIRST);
  private used = 0;
  private next = 2 * FIRST;

  constructor() {
    left = null;
  }

  /** Leaves its scratch to the next store; nothing cut from it may be used any more. */
  close(): void {
    if (this.numbers.length <= KEPT) left = this.numbers;
  }

  /** An array of so many numbers, with anything in it. */
  array(size: number): Int32Array<ArrayBuffer> {
    if (this.used + size > this.numbers.length) {
      this.numbers = new Int32Array(Math.max(size, this.next));
      this.next = Math.min(MOST, this.next * 2);
      this.used = 0;
    }
    return this.numbers.subarray(this.used, (this.used += size));
  }
}
