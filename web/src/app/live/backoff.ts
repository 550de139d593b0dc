/** The shortest and the longest wait between two tries, in milliseconds. */
const [SHORTEST, LONGEST] = [500, 30_000];

/**
 * Milliseconds to wait before a try after some that failed in a row, counted from 0: each wait is about twice the one before. A part of it is
 * chance, so that many windows do not come back at the same moment (common practice, no source).
 */
export function waitBefore(failed: number, chance: () => number = Math.random): number {
  return Math.min(LONGEST, SHORTEST * 2 ** failed) * (0.75 + chance() / 2);
}
