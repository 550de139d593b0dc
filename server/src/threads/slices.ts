import { setImmediate } from 'node:timers/promises';
import type { Work } from '@oxbow/core/content';

/** Milliseconds of the main thread that work takes at a time, before others have their turn. */
const SLICE = 8;

/** Work that is done in slices: others have their turn of the main thread in between. */
export class Slices {
  private since = performance.now();

  /** Rests when a slice is over. */
  async rest(): Promise<void> {
    if (performance.now() - this.since < SLICE) return;
    await setImmediate();
    this.since = performance.now();
  }

  /** Runs a piece of work to its end, resting where it yields. */
  async through<T>(work: Work<T>): Promise<T> {
    for (;;) {
      const { done, value } = work.next();
      if (done) return value;
      if (performance.now() - this.since >= SLICE) await this.rest();
    }
  }
}
