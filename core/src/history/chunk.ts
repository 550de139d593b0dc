/** Most runs in a chunk. */
export const CAPACITY = 256;
/** Integers a run takes; the names below say which is which. */
export const FIELDS = 6;
export const [SEQ, OFFSET, LENGTH, DIED, ORIGIN_SEQ, ORIGIN_OFFSET] = [0, 1, 2, 3, 4, 5] as const;

/** Copies a run's integers to a place of another array. Written out, since a loop over six costs twice as much. */
export function copyRun(from: Int32Array, at: number, into: Int32Array, to: number): void {
  into[to] = from[at] as number;
  into[to + 1] = from[at + 1] as number;
  into[to + 2] = from[at + 2] as number;
  into[to + 3] = from[at + 3] as number;
  into[to + 4] = from[at + 4] as number;
  into[to + 5] = from[at + 5] as number;
}

/** Up to `CAPACITY` runs side by side, six integers each. */
export class Chunk {
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
    for (const field of [OFFSET, ORIGIN_OFFSET])
      this.set(index + 1, field, this.get(index + 1, field) + length);
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
