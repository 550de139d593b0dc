import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import type { Moved, Side, Union } from '../compare/union.js';
import { walk } from '../compare/union.js';

/** What a part of a comparison is in one of the two documents. */
export function sideOf(part: Union, side: Side): readonly Node[] {
  switch (part.kind) {
    case 'keep':
      return [part.node];
    case 'pair':
      return [part[side]];
    case 'seams':
    case 'difference':
      return part[side];
    case 'sole': {
      const kids = part.kids.flatMap((kid) => sideOf(kid, side));
      return part.side === side ? [part.shape.copy(Fragment.fromArray(kids))] : kids;
    }
    case 'move':
      return part.at === side ? part.moved[side] : [];
    case 'break':
      return [];
  }
}

/** The change that has most to say about a part as a whole: the first in it, or -1 where none is. */
export function changeIn(part: Union): number {
  let found = -1;
  walk(
    part,
    0,
    0,
    (one) => {
      const handle = handleOf(one);
      if (found < 0 && handle !== null) found = handle;
    },
    false,
  );
  return found;
}

function handleOf(part: Union): number | null {
  switch (part.kind) {
    case 'keep':
      return null;
    case 'pair':
    case 'seams':
      return part.form?.id ?? null;
    case 'move':
      return part.moved.change.id;
    default:
      return part.change.id;
  }
}

/** Which of the things that moved are shown as such at both places. */
export class ShownMoves {
  private readonly at: Record<Side, Set<Moved>> = { earlier: new Set(), later: new Set() };

  add(moved: Moved, side: Side): void {
    this.at[side].add(moved);
  }

  both(moved: Moved): boolean {
    return this.at.earlier.has(moved) && this.at.later.has(moved);
  }

  get size(): number {
    return this.at.earlier.size + this.at.later.size;
  }
}
