import type { PlacedRun, Provenance } from '../history/index.js';
import type { Change, Stretch } from './changes.js';

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
 * removed, the edit it departed with; for a change of form, the edit that made it. Linear in runs and changes.
 */
export function creditChanges(changes: readonly Change[], provenance: Provenance, earlier: number, later: number): Credit[][] {
  const before = provenance.runs.at(earlier);
  const after = provenance.runs.at(later);
  return changes.map((change) => {
    if (change.kind === 'form') return formCredit(change, provenance, after, earlier, later);
    const removed = overlapping(before, change.place.earlier).flatMap((run): Credit[] =>
      run.diedAt > earlier && run.diedAt <= later ? [{ ...stretch(run), seq: run.diedAt, origin: run.origin.seq, side: 'earlier' }] : [],
    );
    const added = overlapping(after, change.place.later).flatMap((run): Credit[] =>
      run.seq > earlier ? [{ ...stretch(run), seq: run.seq, origin: run.origin.seq, side: 'later' }] : [],
    );
    return joined([...removed, ...added]);
  });
}

function formCredit(change: Change, { forms }: Provenance, after: readonly PlacedRun[], earlier: number, later: number): Credit[] {
  const credits: Credit[] = [];
  for (const run of overlapping(after, change.place.later)) {
    const made = forms.findLast(
      ({ seq, range }) =>
        seq > earlier && seq <= later && range.seq === run.seq && range.offset < run.offset + run.length && run.offset < range.offset + range.length,
    );
    const seq = made?.seq ?? (run.seq > earlier ? run.seq : null);
    if (seq !== null) credits.push({ ...stretch(run), seq, origin: run.origin.seq, side: 'later' });
    if (change.block) break;
  }
  return joined(credits);
}

function stretch({ from, to }: PlacedRun): Stretch {
  return { from, to };
}

/** Neighbouring stretches of one edit as one. */
function joined(credits: readonly Credit[]): Credit[] {
  const out: Credit[] = [];
  for (const credit of credits) {
    const last = out.at(-1);
    if (last && last.seq === credit.seq && last.origin === credit.origin && last.side === credit.side && last.to === credit.from) {
      out[out.length - 1] = { ...last, to: credit.to };
    } else out.push(credit);
  }
  return out;
}

/** The runs, cut to size, that fill a stretch. `placed` is as `RunSequence.at` gives it. */
export function overlapping(placed: readonly PlacedRun[], { from, to }: Stretch): PlacedRun[] {
  let low = 0;
  let high = placed.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((placed[middle] as PlacedRun).to <= from) low = middle + 1;
    else high = middle;
  }
  const out: PlacedRun[] = [];
  for (let i = low; i < placed.length; i++) {
    const run = placed[i] as PlacedRun;
    if (run.from >= to) break;
    const start = Math.max(run.from, from);
    const end = Math.min(run.to, to);
    const skip = start - run.from;
    out.push({
      ...run,
      offset: run.offset + skip,
      length: end - start,
      origin: { seq: run.origin.seq, offset: run.origin.offset + skip },
      from: start,
      to: end,
    });
  }
  return out;
}
