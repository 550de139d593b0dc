/** Most units that are made a string at once: as many as may be arguments of one call anywhere. */
const AT_ONCE = 8192;
/** The scratch of a vocabulary with a larger table than this is not kept. */
const KEPT = 1 << 13;
/** Units below this are found without hashing when they stand alone. */
const SINGLES = 0x80;

/** What a vocabulary that was closed left, for the next one. */
let left: { pool: Uint16Array<ArrayBuffer>; table: Int32Array<ArrayBuffer> } | null = null;

/**
 * Numbers stretches of text from 0 on, equal ones alike, without making a string of one: UTF-16 units in one pool, and a
 * table of open addresses over the hash FNV-1a (G. Fowler, L. C. Noll, K.-P. Vo; see also IETF draft-eastlake-fnv).
 */
export class Vocabulary {
  private pool = left?.pool ?? new Uint16Array(2048);
  /** Where each stretch begins in the pool, and after the last where the free part does. */
  private readonly starts = [0];
  private readonly hashes: number[] = [];
  /** A number and one more at each address; 0 for none. */
  private table = left?.table ?? new Int32Array(1024);
  /** The same for stretches of one unit, which are half of all. */
  private readonly singles = new Array<number>(SINGLES).fill(0);

  constructor() {
    left = null;
  }

  /** Leaves its scratch to the next vocabulary; nothing may be asked of it any more. */
  close(): void {
    if (this.table.length > KEPT) return;
    left = { pool: this.pool, table: this.table.fill(0) };
  }

  /** How many stretches are numbered. */
  get size(): number {
    return this.hashes.length;
  }

  /** The number of a stretch of units; the next free one when it is new. */
  number(units: Uint16Array, from: number, to: number): number {
    const first = units[from] as number;
    if (to - from > 1 || first >= SINGLES) return this.looked(units, from, to);
    const known = this.singles[first] as number;
    if (known > 0) return known - 1;
    const number = this.looked(units, from, to);
    this.singles[first] = number + 1;
    return number;
  }

  private looked(units: Uint16Array, from: number, to: number): number {
    let hash = 0x811c9dc5;
    for (let i = from; i < to; i++) hash = Math.imul(hash ^ (units[i] as number), 0x01000193);
    hash ^= hash >>> 15;
    const { table, hashes } = this;
    const mask = table.length - 1;
    let address = hash & mask;
    for (let held = table[address] as number; held > 0; held = table[address] as number) {
      if (hashes[held - 1] === hash && this.isAt(held - 1, units, from, to)) return held - 1;
      address = (address + 1) & mask;
    }
    table[address] = hashes.length + 1;
    return this.added(units, from, to, hash);
  }

  text(number: number): string {
    const [from, to] = [this.starts[number] as number, this.starts[number + 1] as number];
    let out = '';
    for (let at = from; at < to; at += AT_ONCE)
      out += String.fromCharCode(...this.pool.subarray(at, Math.min(to, at + AT_ONCE)));
    return out;
  }

  private isAt(number: number, units: Uint16Array, from: number, to: number): boolean {
    const { pool } = this;
    let at = this.starts[number] as number;
    if ((this.starts[number + 1] as number) - at !== to - from) return false;
    for (let i = from; i < to; i++) if (pool[at++] !== units[i]) return false;
    return true;
  }

  private added(units: Uint16Array, from: number, to: number, hash: number): number {
    const number = this.hashes.push(hash) - 1;
    const start = this.starts[number] as number;
    const end = start + to - from;
    while (end > this.pool.length) this.pool = grown(this.pool);
    for (let i = from, at = start; i < to;) this.pool[at++] = units[i++] as number;
    this.starts.push(end);
    if (this.size * 2 > this.table.length) this.rehash();
    return number;
  }

  private rehash(): void {
    const table = new Int32Array(this.table.length * 2);
    const mask = table.length - 1;
    for (let number = 0; number < this.size; number++) {
      let address = (this.hashes[number] as number) & mask;
      while (table[address] !== 0) address = (address + 1) & mask;
      table[address] = number + 1;
    }
    this.table = table;
  }
}

/** The same units with as much room again. */
function grown(units: Uint16Array<ArrayBuffer>): Uint16Array<ArrayBuffer> {
  const more = new Uint16Array(units.length * 2);
  more.set(units);
  return more;
}
