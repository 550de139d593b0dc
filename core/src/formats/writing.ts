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
  /** Rules of CSS, for a page of HTML that is read where it lies; other formats take none. */
  readonly style?: string;
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

/** A stretch of one side of a change with who made it. */
export interface Credited extends HandStretch {
  readonly side: Side;
}

/** Hands from what is known of each change, by its id; what no stretch covers goes to the nearest one before it, or to the first. */
export function handsOf(credits: readonly (readonly Credited[])[]): Hands {
  return (change, side, from, to) => {
    const own = (credits[change] ?? []).filter((one) => one.side === side);
    const known = own.length > 0 ? own : (credits[change] ?? []);
    const first = known[0] ?? { author: '', at: '' };
    const inside = own.filter((one) => one.from < to && one.to > from);
    const [start] = inside;
    const before = own.findLast((one) => one.to <= from) ?? first;
    const stretches = inside.map(({ author, at, ...one }) => ({
      author,
      at,
      from: Math.max(from, one.from),
      to: Math.min(to, one.to),
    }));
    if (start && start.from <= from) return stretches;
    const { author, at } = before;
    return [{ author, at, from, to: start?.from ?? to }, ...stretches];
  };
}
