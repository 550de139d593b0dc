import type { Side } from '../compare/union.js';
import type { Picture } from './picture.js';

/** What a file says of itself, and where its images come from. */
export interface WriteOptions {
  readonly title: string;
  /** Who the file is by, and when, ISO 8601. */
  readonly author: string;
  readonly at: string;
  /** A stored image by its hash, or null when it is not at hand: then its alternative text is written. */
  readonly picture: (hash: string) => Picture | null;
}

/** Who did part of a change, and when (ISO 8601). */
export interface Hand {
  readonly author: string;
  readonly at: string;
}

/** A stretch of a document with who changed it. */
export interface HandStretch extends Hand {
  readonly from: number;
  readonly to: number;
}

/** Who changed what one side of a change has between two positions of that side's document. At least one stretch, in order. */
export type Hands = (change: number, side: Side, from: number, to: number) => readonly HandStretch[];
