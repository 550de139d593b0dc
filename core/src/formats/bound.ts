import { FormatError } from './format.js';

/** Most tokens of a document that a file is read to: letters, and boundaries of blocks. */
export const MOST_TOKENS = 8 * 2 ** 20;

/** Counts what a reader makes of little: a file can say that something is repeated at no cost to itself. */
export class Bound {
  private left = MOST_TOKENS;

  /** Throws `FormatError` when more was made than a document may hold. */
  spend(tokens: number): void {
    this.left -= tokens;
    if (this.left < 0)
      throw new FormatError(
        `This file holds more than ${MOST_TOKENS} letters and boundaries of blocks (readTokens).`,
      );
  }
}
