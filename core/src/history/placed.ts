import { DIED, FIELDS, LENGTH, OFFSET, ORIGIN_OFFSET, ORIGIN_SEQ, SEQ } from './chunk.js';
import type { InstanceRange } from './edit.js';

/** A stretch of instances that share birth, death and origin. `diedAt` is 0 while alive. */
export interface Run extends InstanceRange {
  readonly diedAt: number;
  /** Where the content was first written; the run itself unless it is a return. */
  readonly origin: { readonly seq: number; readonly offset: number };
}

/** A run alive at some moment, with the positions it filled then. */
export interface PlacedRun extends Run {
  readonly from: number;
  readonly to: number;
}

/** The runs that filled a document at one moment, in order of position. */
export class PlacedRuns {
  constructor(
    private readonly data: Int32Array,
    private readonly starts: Int32Array,
    /** Number of runs. */
    readonly count: number,
  ) {}

  /** Size of the document's content at that moment. */
  get size(): number {
    return this.starts[this.count] as number;
  }

  /** The runs, cut to size, that fill positions `from` to `to`. Binary search, then what is asked for. */
  between(from: number, to: number): PlacedRun[] {
    let low = 0;
    let high = this.count;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.starts[middle + 1] as number) <= from) low = middle + 1;
      else high = middle;
    }
    const out: PlacedRun[] = [];
    for (let i = low; i < this.count && (this.starts[i] as number) < to; i++) {
      const position = this.starts[i] as number;
      const run = read(this.data, i);
      const start = Math.max(position, from);
      const end = Math.min(position + run.length, to);
      if (start < end) out.push({ ...part(run, start - position, end - start), from: start, to: end });
    }
    return out;
  }
}

/** Run number `index` of a list of integers. */
export function read(data: Int32Array, index: number): Run {
  const at = index * FIELDS;
  const field = (offset: number): number => data[at + offset] as number;
  return {
    seq: field(SEQ),
    offset: field(OFFSET),
    length: field(LENGTH),
    diedAt: field(DIED),
    origin: { seq: field(ORIGIN_SEQ), offset: field(ORIGIN_OFFSET) },
  };
}

/** `length` tokens of a run from its token `skip` on. */
export function part<R extends Run>(run: R, skip: number, length: number): R {
  return {
    ...run,
    offset: run.offset + skip,
    length,
    origin: { seq: run.origin.seq, offset: run.origin.offset + skip },
  };
}
