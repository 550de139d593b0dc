import type { ComparedChange, Person } from '@oxbow/contract';
import { colourOf } from '../look/colours';
import { personOf, whereOf } from './look';

/** A stretch of a document that a change is drawn on. */
export interface Mark {
  readonly from: number;
  readonly to: number;
  /** Null where it is of none. */
  readonly change: number | null;
  /** Class of the mark, and for additions and removals the element it is drawn as. */
  readonly name: string;
  readonly tag: 'ins' | 'del' | 'span';
  readonly colour: string;
  readonly block: boolean;
  /** Where what moved came from or went to, in words. */
  readonly where: string | null;
}

/** Content of the other document shown at a place where this one has none. */
export interface Ghost {
  readonly change: number;
  readonly at: number;
  readonly from: number;
  readonly to: number;
  readonly block: boolean;
}

/** What is drawn on one side of a comparison, each list in order of position. */
export interface SideMarks {
  readonly marks: readonly Mark[];
  readonly ghosts: readonly Ghost[];
}

type Side = 'earlier' | 'later';

const DRAWN: Partial<Record<ComparedChange['kind'], Record<Side, string>>> = {
  added: { earlier: '', later: 'was-added' },
  removed: { earlier: 'was-removed', later: '' },
  replaced: { earlier: 'was-removed', later: 'was-added' },
  typography: { earlier: 'was-removed', later: 'was-added' },
  moved: { earlier: 'was-moved was-gone', later: 'was-moved' },
  copied: { earlier: '', later: 'was-copied was-added' },
  split: { earlier: '', later: 'was-split' },
  joined: { earlier: 'was-split', later: '' },
  form: { earlier: 'was-formed', later: 'was-formed' },
};

/** The marks of changes on one of the two documents, and what of the other is shown between. */
export function marksOn(
  side: Side,
  changes: readonly ComparedChange[],
  people: ReadonlyMap<string, Person>,
): SideMarks {
  const marks: Mark[] = [];
  const ghosts: Ghost[] = [];
  const other = side === 'later' ? 'earlier' : 'later';
  for (const change of changes) {
    const person = personOf(change, side);
    const colour = person === null ? 'var(--soft)' : colourOf(people.get(person)?.colour ?? 0);
    const name = DRAWN[change.kind]?.[side] ?? '';
    const tag = side === 'earlier' ? 'del' : 'ins';
    const where = whereOf(change, side);
    const blocks = { earlier: isBlock(change, 'earlier'), later: isBlock(change, 'later') };
    for (const [i, { from, to }] of change.stands[side].entries()) {
      const plain =
        change.kind === 'form' ||
        change.kind === 'moved' ||
        change.kind === 'split' ||
        change.kind === 'joined';
      marks.push({
        from,
        to,
        change: change.id,
        name,
        tag: plain ? 'span' : tag,
        colour,
        block: blocks[side],
        where: i === 0 ? where : null,
      });
    }
    if (side === 'later' && change.kind === 'joined') {
      const { from } = change.place.later;
      marks.push({
        from,
        to: from,
        change: change.id,
        name: 'was-joined',
        tag: 'span',
        colour,
        block: false,
        where,
      });
    }
    if (change.kind === 'form' || change.kind === 'split' || change.kind === 'joined') continue;
    for (const { from, to, across } of change.stands[other])
      ghosts.push({ change: change.id, at: across, from, to, block: blocks[other] });
  }
  return {
    marks: marks.sort((a, b) => a.from - b.from || b.to - a.to),
    ghosts: ghosts.sort((a, b) => a.at - b.at || a.from - b.from),
  };
}

/** Whether the stretches of a change are whole blocks: a sentence that became a paragraph is one on one side only, where it fills more than its text. */
function isBlock(change: ComparedChange, side: Side): boolean {
  const filled = change.stands[side].reduce((sum, { from, to }) => sum + to - from, 0);
  return change.block && (change.kind !== 'moved' || filled !== change[side].length);
}
