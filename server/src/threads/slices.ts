import { setImmediate, setTimeout } from 'node:timers/promises';
import type { Work } from '@oxbow/core/content';

/** Milliseconds of the main thread that work takes at a time, before others have their turn. */
const SLICE = 4;

/** How much longer than it worked it rests, where nobody waits for the work. */
const REST = 4;

/** Work that is done in slices: others have their turn of the main thread in between, and most of it where nobody waits. */
export class Slices {
  private since = performance.now();

  constructor(private readonly isWaitedFor = true) {}

  /** Rests when a slice is over. */
  async rest(): Promise<void> {
    const worked = performance.now() - this.since;
    if (worked < SLICE) return;
    if (this.isWaitedFor) await setImmediate();
    else await setTimeout(worked * REST);
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
