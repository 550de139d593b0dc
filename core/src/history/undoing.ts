import type { InstanceRange } from './edit.js';
import type { Run } from './placed.js';
import { part } from './placed.js';

/** What of a history is undone. */
export interface Undoing {
  /** Runs cut so that each is undone as a whole or not at all. */
  cut(runs: Iterable<Run>): Iterable<Run>;
  /** Whether a run that stands goes. */
  goes(run: Run): boolean;
  /** Whether a run that departed returns. */
  returns(run: Run): boolean;
  /** Whether changes of form by an edit go back, where a run `holds` what is undone. */
  changes(seq: number): boolean;
  holds(run: Run): boolean;
}

/** All that some edits did. */
export function allOf(edits: ReadonlySet<number>): Undoing {
  return {
    cut: (runs) => runs,
    goes: ({ seq }) => edits.has(seq),
    returns: ({ seq, diedAt }) => diedAt !== 0 && edits.has(diedAt) && !edits.has(seq),
    changes: (seq) => edits.has(seq),
    holds: () => true,
  };
}

/** A part of what the edits from `first` to `last` did: what they brought and removed, and changed the form of, within some instances. */
export interface UndonePart {
  readonly first: number;
  readonly last: number;
  readonly brought: readonly InstanceRange[];
  readonly removed: readonly InstanceRange[];
}

/** What a part of some edits did. Content that stands again already does not return once more: `standing` tells. */
export function partOf(
  { first, last, brought, removed }: UndonePart,
  standing: (run: Run) => boolean,
): Undoing {
  const bySeq = new Map<number, InstanceRange[]>();
  for (const range of [...brought, ...removed])
    bySeq.set(range.seq, [...(bySeq.get(range.seq) ?? []), range]);
  const within = (run: Run, ranges: readonly InstanceRange[]): boolean =>
    ranges.some(
      ({ seq, offset, length }) =>
        seq === run.seq && offset <= run.offset && offset + length >= run.offset + run.length,
    );
  const isOfThem = (seq: number): boolean => seq >= first && seq <= last;
  return {
    *cut(runs) {
      for (const run of runs) {
        const edges = (bySeq.get(run.seq) ?? [])
          .flatMap(({ offset, length }) => [offset, offset + length])
          .filter((edge) => edge > run.offset && edge < run.offset + run.length)
          .sort((a, b) => a - b);
        let at = run.offset;
        for (const edge of [...edges, run.offset + run.length]) {
          if (edge > at) yield part(run, at - run.offset, edge - at);
          at = edge;
        }
      }
    },
    goes: (run) => isOfThem(run.seq) && within(run, brought),
    returns: (run) => isOfThem(run.diedAt) && within(run, removed) && !standing(run),
    changes: isOfThem,
    holds: (run) => within(run, brought),
  };
}
