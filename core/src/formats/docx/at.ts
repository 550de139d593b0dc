import type { Side } from '../../compare/union.js';
import type { Track } from './runs.js';

/** Positions of something in the two documents; null where it does not stand in one. */
export interface At {
  readonly a: number | null;
  readonly b: number | null;
}

/** How content is tracked as a whole, and by which change. */
export interface Whole {
  readonly kind: Track['kind'];
  readonly change: number;
}

/** A place further on. */
export function shifted({ a, b }: At, by: number): At {
  return { a: a === null ? null : a + by, b: b === null ? null : b + by };
}

/** Where something of one side stands. */
export function standing(side: Side, a: number, b: number): At {
  return side === 'earlier' ? { a, b: null } : { a: null, b };
}
