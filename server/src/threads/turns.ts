import { Mutex } from 'async-mutex';

/** Lets pieces of work about one thing follow on each other, by its name; those about different things do not wait. */
export class Turns<Name extends number | string = number> {
  private readonly mutexes = new Map<Name, Mutex>();

  /** Does something when all that was asked before about the same thing is over. */
  async take<T>(about: Name, act: () => Promise<T>): Promise<T> {
    const mutex = this.mutexes.get(about) ?? new Mutex();
    this.mutexes.set(about, mutex);
    try {
      return await mutex.runExclusive(act);
    } finally {
      if (!mutex.isLocked()) this.mutexes.delete(about);
    }
  }

  /** Resolves when nothing is under way any more. */
  async idle(): Promise<void> {
    while (this.mutexes.size > 0)
      await Promise.all([...this.mutexes.values()].map((mutex) => mutex.waitForUnlock()));
  }
}
