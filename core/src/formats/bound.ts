import { MOST_TOKENS } from '../bounds/index.js';
import { FormatError } from './format.js';

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
