/**
 * Numbers stretches of text from 0 on, equal ones alike, without making a string of one that is known: a table of open
 * addresses over the hash FNV-1a (G. Fowler, L. C. Noll, K.-P. Vo; see also IETF draft-eastlake-fnv).
 */
export class Vocabulary {
  private readonly texts: string[] = [];
  private hashes = new Int32Array(512);
  /** A number and one more at each address; 0 for none. */
  private table = new Int32Array(1024);

  /** The number of a stretch of a text; the next free one when it is new. */
  number(text: string, from: number, to: number): number {
    let hash = 0x811c9dc5;
    for (let i = from; i < to; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
    hash ^= hash >>> 15;
    const mask = this.table.length - 1;
    let address = hash & mask;
    for (let held = this.table[address] as number; held > 0; held = this.table[address] as number) {
      if (this.hashes[held - 1] === hash && this.isAt(held - 1, text, from, to)) return held - 1;
      address = (address + 1) & mask;
    }
    const number = this.texts.push(text.slice(from, to)) - 1;
    if (number === this.hashes.length) this.hashes = grown(this.hashes);
    this.hashes[number] = hash;
    this.table[address] = number + 1;
    if (number * 2 > this.table.length) this.rehash();
    return number;
  }

  text(number: number): string {
    return this.texts[number] as string;
  }

  private isAt(number: number, text: string, from: number, to: number): boolean {
    const held = this.texts[number] as string;
    if (held.length !== to - from) return false;
    for (let i = 0; i < held.length; i++) if (held.charCodeAt(i) !== text.charCodeAt(from + i)) return false;
    return true;
  }

  private rehash(): void {
    const table = new Int32Array(this.table.length * 2);
    const mask = table.length - 1;
    for (let number = 0; number < this.texts.length; number++) {
      let address = (this.hashes[number] as number) & mask;
      while (table[address] !== 0) address = (address + 1) & mask;
      table[address] = number + 1;
    }
    this.table = table;
  }
}

/** The same numbers with as much room again. */
export function grown(numbers: Int32Array<ArrayBuffer>): Int32Array<ArrayBuffer> {
  const more = new Int32Array(numbers.length * 2);
  more.set(numbers);
  return more;
}
