import type { RunSequence } from '../history/index.js';
import type { Letters } from './letters.js';
import { BOUNDARY } from './letters.js';

/** Who made an edit, and when (milliseconds since the epoch). */
export type Makers = (seq: number) => { readonly author: string; readonly at: number };

/** When the atoms of a stretch of the tape were born and died, sorted: enough to tell whether any stood at a moment. */
interface Page {
  readonly births: Int32Array;
  readonly deaths: Int32Array;
}
const PAGE = 64;

/** Integers an atom takes. */
const FIELDS = 6;
const [BORN, OFFSET, LENGTH, DIED, FROM, FROM_OFFSET] = [0, 1, 2, 3, 4, 5] as const;

/**
 * Every instance a document ever had, in document order, with what it was: the run sequence cut into *atoms*, stretches
 * that are all text or all boundaries of blocks and share birth, death and origin. Instances that no moment shows, born
 * and gone within one edit, are left out, and so is what the letters do not know yet. Read-only; made in one pass over the
 * runs.
 */
export class Tape {
  private readonly data: Int32Array;
  private readonly words: string[];
  private readonly pages: Page[] = [];
  /** Number of atoms. */
  readonly size: number;
  /** The last edit. */
  readonly now: number;

  constructor(runs: RunSequence, letters: Letters) {
    const numbers: number[] = [];
    this.words = [];
    this.now = letters.seq;
    for (const run of runs.all()) {
      const died = run.diedAt > this.now ? 0 : run.diedAt;
      if ((died === run.seq && run.seq > 0) || run.seq > this.now) continue;
      const text = letters.text(run.seq, run.offset, run.length);
      for (let at = 0; at < run.length;) {
        const end = endOfStretch(text, at, run.length);
        numbers.push(run.seq, run.offset + at, end - at, died, run.origin.seq, run.origin.offset + at);
        this.words.push(text.slice(at, end));
        at = end;
      }
    }
    this.data = Int32Array.from(numbers);
    this.size = this.words.length;
  }

  private field(atom: number, field: number): number {
    return this.data[atom * FIELDS + field] as number;
  }

  /** The edit an atom was born in. */
  born(atom: number): number {
    return this.field(atom, BORN);
  }

  /** The edit an atom departed with; 0 while it is alive. */
  died(atom: number): number {
    return this.field(atom, DIED);
  }

  length(atom: number): number {
    return this.field(atom, LENGTH);
  }

  /** Where within its edit's insertion an atom begins. */
  offset(atom: number): number {
    return this.field(atom, OFFSET);
  }

  /** The edit that first wrote what an atom holds; the one it was born in unless it came back. */
  origin(atom: number): number {
    return this.field(atom, FROM);
  }

  originOffset(atom: number): number {
    return this.field(atom, FROM_OFFSET);
  }

  /** What an atom holds: text, or boundaries. */
  text(atom: number): string {
    return this.words[atom] as string;
  }

  isText(atom: number): boolean {
    return !this.text(atom).startsWith(BOUNDARY);
  }

  /** Whether an atom stood in the document right after an edit. */
  aliveAt(atom: number, moment: number): boolean {
    const died = this.died(atom);
    return this.born(atom) <= moment && (died === 0 || died > moment);
  }

  /** The nearest atom in a direction that stood at a moment, or -1. Pages on which none stood then are passed over. */
  neighbour(atom: number, direction: 1 | -1, moment: number): number {
    for (let at = atom + direction; at >= 0 && at < this.size;) {
      if (this.aliveAt(at, moment)) return at;
      const page = Math.floor(at / PAGE);
      const edge = direction === 1 ? page * PAGE : page * PAGE + PAGE - 1;
      if (at === edge && this.standing(page, moment) === 0) at += direction * PAGE;
      else at += direction;
    }
    return -1;
  }

  /** How many atoms of a page stood at a moment. */
  private standing(page: number, moment: number): number {
    const { births, deaths } = (this.pages[page] ??= this.pageOf(page));
    return upTo(births, moment) - upTo(deaths, moment);
  }

  private pageOf(page: number): Page {
    const births: number[] = [];
    const deaths: number[] = [];
    for (let atom = page * PAGE; atom < Math.min(this.size, (page + 1) * PAGE); atom++) {
      births.push(this.born(atom));
      if (this.died(atom) !== 0) deaths.push(this.died(atom));
    }
    return { births: Int32Array.from(births).sort(), deaths: Int32Array.from(deaths).sort() };
  }

  /** The position of an atom's first instance in the document at a moment at which it stood, or would have stood. */
  position(atom: number, moment: number): number {
    let position = 0;
    for (let at = 0; at < atom; at++) if (this.aliveAt(at, moment)) position += this.length(at);
    return position;
  }

  /** The first atom whose first instance stands at or behind a position at a moment; the size of the tape beyond the end. */
  at(position: number, moment: number): { atom: number; inside: number } {
    let left = position;
    for (let atom = 0; atom < this.size; atom++) {
      if (!this.aliveAt(atom, moment)) continue;
      const length = this.length(atom);
      if (left < length) return { atom, inside: left };
      left -= length;
    }
    return { atom: this.size, inside: 0 };
  }
}

/**
 * The atom of text at a position of a moment, or right beside it where a boundary stands there: the text that a caret is
 * in. Null where there is none, as in an empty block.
 */
export function textAt(tape: Tape, position: number, moment: number): number | null {
  const { atom, inside } = tape.at(position, moment);
  if (atom < tape.size && tape.isText(atom)) return atom;
  const beside = [
    ...(inside === 0 ? [tape.neighbour(atom, -1, moment)] : []),
    ...(atom < tape.size && inside === tape.length(atom) - 1 ? [tape.neighbour(atom, 1, moment)] : []),
  ];
  return beside.find((one) => one >= 0 && tape.isText(one)) ?? null;
}

/** Where a stretch of text, or of boundaries, that begins at an index ends. */
function endOfStretch(text: string, start: number, length: number): number {
  const boundary = text.charAt(start) === BOUNDARY;
  let end = start + 1;
  while (end < length && (text.charAt(end) === BOUNDARY) === boundary) end++;
  return end;
}

/** How many of some sorted numbers are no higher than another. */
function upTo(sorted: Int32Array, most: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((sorted[middle] as number) <= most) low = middle + 1;
    else high = middle;
  }
  return low;
}
