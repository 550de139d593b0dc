import type { Instance, InstanceRange, RunSequence } from '../history/index.js';
import { Instances } from './instances.js';

/** A stretch of instances that is a copy of another one, of this document or of another. */
export interface CopiedRange {
  readonly from: InstanceRange;
  readonly to: InstanceRange;
}

/** A first and a last instance. */
export interface Ends {
  readonly first: Instance;
  readonly last: Instance;
}

/**
 * A passage with all that ever stood inside it: what filled positions `from` to `to` of a moment, and between its first and
 * its last instance what was typed and corrected, before and since. Reads the run sequence twice.
 */
export function passageAt(runs: RunSequence, moment: number, from: number, to: number): Instances {
  const placed = runs.at(moment).between(from, to);
  const [first, last] = [placed[0], placed.at(-1)];
  if (!first || !last) return Instances.of([]);
  return insideOf(runs, [{ first, last: { seq: last.seq, offset: last.offset + last.length - 1 } }]);
}

/** All that ever stood between some first and last instances, and they themselves. Reads the run sequence once. */
export function insideOf(runs: RunSequence, passages: Iterable<Ends>): Instances {
  const turns = new Map<number, { at: number; by: number }[]>();
  const turn = ({ seq, offset }: Instance, by: number): void => {
    const held = turns.get(seq) ?? [];
    turns.set(seq, held);
    held.push({ at: offset, by });
  };
  for (const { first, last } of passages) {
    turn(first, 1);
    turn({ seq: last.seq, offset: last.offset + 1 }, -1);
  }
  const out: InstanceRange[] = [];
  let open = 0;
  for (const { seq, offset, length } of runs.all()) {
    const end = offset + length;
    let at = offset;
    const here = (turns.get(seq) ?? [])
      .filter((one) => (one.by > 0 ? one.at >= offset && one.at < end : one.at > offset && one.at <= end))
      .sort((a, b) => a.at - b.at || b.by - a.by);
    for (const one of here) {
      if (open > 0) out.push({ seq, offset: at, length: one.at - at });
      at = one.at;
      open += one.by;
    }
    if (open > 0) out.push({ seq, offset: at, length: end - at });
  }
  return Instances.of(out);
}

/**
 * All instances of a history that hold what a set holds: those that share its origins, up and down. `copies` tells of stretches that
 * are copies without keeping their credit. Reads the run sequence twice, and once more for each generation of such copies.
 */
export function sharing(runs: RunSequence, set: Instances, copies: readonly CopiedRange[] = []): Instances {
  for (let held = set; ;) {
    const next = byCopies(byOrigin(runs, held), copies);
    if (next.size === held.size) return held;
    held = next;
  }
}

function byOrigin(runs: RunSequence, set: Instances): Instances {
  const roots: InstanceRange[] = [];
  for (const run of runs.all())
    for (const { from, to } of set.within(run))
      roots.push({
        seq: run.origin.seq,
        offset: run.origin.offset + from - run.offset,
        length: to - from,
      });
  const origins = Instances.of(roots);
  const out = set.ranges();
  for (const run of runs.all()) {
    const { seq, offset } = run.origin;
    for (const { from, to } of origins.within({ seq, offset, length: run.length }))
      out.push({ seq: run.seq, offset: run.offset + from - offset, length: to - from });
  }
  return Instances.of(out);
}

/** A set with what is a copy of any of it, and what any of it is a copy of. */
export function byCopies(set: Instances, copies: readonly CopiedRange[]): Instances {
  if (copies.length === 0) return set;
  return Instances.of([
    ...set.ranges(),
    ...copies.flatMap(({ from, to }) => [...carried(set, from, to), ...carried(set, to, from)]),
  ]);
}

/** What of a set lies in one stretch, as it lies in another of the same length. */
export function carried(set: Instances, one: InstanceRange, other: InstanceRange): InstanceRange[] {
  return set.within(one).map(({ from, to }) => ({
    seq: other.seq,
    offset: other.offset + from - one.offset,
    length: to - from,
  }));
}

/**
 * What a history began and ended between kept moments, so that none of them shows it. Kept are `moments`, in order, and every
 * moment from edit `open` on.
 */
export function unseenAt(runs: RunSequence, moments: readonly number[], open = Infinity): Instances {
  const kept = (seq: number): number => {
    if (seq >= open) return seq;
    let [low, high] = [0, moments.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((moments[middle] as number) < seq) low = middle + 1;
      else high = middle;
    }
    return Math.min(moments[low] ?? Infinity, open);
  };
  const out: InstanceRange[] = [];
  for (const { seq, offset, length, diedAt } of runs.all())
    if (diedAt !== 0 && diedAt <= kept(seq)) out.push({ seq, offset, length });
  return Instances.of(out);
}
