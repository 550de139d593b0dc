import type { FormChange } from './forms.js';
import { FormIndex } from './form-index.js';
import type { Run } from './placed.js';
import type { RunSequence } from './runs.js';

/** Finds the changes of form that touch what stands, also those from before it departed and came back as another instance. */
export class Lineage {
  private readonly index: FormIndex;
  /** Departed runs whose form was changed, by the edit that first wrote them. */
  private readonly gone = new Map<number, Run[]>();

  constructor(runs: RunSequence, forms: readonly FormChange[]) {
    this.index = new FormIndex(forms);
    const changed = new Set(forms.map(({ range }) => range.seq));
    for (const run of changed.size > 0 ? runs.all() : []) {
      if (run.diedAt === 0 || !changed.has(run.seq)) continue;
      const held = this.gone.get(run.origin.seq);
      if (held) held.push(run);
      else this.gone.set(run.origin.seq, [run]);
    }
  }

  /** The changes on a run and on what it was before, by instances of the run, in the order of the log. */
  of(run: Run): FormIndex {
    const before = (this.gone.get(run.origin.seq) ?? []).filter(({ diedAt }) => diedAt <= run.seq);
    if (before.length === 0) return this.index;
    const earlier = before.flatMap((one) => this.changesOn(one, run));
    return new FormIndex([...earlier, ...this.index.touching(run)].sort((a, b) => a.seq - b.seq));
  }

  /** The changes on a departed run where a later one holds the same, by instances of the later one. */
  private changesOn(gone: Run, run: Run): FormChange[] {
    const shift = gone.offset - gone.origin.offset - (run.offset - run.origin.offset);
    const from = Math.max(gone.offset, run.offset + shift);
    const to = Math.min(gone.offset + gone.length, run.offset + run.length + shift);
    if (from >= to) return [];
    return this.index.touching({ seq: gone.seq, offset: from, length: to - from }).map((change) => {
      const start = Math.max(from, change.range.offset);
      const end = Math.min(to, change.range.offset + change.range.length);
      return { ...change, range: { seq: run.seq, offset: start - shift, length: end - start } };
    });
  }
}
