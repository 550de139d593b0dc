/**
 * What a change does. `moved` stands in two places; `copied` is an addition that stands elsewhere too; `split` and `joined`
 * end or continue a paragraph; `typography` puts curly quotes for straight ones, and the like; a `form` change leaves the text alone: bold, a
 * heading's level, a link's target, a quote round it.
 */
export type ChangeKind =
  'added' | 'removed' | 'replaced' | 'moved' | 'copied' | 'split' | 'joined' | 'typography' | 'form';

/** A stretch of positions in one document. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** A stretch of one document, and the position in the other at which it would stand there. */
export interface Stand extends Stretch {
  readonly across: number;
}

/** Every stretch of a change in either document: one, none, or several, as for the cells of a column. */
export interface Stands {
  readonly earlier: readonly Stand[];
  readonly later: readonly Stand[];
}

/** One change between two documents. Ids count from 0 in document order and are the same for the same pair. */
export interface Change {
  readonly id: number;
  readonly kind: ChangeKind;
  /** Plain text on either side; empty where a side has none. For a split or a join, the block that begins there. */
  readonly earlier: string;
  readonly later: string;
  /** Where it first stands in either document; an empty stretch marks the place where something is not. */
  readonly place: { readonly earlier: Stretch; readonly later: Stretch };
  /** Every stretch of it, for a change that `place` does not tell all of; `standsOf` answers for any. */
  readonly scattered: Stands | null;
  /** Whether whole blocks are concerned rather than words inside one. */
  readonly block: boolean;
  readonly wordsRemoved: number;
  readonly wordsAdded: number;
  readonly wordsMoved: number;
  /** For what was copied: where it stands in the earlier document. */
  readonly copyOf: Stretch | null;
  /** The name of the group it belongs to, if it does: see `grouped`. */
  readonly group: string | null;
  /** For a section that moved: its heading. */
  readonly section: string | null;
  /** For a change of form: what differs, as names of the schema ("bold", "level", "quote"). */
  readonly form: readonly string[];
}

/** Words in and out of a comparison. Moved words count neither as added nor as removed. */
export interface Totals {
  readonly wordsAdded: number;
  readonly wordsRemoved: number;
  readonly wordsMoved: number;
  readonly formChanges: number;
}

const NOTHING: readonly never[] = [];

/** Every stretch of a change, and where in the other document it would stand. */
export function standsOf({ place, scattered }: Pick<Change, 'place' | 'scattered'>): Stands {
  return (
    scattered ?? { earlier: across(place.earlier, place.later), later: across(place.later, place.earlier) }
  );
}

function across({ from, to }: Stretch, other: Stretch): readonly Stand[] {
  return from === to ? NOTHING : [{ from, to, across: other.from }];
}

/** A change as the outside is told it, with all its stands. */
export function toldChange({ scattered, ...change }: Change) {
  const { earlier, later } = standsOf({ place: change.place, scattered });
  return { ...change, form: [...change.form], stands: { earlier: [...earlier], later: [...later] } };
}

/** Words added, removed and moved, and the number of changes of form. */
export function totalsOf(changes: readonly Change[]): Totals {
  let [wordsAdded, wordsRemoved, wordsMoved, formChanges] = [0, 0, 0, 0];
  for (const change of changes) {
    if (change.kind === 'form') formChanges++;
    wordsAdded += change.wordsAdded;
    wordsRemoved += change.wordsRemoved;
    wordsMoved += change.wordsMoved;
  }
  return { wordsAdded, wordsRemoved, wordsMoved, formChanges };
}
