import type { Work } from '../content/index.js';
import { FormIndex, formName } from '../history/index.js';
import type { PlacedRun, PlacedRuns, Provenance } from '../history/index.js';
import type { Change, Stretch } from './changes.js';
import { standsOf } from './changes.js';

/** Who did part of a change, by the edit that did it. `from` and `to` are positions on the side it shows on. */
export interface Credit extends Stretch {
  /** The edit that brought, removed or re-formed this stretch. */
  readonly seq: number;
  /** The edit that first wrote it; differs from `seq` for content that came back. */
  readonly origin: number;
  readonly side: 'earlier' | 'later';
}

/**
 * Lays provenance over the changes between two moments: for what was added, the edit it was born in; for what was
 * removed, the edit it departed with; for a change of form, the edit that made it. Linear in runs and changes. Rests after each change.
 */
export function* creditChanges(
  changes: readonly Change[],
  provenance: Provenance,
  earlier: number,
  later: number,
): Work<Credit[][]> {
  const before = provenance.runs.at(earlier);
  const after = provenance.runs.at(later);
  const forms = changes.some(({ kind }) => kind === 'form') ? new FormIndex(provenance.forms) : null;
  const credits: Credit[][] = [];
  for (const change of changes) {
    credits.push(
      forms && change.kind === 'form'
        ? formCredit(change, forms, after, earlier, later)
        : contentCredit(change, before, after, earlier, later),
    );
    yield;
  }
  return credits;
}

/** Who took away and who put in what a change holds. */
function contentCredit(
  change: Change,
  before: PlacedRuns,
  after: PlacedRuns,
  earlier: number,
  later: number,
): Credit[] {
  const stands = standsOf(change);
  const removed = stands.earlier.flatMap(({ from, to }) =>
    before
      .between(from, to)
      .flatMap((run): Credit[] =>
        run.diedAt > earlier && run.diedAt <= later
          ? [{ ...stretch(run), seq: run.diedAt, origin: run.origin.seq, side: 'earlier' }]
          : [],
      ),
  );
  const added = stands.later.flatMap(({ from, to }) =>
    after
      .between(from, to)
      .flatMap((run): Credit[] =>
        run.seq > earlier ? [{ ...stretch(run), seq: run.seq, origin: run.origin.seq, side: 'later' }] : [],
      ),
  );
  return joined([...removed, ...added]);
}

/** Who made a change of form: by the log of forms, else by who put in the block, or what is round it, anew. */
function formCredit(
  change: Change,
  forms: FormIndex,
  after: PlacedRuns,
  earlier: number,
  later: number,
): Credit[] {
  const credits: Credit[] = [];
  const credit = (run: PlacedRun): void => {
    for (const piece of piecesByForm(run, forms)) {
      const seqs = makersOf(piece, change.form, forms, earlier, later);
      if (seqs.length === 0 && run.seq > earlier) seqs.push(run.seq);
      for (const seq of seqs) credits.push({ ...stretch(piece), seq, origin: run.origin.seq, side: 'later' });
    }
  };
  for (const { from, to } of standsOf(change).later) {
    const runs = after.between(from, to);
    (change.block ? runs.slice(0, 1) : runs).forEach(credit);
    for (let at = from - 1; change.block && credits.length === 0 && at >= 0 && at > from - 3; at--)
      after.between(at, at + 1).forEach(credit);
  }
  return joined(credits);
}

/** The last edits between two moments that set each of some forms on what a run holds, which all of them touch as a whole. */
function makersOf(
  run: PlacedRun,
  names: readonly string[],
  forms: FormIndex,
  earlier: number,
  later: number,
): number[] {
  const set = forms.touching(run).filter(({ seq }) => seq > earlier && seq <= later);
  const seqs = names.flatMap((name) => set.findLast(({ form }) => formName(form) === name)?.seq ?? []);
  return [...new Set(seqs)];
}

/** A run cut where changes of form on it begin and end. */
function piecesByForm(run: PlacedRun, forms: FormIndex): PlacedRun[] {
  const end = run.offset + run.length;
  const edges = forms.touching(run).flatMap(({ range }) => [range.offset, range.offset + range.length]);
  const cuts = [...new Set([...edges.filter((edge) => edge > run.offset && edge < end), end])].sort(
    (a, b) => a - b,
  );
  let at = run.offset;
  return cuts.map((cut) => {
    const from = run.from + at - run.offset;
    const piece = { ...run, offset: at, length: cut - at, from, to: from + cut - at };
    at = cut;
    return piece;
  });
}

function stretch({ from, to }: PlacedRun): Stretch {
  return { from, to };
}

/** Neighbouring stretches of one edit as one. */
function joined(credits: readonly Credit[]): Credit[] {
  const out: Credit[] = [];
  for (const credit of credits) {
    const last = out.at(-1);
    if (
      last &&
      last.seq === credit.seq &&
      last.origin === credit.origin &&
      last.side === credit.side &&
      last.to === credit.from
    ) {
      out[out.length - 1] = { ...last, to: credit.to };
    } else out.push(credit);
  }
  return out;
}
