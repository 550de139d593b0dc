import type { StepMap } from 'prosemirror-transform';
import { finished } from '../content/index.js';
import type { Work } from '../content/index.js';
import { CAPACITY, Chunk, DIED, FIELDS, LENGTH, OFFSET, SEQ, copyRun } from './chunk.js';
import type { Instance, InstanceRange } from './edit.js';
import type { PlacedRun, Run } from './placed.js';
import { PlacedRuns, part, read } from './placed.js';

/** What stands at an inserted place when content came back: its root origin, counted within the whole edit. */
export interface Return extends InstanceRange {
  readonly at: number;
  /** The first of the instances that it is, at whose place it belongs; null where it just goes on, or is of another document. */
  readonly named: Instance | null;
}

/** A run that an edit brings; what came back belongs where it was, if it stood in that very gap. */
interface Coming extends Run {
  readonly named: Instance | null;
}

/** Departed runs looked at for the place of what comes back. */
const FAR = 4096;

/** Up to `SPREAD` neighbouring chunks with their alive length, so that finding a place skips most of a long history. */
interface Page {
  readonly chunks: Chunk[];
  alive: number;
}

const SPREAD = 48;

interface Spot {
  readonly page: number;
  readonly chunk: number;
  readonly index: number;
  /** Tokens into the run. */
  readonly inside: number;
}

/**
 * All instances a document ever had, alive and departed, in document order (a sequence with tombstones). Appending
 * an edit costs what the edit touches, not what the document or its log weighs.
 */
export class RunSequence {
  private readonly pages: Page[] = [{ chunks: [new Chunk()], alive: 0 }];
  private ends = 0;

  /** A sequence whose first `length` tokens were all born in `seq`: a blank document, or the state a reader joined at. */
  static starting(seq: number, length: number): RunSequence {
    const runs = new RunSequence();
    if (length > 0)
      finished(
        runs.insert(0, [{ seq, offset: 0, length, diedAt: 0, origin: { seq, offset: 0 }, named: null }]),
      );
    runs.ends = seq;
    return runs;
  }

  /** The last edit appended. */
  get seq(): number {
    return this.ends;
  }

  /** Number of runs, alive and departed. */
  get size(): number {
    return this.pages.reduce((sum, page) => page.chunks.reduce((runs, chunk) => runs + chunk.count, sum), 0);
  }

  /** Number of alive tokens: the size of the document's content. */
  get alive(): number {
    return this.pages.reduce((sum, page) => sum + page.alive, 0);
  }

  clone(): RunSequence {
    const copy = new RunSequence();
    copy.pages.length = 0;
    for (const { chunks, alive } of this.pages)
      copy.pages.push({ chunks: chunks.map((chunk) => chunk.clone()), alive });
    copy.ends = this.ends;
    return copy;
  }

  /**
   * Appends an edit: what its maps remove departs with `seq`, what they insert is born in `seq`, in order of
   * insertion. `returns` (sorted by `at`, counted within the whole edit) say which of the inserted tokens came back, and
   * from which root origin; among what departed at one place, they stand where they did. `before` is how many tokens earlier
   * steps of the same edit inserted.
   */
  append(seq: number, maps: readonly StepMap[], returns: readonly Return[] = [], before = 0): void {
    finished(this.appending(seq, maps, returns, before));
  }

  /** The same. Rests now and then, with the sequence part-way. */
  *appending(seq: number, maps: readonly StepMap[], returns: readonly Return[] = [], before = 0): Work<void> {
    let inserted = before;
    for (const map of maps) {
      const ranges: [position: number, gone: number, length: number][] = [];
      map.forEach((oldStart, oldEnd, newStart, newEnd) => {
        ranges.push([newStart, oldEnd - oldStart, newEnd - newStart]);
      });
      for (const [position, gone, length] of ranges) {
        if (gone > 0) this.remove(position, gone, seq);
        if (length > 0) yield* this.insert(position, cut(seq, inserted, length, returns));
        inserted += length;
      }
      yield;
    }
    this.ends = seq;
  }

  private remove(position: number, length: number, seq: number): void {
    let left = length;
    while (left > 0) {
      const spot = this.find(position);
      const chunk = this.roomy(spot);
      if (!chunk) continue;
      const { index, inside } = spot;
      if (index >= chunk.count) throw new RangeError('An edit removes more than the document holds');
      if (inside > 0) {
        chunk.split(index, inside);
        continue;
      }
      if (chunk.get(index, LENGTH) > left) chunk.split(index, left);
      const gone = chunk.get(index, LENGTH);
      chunk.set(index, DIED, seq);
      chunk.alive -= gone;
      (this.pages[spot.page] as Page).alive -= gone;
      left -= gone;
    }
  }

