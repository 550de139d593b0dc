import type { Node } from 'prosemirror-model';
import type { Stretch } from '../changes.js';
import { standsOf } from '../changes.js';
import type { Comparison } from '../compare.js';
import { compare } from '../compare.js';

/**
 * Which sides proposed each change of a comparison of the base with what was made of all: those that have the same in its place. By
 * index, in order; none where the outcome is a mixture.
 */
export function proposersOf(comparison: Comparison, sides: readonly Node[]): readonly (readonly number[])[] {
  const others = sides.map((side) =>
    compare(comparison.later, side).changes.flatMap((change) =>
      standsOf(change).earlier.concat(pointOf(change.place.earlier)),
    ),
  );
  return comparison.changes.map((change) => {
    const places = [...standsOf(change).later, ...pointOf(change.place.later)];
    const proposed = (touches: (one: Stretch, other: Stretch) => boolean): number[] =>
      sides.flatMap((_, side) =>
        (others[side] ?? []).some((other) => places.some((place) => touches(place, other))) ? [] : [side],
      );
    const beside = proposed((one, other) => one.from <= other.to && other.from <= one.to);
    return beside.length > 0 ? beside : proposed((one, other) => one.from < other.to && other.from < one.to);
  });
}

/** The place of what is not there. */
function pointOf({ from, to }: Stretch): { from: number; to: number; across: number }[] {
  return from === to ? [{ from, to, across: from }] : [];
}
