import { DIED, FIELDS, LENGTH, OFFSET, ORIGIN_OFFSET, ORIGIN_SEQ, SEQ } from './chunk.js';
import type { Instance } from './edit.js';
import type { RunSequence } from './runs.js';

/** Runs looked at between two instances, or beside one, before they are taken to be apart. */
const FAR = 4096;

/** Runs that may stand between what departed and what came back in its place. */
const MOST_BETWEEN = 64;

/** Where an instance is in a sequence of runs: the run by its number, and how far into it. */
export interface RunSpot {
  readonly run: number;
  readonly inside: number;
}

/** A run sequence as it is at one time, in which instances are found, and what stood beside them. */
export class RunIndex {
  private readonly data: Int32Array;
  /** The runs of the edits that were asked for, by edit, in order of offset. */
  private readonly runs = new Map<number, number[]>();
  readonly size: number;

  constructor(sequence: RunSequence) {
    this.data = sequence.encode().subarray(1);
    this.size = this.data.length / FIELDS;
  }

  /** Makes the instances of some edits known to `find`. One pass over the runs. */
  know(seqs: Iterable<number>): void {
    const asked = new Map<number, number[]>();
    for (const seq of seqs) if (!this.runs.has(seq)) asked.set(seq, []);
    if (asked.size === 0) return;
    for (let run = 0; run < this.size; run++) asked.get(this.field(run, SEQ))?.push(run);
    for (const [seq, found] of asked) {
      found.sort((a, b) => this.field(a, OFFSET) - this.field(b, OFFSET));
      this.runs.set(seq, found);
    }
  }

  /** Where an instance of an edit that is known is; null where there is none. */
  find({ seq, offset }: Instance): RunSpot | null {
    const runs = this.runs.get(seq) ?? [];
    let [low, high] = [0, runs.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      const run = runs[middle] as number;
      if (this.field(run, OFFSET) + this.field(run, LENGTH) <= offset) low = middle + 1;
      else high = middle;
    }
    const run = runs[low];
    const inside = run === undefined ? -1 : offset - this.field(run, OFFSET);
    return run === undefined || inside < 0 ? null : { run, inside };
  }

  seq(run: number): number {
    return this.field(run, SEQ);
  }

  length(run: number): number {
    return this.field(run, LENGTH);
  }

  isAlive(run: number): boolean {
    return this.field(run, DIED) === 0;
  }

  instance({ run, inside }: RunSpot): Instance {
    return { seq: this.field(run, SEQ), offset: this.field(run, OFFSET) + inside };
  }

  /** Where what stands at a spot was first written. */
  origin({ run, inside }: RunSpot): Instance {
    return { seq: this.field(run, ORIGIN_SEQ), offset: this.field(run, ORIGIN_OFFSET) + inside };
  }

  /**
   * What stood beside an instance on one side when it last stood: now, or right before it departed. Null at an edge of the
   * document, undefined where it is not to be found nearby.
   */
  beside({ run, inside }: RunSpot, side: 1 | -1): Instance | null | undefined {
    const next = inside + side;
    if (next >= 0 && next < this.length(run)) return this.instance({ run, inside: next });
    const moment = this.field(run, DIED) === 0 ? Infinity : this.field(run, DIED) - 1;
    for (let at = run + side, seen = 0; seen < FAR; at += side, seen++) {
      if (at < 0 || at >= this.size) return null;
      const died = this.field(at, DIED);
      if (this.field(at, SEQ) <= moment && (died === 0 || died > moment))
        return this.instance({ run: at, inside: side === 1 ? 0 : this.length(at) - 1 });
    }
    return undefined;
  }

  /**
   * Whether what stands in a run is where something departed: nothing that stands is between, but what the same edit brought,
   * and what came back before and was first written on the other side of what departed.
   */
  isPlaceOf(gone: RunSpot, run: number): boolean {
    if (this.isAlive(gone.run) || Math.abs(run - gone.run) > FAR) return false;
    const between: number[] = [];
    for (let at = Math.min(run, gone.run) + 1; at < Math.max(run, gone.run); at++)
      if (this.isAlive(at) && this.seq(at) !== this.seq(run)) between.push(at);
    if (between.length > MOST_BETWEEN) return false;
    const origins = between.map((at) => this.origin({ run: at, inside: 0 }));
    this.know(origins.map(({ seq }) => seq));
    return origins.every((origin) => {
      const first = this.find(origin);
      return first !== null && first.run !== gone.run && first.run > gone.run === gone.run > run;
    });
  }

  /** Whether two instances stood side by side, the one right before the other, at some moment. */
  together(one: RunSpot, other: RunSpot): boolean {
    if (one.run === other.run) return other.inside === one.inside + 1;
    if (one.inside !== this.length(one.run) - 1 || other.inside !== 0) return false;
    if (other.run < one.run || other.run - one.run > FAR) return false;
    let moments = overlap([this.life(one.run)], this.life(other.run));
    for (let run = one.run + 1; run < other.run && moments.length > 0; run++)
      moments = without(moments, this.life(run));
    return moments.length > 0;
  }

  /** The moments at which a run stood: from its first to before the last. */
  private life(run: number): Span {
    const died = this.field(run, DIED);
    return [this.field(run, SEQ), died === 0 ? Infinity : died];
  }

  private field(run: number, field: number): number {
    return this.data[run * FIELDS + field] as number;
  }
}

type Span = readonly [from: number, to: number];

function overlap(spans: readonly Span[], [from, to]: Span): Span[] {
  return spans.flatMap(([a, b]): Span[] => {
    const span: Span = [Math.max(a, from), Math.min(b, to)];
    return span[0] < span[1] ? [span] : [];
  });
}

function without(spans: readonly Span[], [from, to]: Span): Span[] {
  return from >= to ? [...spans] : [...overlap(spans, [-Infinity, from]), ...overlap(spans, [to, Infinity])];
}