  private *insert(position: number, runs: readonly Coming[]): Work<void> {
    let at = position;
    for (let i = 0; i < runs.length;) {
      const run = runs[i] as Coming;
      const right = this.find(at, true);
      const spot = (run.named && right.inside === 0 && this.placeOf(run.named, right)) || right;
      const chunk = this.roomy(spot);
      if (!chunk) continue;
      const { index, inside } = spot;
      if (inside > 0) chunk.split(index, inside);
      chunk.insert(inside > 0 ? index + 1 : index, [
        run.seq,
        run.offset,
        run.length,
        run.diedAt,
        run.origin.seq,
        run.origin.offset,
      ]);
      (this.pages[spot.page] as Page).alive += run.length;
      at += run.length;
      i++;
      yield;
    }
  }

  /** Where an instance that departed is, among what departed from a spot up to what stands next. */
  private placeOf({ seq, offset }: Instance, from: Spot): Spot | null {
    let seen = 0;
    for (let p = from.page; p < this.pages.length; p++) {
      const { chunks } = this.pages[p] as Page;
      for (let c = p === from.page ? from.chunk : 0; c < chunks.length; c++) {
        const chunk = chunks[c] as Chunk;
        for (let i = p === from.page && c === from.chunk ? from.index : 0; i < chunk.count; i++) {
          if (chunk.get(i, DIED) === 0 || ++seen > FAR) return null;
          const inside = offset - chunk.get(i, OFFSET);
          if (chunk.get(i, SEQ) === seq && inside >= 0 && inside < chunk.get(i, LENGTH))
            return { page: p, chunk: c, index: i, inside };
        }
      }
    }
    return null;
  }

  /** The chunk of a spot when two more runs fit into it; otherwise makes room and answers null: spots found before are stale. */
  private roomy(spot: Spot): Chunk | null {
    const page = this.pages[spot.page] as Page;
    const chunk = page.chunks[spot.chunk] as Chunk;
    if (chunk.count <= CAPACITY - 2) return chunk;
    page.chunks.splice(spot.chunk + 1, 0, chunk.halve());
    if (page.chunks.length > SPREAD) {
      const chunks = page.chunks.splice(SPREAD >> 1);
      const alive = chunks.reduce((sum, one) => sum + one.alive, 0);
      page.alive -= alive;
      this.pages.splice(spot.page + 1, 0, { chunks, alive });
    }
    return null;
  }

  /**
   * Where an alive position lies. With `after`, a position between two runs is right behind the one before it, in front
   * of what departed there.
   */
  private find(position: number, after = false): Spot {
    let left = position;
    for (const [p, page] of this.pages.entries()) {
      const lastPage = p === this.pages.length - 1;
      if (left > page.alive || (left === page.alive && !after && !lastPage)) {
        left -= page.alive;
        continue;
      }
      for (let c = 0; c < page.chunks.length; c++) {
        const chunk = page.chunks[c] as Chunk;
        if (left > chunk.alive || (left === chunk.alive && !after && c < page.chunks.length - 1)) {
          left -= chunk.alive;
          continue;
        }
        if (after && left === 0) return { page: p, chunk: c, index: 0, inside: 0 };
        for (let i = 0; i < chunk.count; i++) {
          const length = chunk.aliveLength(i);
          if (length === 0) continue;
          if (left < length) return { page: p, chunk: c, index: i, inside: left };
          left -= length;
          if (after && left === 0) return { page: p, chunk: c, index: i + 1, inside: 0 };
        }
        return { page: p, chunk: c, index: chunk.count, inside: 0 };
      }
    }
    throw new RangeError('A position lies outside the document');
  }

  private *chunks(): IterableIterator<Chunk> {
    for (const page of this.pages) yield* page.chunks;
  }

  /** Every run, alive and departed, in document order. */
  *all(): IterableIterator<Run> {
    for (const chunk of this.chunks()) {
      for (let i = 0; i < chunk.count; i++) yield read(chunk.data, i);
    }
  }

  /** The runs alive right after edit `moment`, with their positions then. Two passes over integers: to count them, and to copy. */
  at(moment: number = this.ends): PlacedRuns {
    let count = 0;
    for (const { data, count: held } of this.chunks())
      for (let at = 0; at < held * FIELDS; at += FIELDS) if (stood(data, at, moment)) count++;
    const runs = new Int32Array(count * FIELDS);
    const starts = new Int32Array(count + 1);
    let [run, position] = [0, 0];
    for (const { data, count: held } of this.chunks()) {
      for (let at = 0; at < held * FIELDS; at += FIELDS) {
        if (!stood(data, at, moment)) continue;
        copyRun(data, at, runs, run * FIELDS);
        starts[run++] = position;
        position += data[at + LENGTH] as number;
      }
    }
    starts[count] = position;
    return new PlacedRuns(runs, starts, count);
  }

