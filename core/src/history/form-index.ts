import type { InstanceRange } from './edit.js';
import type { FormChange } from './forms.js';

/** The changes of form on what one edit inserted, by offset, each with the furthest end of those up to it. */
interface Shelf {
  readonly changes: readonly { readonly change: FormChange; readonly order: number }[];
  readonly reach: readonly number[];
}

/** Finds the changes of form that touch a stretch of instances without looking at all of them. */
export class FormIndex {
  private readonly shelves = new Map<number, Shelf>();

  /** `forms` in the order of the log. */
  constructor(forms: readonly FormChange[]) {
    const bySeq = new Map<number, { change: FormChange; order: number }[]>();
    for (const [order, change] of forms.entries()) {
      const held = bySeq.get(change.range.seq);
      if (held) held.push({ change, order });
      else bySeq.set(change.range.seq, [{ change, order }]);
    }
    for (const [seq, changes] of bySeq) {
      changes.sort((a, b) => a.change.range.offset - b.change.range.offset);
      let far = 0;
      const reach = changes.map(
        ({ change: { range } }) => (far = Math.max(far, range.offset + range.length)),
      );
      this.shelves.set(seq, { changes, reach });
    }
  }

  /** The changes that touch a stretch, in the order of the log. */
  touching({ seq, offset, length }: InstanceRange): FormChange[] {
    const shelf = this.shelves.get(seq);
    if (!shelf) return [];
    const { changes, reach } = shelf;
    let [low, high] = [0, changes.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((changes[middle]?.change.range.offset ?? 0) < offset + length) low = middle + 1;
      else high = middle;
    }
    const found: { change: FormChange; order: number }[] = [];
    for (let i = low - 1; i >= 0 && (reach[i] as number) > offset; i--) {
      const one = changes[i];
      if (one && one.change.range.offset + one.change.range.length > offset) found.push(one);
    }
    return found.sort((a, b) => a.order - b.order).map(({ change }) => change);
  }
}
