import type { Step } from 'prosemirror-transform';
import { Mapping, StepMap } from 'prosemirror-transform';
import { insertedLengths } from './provenance.js';
import type { Source } from './edit.js';

/** Says which tokens of which step's insertion it is about. */
type Placed = Pick<Source, 'step' | 'at' | 'length'>;

/**
 * What lies between a writer's document and the document that the writer's steps are carried to, as position maps that lead
 * from the one to the other. Each step that crosses goes on in both, so the maps are carried over it in turn (operational
 * transformation as in Ellis and Gibbs 1989, on position maps). A step costs one look at each map, whatever was carried before
 * it. The authority and the editors share it.
 */
export class Crossing {
  private maps: StepMap[];
  /** Whether nobody else holds the list, so that it may be added to. */
  private isOwn = true;

  /** `between`: the maps of what others did since the two documents were one, in order. */
  constructor(between: readonly StepMap[]) {
    this.maps = between.reduce<StepMap[]>(joinedTo, []);
  }

  /** How many maps a step is carried over: what carrying one costs. */
  get width(): number {
    return this.maps.length;
  }

  /**
   * Carries the writer's next step over. `apply` tries it on the other document. Null when its place is gone or it no
   * longer fits; then it is only in the writer's document.
   */
  carry(step: Step, apply: (step: Step) => boolean): Step | null {
    const changed = changedBy(step);
    const maps = changed.length === 0 ? this.maps : crossed(this.maps, changed);
    const carried = step.map(new Mapping(this.maps));
    if (!carried || !apply(carried)) {
      this.leave(step);
      return null;
    }
    if (maps !== this.maps) [this.maps, this.isOwn] = [maps, true];
    return carried;
  }

  /** The writer's next step is not carried over. */
  leave(step: Step): void {
    const map = step.getMap().invert();
    const [next, ...rest] = this.maps;
    this.maps = next ? [...joinedTo([map], next), ...rest] : [map];
    this.isOwn = true;
  }

  /** Something more was done to the other document. */
  follow(map: StepMap): void {
    if (!this.isOwn) this.maps = [...this.maps];
    this.isOwn = true;
    joinedTo(this.maps, map);
  }

  /** What the other document had that the writer's had not, when things stood as at a mark, as stretches of the other. */
  unseen(mark: readonly StepMap[]): { from: number; to: number }[] {
    return mark.flatMap((map, i) => {
      const later = new Mapping(mark.slice(i + 1));
      const out: { from: number; to: number }[] = [];
      map.forEach((_start, _end, from, to) => {
        const stretch = { from: later.map(from, 1), to: later.map(to, -1) };
        if (stretch.from < stretch.to) out.push(stretch);
      });
      return out;
    });
  }

  /** How things stand, for `back` to go back to. */
  mark(): readonly StepMap[] {
    this.isOwn = false;
    return this.maps;
  }

  back(mark: readonly StepMap[]): void {
    this.maps = [...mark];
    this.isOwn = true;
  }
}

/** Adds a map to a list; one that only goes on with the last is joined to it, so that typing is one map. Changes the list. */
function joinedTo(maps: StepMap[], map: StepMap): StepMap[] {
  const [last, next] = [onlyRange(maps.at(-1)), onlyRange(map)];
  const joined = last && next && joinedRange(last, next);
  if (joined) maps[maps.length - 1] = new StepMap(joined);
  else if (next !== null) maps.push(map);
  return maps;
}

/** Start, old size and new size. */
type Range = readonly [start: number, before: number, after: number];

/** The range of a map with a single one; undefined for more or no map, null for a map without any. */
function onlyRange(map: StepMap | undefined): Range | null | undefined {
  let found: Range | null | undefined = map && null;
  map?.forEach((start, end, newStart, newEnd) => {
    found = found === null ? [start, end - start, newEnd - newStart] : undefined;
  });
  return found;
}

/** Two ranges as one, where the second only changes what the first inserted: no position is led elsewhere by that. */
function joinedRange(last: Range, next: Range): Range | null {
  const [start, before, after] = last;
  const end = next[0] + next[1];
  const within =
    before === 0 ? next[0] >= start && end <= start + after : next[0] > start && end < start + after;
  return within ? [start, before, after - next[1] + next[2]] : null;
}

/** A stretch that the writer's step replaces, on its way through the maps, and the size of what comes in its place. */
interface Changed {
  from: number;
  to: number;
  readonly size: number;
  /** What is put between two units stays with the one before it, as the end of a wrap does. */
  readonly leansBack: boolean;
}

function changedBy(step: Step): Changed[] {
  const out: Changed[] = [];
  step.getMap().forEach((from, to, newFrom, newTo) => {
    out.push({ from, to, size: newTo - newFrom, leansBack: from === to && out.length > 0 });
  });
  return out;
}

/** Maps carried over a step of the writer's, without those of which nothing is left. Uses `changed` up. */
function crossed(maps: readonly StepMap[], changed: readonly Changed[]): StepMap[] {
  const out: StepMap[] = [];
  for (const map of maps) {
    const ranges: number[] = [];
    let last = 0;
    map.forEach((start, end, newStart, newEnd) => {
      last = end;
      if (start === end) inserted(start, newEnd - newStart, changed, ranges);
      else replaced(start, end, newEnd - newStart, changed, ranges);
    });
    const before = changed.every((one) => Math.min(one.from, one.to) > last);
    if (before) out.push(map);
    else if (ranges.length > 0) out.push(new StepMap(ranges));
    for (const one of changed) {
      one.from = map.map(one.from, 1);
      one.to = map.map(one.to, -1);
    }
  }
  return out;
}

/** Where the stretch is that a step replaces: its ends may have passed each other when something came between them. */
function endsOf({ from, to, leansBack }: Changed): [number, number] {
  return leansBack ? [to, to] : [from, Math.max(from, to)];
}

/** Sets down an insertion as it stands behind the writer's step. Where both put something at one place, it comes first. */
function inserted(at: number, size: number, changed: readonly Changed[], ranges: number[]): void {
  let shift = 0;
  for (const one of changed) {
    const [from, to] = endsOf(one);
    if (from < at && at < to) return;
    if (to < at || (to === at && (from < to || one.leansBack))) shift += one.size - (to - from);
  }
  ranges.push(at + shift, 0, size);
}

/** Sets down what is left of a replacement behind the writer's step: all but what the step took, around what it put in. */
function replaced(
  start: number,
  end: number,
  size: number,
  changed: readonly Changed[],
  ranges: number[],
): void {
  let [at, shift, left] = [start, 0, size];
  const piece = (to: number): void => {
    if (to <= at) return;
    ranges.push(at + shift, to - at, left);
    left = 0;
  };
  for (const one of changed) {
    const [from, to] = endsOf(one);
    if (from >= end && to > start) break;
    if (to > start) piece(from);
    at = Math.max(at, Math.min(to, end));
    shift += one.size - (to - from);
  }
  piece(end);
}

/** Steps that were kept, and the sources that still have their step, renumbered. */
export function keepCarried<S extends Placed>(
  carried: readonly (Step | null)[],
  sources: readonly S[],
): { steps: Step[]; sources: S[] } {
  const steps = carried.filter((step) => step !== null);
  const lengths = insertedLengths(steps);
  const index = new Map<number, number>();
  carried.forEach((step, i) => step && index.set(i, index.size));
  const kept = sources.flatMap((source) => {
    const step = index.get(source.step);
    return step !== undefined && source.at + source.length <= (lengths[step] ?? 0)
      ? [{ ...source, step }]
      : [];
  });
  return { steps, sources: kept };
}
