/**
 * Work that can rest: it yields now and then, so that whoever runs it can let others have their turn. What it works on must
 * not be changed meanwhile.
 */
export type Work<T> = Generator<undefined, T>;

/** Runs work to its end without resting. */
export function finished<T>(work: Work<T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}
