import type { Node } from 'prosemirror-model';
import type { Passage, Take, Together } from './parts.js';
import { assembleTogether } from './parts.js';
import { bringTogether } from './together.js';

/** Something both sides changed, differently; all three forms of it, as a passage has them. */
export interface Conflict extends Pick<Passage, 'kind' | 'about'> {
  /** Counts from 0 in the order of reading. */
  readonly id: number;
  /** The number of its passage. */
  readonly passage: number;
  readonly base: readonly Node[];
  readonly ours: readonly Node[];
  readonly theirs: readonly Node[];
}

/** What to take of a conflict. `both` puts theirs behind ours; of a form or a place it takes ours. */
export type Settlement = 'base' | 'ours' | 'theirs' | 'both';

/** Two documents that come from one, brought together: what only one side changed is taken, the rest are conflicts. */
export interface ThreeWay {
  readonly together: Together;
  readonly conflicts: readonly Conflict[];
}

/** Compares two documents with the one both come from; see `bringTogether`. */
export function compareThree(base: Node, ours: Node, theirs: Node): ThreeWay {
  const together = bringTogether(base, [ours, theirs]);
  const conflicts = disputed(together).map(({ id: passage, kind, base: was, sides, about }, id) => {
    const [one = [], other = []] = sides;
    return { id, passage, kind, base: was, ours: one, theirs: other, ...(about ? { about } : {}) };
  });
  return { together, conflicts };
}

/** The document that settling each conflict makes; always valid, and its tables rectangular. */
export function assembleThree({ together }: ThreeWay, settle: (conflict: number) => Settlement): Node {
  const takes = new Map(
    disputed(together).map(({ id, forms }, conflict): [number, Take] => {
      const settlement = settle(conflict);
      if (settlement === 'base') return [id, 'base'];
      if (settlement === 'both') return [id, 'all'];
      return [id, forms.findIndex(({ by }) => by.includes(settlement === 'ours' ? 0 : 1))];
    }),
  );
  return assembleTogether(together, (passage) => takes.get(passage) ?? 0);
}

function disputed({ passages }: Together): readonly Passage[] {
  return passages.filter(({ forms }) => forms.length > 1);
}
