import type { StepMap } from 'prosemirror-transform';
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

/** What stands at an inserted place when content came back: same shape as `Source`, counted within the whole edit. */
export interface Return extends InstanceRange {
  readonly at: number;
}

const CAPACITY = 256;
const FIELDS = 6;
const [SEQ, OFFSET, LENGTH, DIED, ORIGIN_SEQ, ORIGIN_OFFSET] = [0, 1, 2, 3, 4, 5] as const;

/** Up to `CAPACITY` runs side by side, six integers each. */
class Chunk {
  readonly data: Int32Array;
  count = 0;
  alive = 0;

  constructor(data?: Int32Array) {
    this.data = data ?? new Int32Array(CAPACITY * FIELDS);
  }

  get(index: number, field: number): number {
    return this.data[index * FIELDS + field] as number;
  }

  set(index: number, field: number, value: number): void {
    this.data[index * FIELDS + field] = value;
  }

  aliveLength(index: number): number {
    return this.get(index, DIED) === 0 ? this.get(index, LENGTH) : 0;
  }

  insert(index: number, run: readonly [number, number, number, number, number, number]): void {
    this.data.copyWithin((index + 1) * FIELDS, index * FIELDS, this.count * FIELDS);
    this.data.set(run, index * FIELDS);
    this.count++;
    if (run[DIED] === 0) this.alive += run[LENGTH];
  }

  /** Splits run `index` after `length` of its tokens. */
  split(index: number, length: number): void {
    const at = index * FIELDS;
    this.data.copyWithin(at + FIELDS, at, this.count * FIELDS);
    this.count++;
    this.set(index, LENGTH, length);
    for (const field of [OFFSET, ORIGIN_OFFSET]) this.set(index + 1, field, this.get(index + 1, field) + length);
    this.set(index + 1, LENGTH, this.get(index + 1, LENGTH) - length);
  }

  halve(): Chunk {
    const half = this.count >> 1;
    const right = new Chunk();
    right.data.set(this.data.subarray(half * FIELDS, this.count * FIELDS));
    right.count = this.count - half;
    this.count = half;
    for (let i = 0; i < right.count; i++) right.alive += right.aliveLength(i);
    this.alive -= right.alive;
    return right;
  }

  clone(): Chunk {
    const copy = new Chunk(this.data.slice());
    copy.count = this.count;
    copy.alive = this.alive;
    return copy;
  }
}

/**
 * All instances a document ever had, alive and departed, in document order (a sequence with tombstones). Appending
 * an edit costs what the edit touches, not what the document or its log weighs.
 */
export class RunSequence {
  private chunks: Chunk[] = [new Chunk()];
  private ends = 0;

  /** A sequence whose first `length` tokens were all born in `seq`: a blank document, or the state a reader joined at. */
  static starting(seq: number, length: number): RunSequence {
    const runs = new RunSequence();
    const chunk = runs.chunks[0] as Chunk;
    if (length > 0) chunk.insert(0, [seq, 0, length, 0, seq, 0]);
    runs.ends = seq;
    return runs;
  }

  /** The last edit appended. */
  get seq(): number {
    return this.ends;
  }

  /** Number of runs, alive and departed. */
  get size(): number {
    return this.chunks.reduce((sum, chunk) => sum + chunk.count, 0);
  }

  /** Number of alive tokens: the size of the document's content. */
  get alive(): number {
    return this.chunks.reduce((sum, chunk) => sum + chunk.alive, 0);
  }

  clone(): RunSequence {
    const copy = new RunSequence();
    copy.chunks = this.chunks.map((chunk) => chunk.clone());
    copy.ends = this.ends;
    return copy;
  }

  /**
   * Appends an edit: what its maps remove departs with `seq`, what they insert is born in `seq`, in order of
   * insertion. `returns` (sorted by `at`, counted within the whole edit) say which of the inserted tokens came back, and
   * from which root origin; `before` is how many tokens earlier steps of the same edit inserted.
   */
  append(seq: number, maps: readonly StepMap[], returns: readonly Return[] = [], before = 0): void {
    let inserted = before;
    for (const map of maps) {
      map.forEach((oldStart, oldEnd, newStart, newEnd) => {
        if (oldEnd > oldStart) this.remove(newStart, oldEnd - oldStart, seq);
        const length = newEnd - newStart;
        if (length > 0) this.insert(newStart, cut(seq, inserted, length, returns));
        inserted += length;
      });
    }
    this.ends = seq;
  }

  private remove(position: number, length: number, seq: number): void {
    let left = length;
    while (left > 0) {
      const { chunk: c, index, inside } = this.find(position);
      const chunk = this.roomy(c);
      if (!chunk) continue;
      if (index >= chunk.count) throw new RangeError('An edit removes more than the document holds');
      if (inside > 0) {
        chunk.split(index, inside);
        continue;
      }
      if (chunk.get(index, LENGTH) > left) chunk.split(index, left);
      const gone = chunk.get(index, LENGTH);
      chunk.set(index, DIED, seq);
      chunk.alive -= gone;
      left -= gone;
    }
  }

  private insert(position: number, runs: readonly Run[]): void {
    let at = position;
    for (let i = 0; i < runs.length; ) {
      const run = runs[i] as Run;
      const { chunk: c, index, inside } = this.find(at, true);
      const chunk = this.roomy(c);
      if (!chunk) continue;
      if (inside > 0) chunk.split(index, inside);
      chunk.insert(inside > 0 ? index + 1 : index, [run.seq, run.offset, run.length, run.diedAt, run.origin.seq, run.origin.offset]);
      at += run.length;
      i++;
    }
  }