  /** The alive runs, cut to size, that fill positions `from` to `to` of the present document. */
  between(from: number, to: number): PlacedRun[] {
    const out: PlacedRun[] = [];
    let position = 0;
    for (const page of this.pages) {
      if (position >= to) break;
      if (position + page.alive <= from) {
        position += page.alive;
        continue;
      }
      for (const chunk of page.chunks) {
        if (position >= to) break;
        if (position + chunk.alive <= from) {
          position += chunk.alive;
          continue;
        }
        for (let i = 0; i < chunk.count && position < to; i++) {
          const length = chunk.aliveLength(i);
          const start = Math.max(position, from);
          const end = Math.min(position + length, to);
          if (start < end)
            out.push({ ...part(read(chunk.data, i), start - position, end - start), from: start, to: end });
          position += length;
        }
      }
    }
    return out;
  }

  /**
   * The pieces of each instance range, in the order in which their edit inserted them, wherever they stand. Reads the whole
   * sequence once, however many ranges.
   */
  pieces(ranges: readonly InstanceRange[]): Run[][] {
    const born = new Map<number, Run[]>(ranges.map(({ seq }) => [seq, []]));
    for (const chunk of this.chunks())
      for (let i = 0; i < chunk.count; i++) born.get(chunk.get(i, SEQ))?.push(read(chunk.data, i));
    for (const runs of born.values()) runs.sort((a, b) => a.offset - b.offset);
    return ranges.map(({ seq, offset, length }) =>
      piecesWithin(born.get(seq) ?? [], offset, offset + length),
    );
  }

  /** The sequence as integers, six a run, for storing. `decode` gives it back. */
  encode(): Int32Array {
    const out = new Int32Array(this.size * FIELDS + 1);
    out[0] = this.ends;
    let at = 1;
    for (const chunk of this.chunks()) {
      out.set(chunk.data.subarray(0, chunk.count * FIELDS), at);
      at += chunk.count * FIELDS;
    }
    return out;
  }

  /** The sequence as it was right after an edit: what came later is not there, and what departed later is alive. */
  upTo(moment: number): RunSequence {
    const data = this.encode();
    let end = 1;
    for (let at = 1; at < data.length; at += FIELDS) {
      if ((data[at + SEQ] as number) > moment) continue;
      copyRun(data, at, data, end);
      if ((data[end + DIED] as number) > moment) data[end + DIED] = 0;
      end += FIELDS;
    }
    data[0] = moment;
    return RunSequence.decode(data.slice(0, end));
  }

  static decode(data: Int32Array): RunSequence {
    const runs = new RunSequence();
    runs.ends = data[0] ?? 0;
    const per = (CAPACITY >> 1) * FIELDS;
    const chunks: Chunk[] = [];
    for (let at = 1; at < data.length; at += per) {
      const chunk = new Chunk();
      const part = data.subarray(at, Math.min(at + per, data.length));
      chunk.data.set(part);
      chunk.count = part.length / FIELDS;
      for (let i = 0; i < chunk.count; i++) chunk.alive += chunk.aliveLength(i);
      chunks.push(chunk);
    }
    if (chunks.length > 0) runs.pages.length = 0;
    for (let i = 0; i < chunks.length; i += SPREAD >> 1) {
      const held = chunks.slice(i, i + (SPREAD >> 1));
      runs.pages.push({ chunks: held, alive: held.reduce((sum, chunk) => sum + chunk.alive, 0) });
    }
    return runs;
  }
}

/** Whether the run that begins at an integer was alive right after an edit. */
function stood(data: Int32Array, at: number, moment: number): boolean {
  const died = data[at + DIED] as number;
  return (data[at + SEQ] as number) <= moment && (died === 0 || died > moment);
}

/** What of some runs, sorted by offset and apart from each other, lies within a stretch of offsets. Binary search. */
function piecesWithin(runs: readonly Run[], from: number, to: number): Run[] {
  let [low, high] = [0, runs.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const { offset, length } = runs[middle] as Run;
    if (offset + length <= from) low = middle + 1;
    else high = middle;
  }
  const out: Run[] = [];
  for (let run = runs[low]; run && run.offset < to; run = runs[++low]) {
    const [start, end] = [Math.max(run.offset, from), Math.min(run.offset + run.length, to)];
    out.push(part(run, start - run.offset, end - start));
  }
  return out;
}

/** What edit `seq` inserts from `offset` on, cut where returns begin and end. */
function cut(seq: number, offset: number, length: number, returns: readonly Return[]): Coming[] {
  const out: Coming[] = [];
  const end = offset + length;
  let at = offset;
  const push = (to: number, origin: Instance, named: Instance | null): void => {
    if (to > at) out.push({ seq, offset: at, length: to - at, diedAt: 0, origin, named });
    at = Math.max(at, to);
  };
  for (const back of returns) {
    if (back.at + back.length <= at || back.at >= end) continue;
    push(Math.max(at, back.at), { seq, offset: at }, null);
    const skipped = at - back.at;
    const origin = { seq: back.seq, offset: back.offset + skipped };
    push(Math.min(end, back.at + back.length), origin, skipped === 0 ? back.named : null);
  }
  push(end, { seq, offset: at }, null);
  return out;
}