  /** Chunk `c` when two more runs fit into it; otherwise halves it and answers null: places found before are stale. */
  private roomy(c: number): Chunk | null {
    const chunk = this.chunks[c] as Chunk;
    if (chunk.count <= CAPACITY - 2) return chunk;
    this.chunks.splice(c + 1, 0, chunk.halve());
    return null;
  }

  /**
   * Where an alive position lies: `inside` tokens into run `index` of chunk `chunk`. With `after`, a position between
   * two runs is right behind the one before it, in front of what departed there.
   */
  private find(position: number, after = false): { chunk: number; index: number; inside: number } {
    let left = position;
    for (let c = 0; c < this.chunks.length; c++) {
      const chunk = this.chunks[c] as Chunk;
      if (left > chunk.alive || (left === chunk.alive && !after && c < this.chunks.length - 1)) {
        left -= chunk.alive;
        continue;
      }
      if (after && left === 0) return { chunk: c, index: 0, inside: 0 };
      for (let i = 0; i < chunk.count; i++) {
        const length = chunk.aliveLength(i);
        if (length === 0) continue;
        if (left < length) return { chunk: c, index: i, inside: left };
        left -= length;
        if (after && left === 0) return { chunk: c, index: i + 1, inside: 0 };
      }
      return { chunk: c, index: chunk.count, inside: 0 };
    }
    throw new RangeError('A position lies outside the document');
  }

  /** Every run, alive and departed, in document order. */
  *all(): IterableIterator<Run> {
    for (const chunk of this.chunks) {
      for (let i = 0; i < chunk.count; i++) yield read(chunk, i);
    }
  }

  /** The runs alive right after edit `moment`, with their positions then. */
  at(moment: number = this.ends): PlacedRun[] {
    const out: PlacedRun[] = [];
    let position = 0;
    for (const chunk of this.chunks) {
      for (let i = 0; i < chunk.count; i++) {
        if (chunk.get(i, SEQ) > moment) continue;
        const died = chunk.get(i, DIED);
        if (died !== 0 && died <= moment) continue;
        const run = read(chunk, i);
        out.push({ ...run, from: position, to: position + run.length });
        position += run.length;
      }
    }
    return out;
  }

  /** The alive runs, cut to size, that fill positions `from` to `to` of the present document. */
  between(from: number, to: number): PlacedRun[] {
    const out: PlacedRun[] = [];
    let position = 0;
    for (const chunk of this.chunks) {
      if (position >= to) break;
      if (position + chunk.alive <= from) {
        position += chunk.alive;
        continue;
      }
      for (let i = 0; i < chunk.count && position < to; i++) {
        const length = chunk.aliveLength(i);
        const start = Math.max(position, from);
        const end = Math.min(position + length, to);
        if (start < end) out.push({ ...part(read(chunk, i), start - position, end - start), from: start, to: end });
        position += length;
      }
    }
    return out;
  }

  /** The pieces of instance range `range`, in document order, wherever they stand. Reads the whole sequence once. */
  pieces(range: InstanceRange): Run[] {
    const out: Run[] = [];
    const end = range.offset + range.length;
    for (const chunk of this.chunks) {
      for (let i = 0; i < chunk.count; i++) {
        if (chunk.get(i, SEQ) !== range.seq) continue;
        const offset = chunk.get(i, OFFSET);
        const from = Math.max(offset, range.offset);
        const to = Math.min(offset + chunk.get(i, LENGTH), end);
        if (from < to) out.push(part(read(chunk, i), from - offset, to - from));
      }
    }
    return out;
  }

  /** The sequence as integers, six a run, for storing. `decode` gives it back. */
  encode(): Int32Array {
    const out = new Int32Array(this.size * FIELDS + 1);
    out[0] = this.ends;
    let at = 1;
    for (const chunk of this.chunks) {
      out.set(chunk.data.subarray(0, chunk.count * FIELDS), at);
      at += chunk.count * FIELDS;
    }
    return out;
  }

  static decode(data: Int32Array): RunSequence {
    const runs = new RunSequence();
    runs.ends = data[0] ?? 0;
    const per = (CAPACITY >> 1) * FIELDS;
    for (let at = 1; at < data.length; at += per) {
      const chunk = at === 1 ? (runs.chunks[0] as Chunk) : new Chunk();
      if (at > 1) runs.chunks.push(chunk);
      const part = data.subarray(at, Math.min(at + per, data.length));
      chunk.data.set(part);
      chunk.count = part.length / FIELDS;
      for (let i = 0; i < chunk.count; i++) chunk.alive += chunk.aliveLength(i);
    }
    return runs;
  }
}

function read(chunk: Chunk, index: number): Run {
  return {
    seq: chunk.get(index, SEQ),
    offset: chunk.get(index, OFFSET),
    length: chunk.get(index, LENGTH),
    diedAt: chunk.get(index, DIED),
    origin: { seq: chunk.get(index, ORIGIN_SEQ), offset: chunk.get(index, ORIGIN_OFFSET) },
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

/** What edit `seq` inserts from `offset` on, cut where returns begin and end. */
function cut(seq: number, offset: number, length: number, returns: readonly Return[]): Run[] {
  const out: Run[] = [];
  const end = offset + length;
  let at = offset;
  const push = (to: number, origin: { seq: number; offset: number }): void => {
    if (to > at) out.push({ seq, offset: at, length: to - at, diedAt: 0, origin });
    at = Math.max(at, to);
  };
  for (const back of returns) {
    if (back.at + back.length <= at || back.at >= end) continue;
    push(Math.max(at, back.at), { seq, offset: at });
    push(Math.min(end, back.at + back.length), { seq: back.seq, offset: back.offset + at - back.at });
  }
  push(end, { seq, offset: at });
  return out;
}
