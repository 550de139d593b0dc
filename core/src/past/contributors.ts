import type { Trace } from '../history/index.js';
import { sittings } from '../history/index.js';
import type { AtomPart } from './origins.js';
import { originsOf } from './origins.js';
import type { Makers, Tape } from './tape.js';

/** What one person put into a document between two moments. */
export interface Contribution {
  readonly author: string;
  /** Words they were the first to write, and how many of those came in at once, pasted and not typed. */
  readonly written: number;
  readonly pasted: number;
  /** Words that they brought back or copied; whoever wrote them first keeps the credit. What one edit moves does not count. */
  readonly broughtBack: number;
  /** Words written in the range that stood at its end. */
  readonly kept: number;
  /** Words they took out, whoever wrote them; not what they moved. */
  readonly removed: number;
  readonly sittings: number;
  /** Time spent writing, milliseconds: see `timeOf`. */
  readonly time: number;
  readonly edits: number;
}

/** Words that an edit of at most half a second of typing cannot hold: more came in by pasting. */
export const PASTED = 8;
/** Idle time after which somebody is taken to have stopped writing, milliseconds. */
export const PAUSE = 10 * 60_000;
/** What a sitting is counted with beside the time between its edits: nobody writes in no time, milliseconds. */
export const LEAST = 30_000;

const WORD_UNIT = /[\p{L}\p{N}\p{M}\ud800-\udfff]/u;

/**
 * What each person did in the edits after `after` up to `upTo`, most words first. A word is whoever's who wrote its first
 * letter. `traces` are the edits of the range. Linear in the tape, but for the walk from each atom to its neighbour.
 */
export function contributions(
  tape: Tape,
  makers: Makers,
  traces: readonly Trace[],
  after: number,
  upTo: number,
): Contribution[] {
  const people = new Map<string, { -readonly [K in keyof Contribution]: Contribution[K] }>();
  const of = (author: string) => {
    const held = people.get(author) ?? {
      author,
      written: 0,
      pasted: 0,
      broughtBack: 0,
      kept: 0,
      removed: 0,
      sittings: 0,
      time: 0,
      edits: 0,
    };
    people.set(author, held);
    return held;
  };
  const origins = originsOf(tape);
  const within = (seq: number): boolean => seq > after && seq <= upTo;
  const byEdit = new Map<number, number>();
  for (let atom = 0; atom < tape.size; atom++) {
    if (!tape.isText(atom)) continue;
    const [born, died, origin] = [tape.born(atom), tape.died(atom), tape.origin(atom)];
    if (within(born)) {
      if (origin === born) byEdit.set(born, (byEdit.get(born) ?? 0) + wordsBegunIn(tape, atom, born));
      else {
        const came = origins.without(atom, (other) => tape.died(other) === born);
        of(makers(born).author).broughtBack += wordsBegunIn(tape, atom, born, came);
      }
    }
    if (within(origin) && tape.aliveAt(atom, upTo))
      of(makers(origin).author).kept += wordsBegunIn(tape, atom, upTo);
    if (within(died)) {
      const left = origins.without(atom, (other) => tape.born(other) === died);
      of(makers(died).author).removed += wordsBegunIn(tape, atom, died - 1, left);
    }
  }
  for (const [seq, words] of byEdit) {
    const person = of(makers(seq).author);
    person.written += words;
    if (words > PASTED) person.pasted += words;
  }
  for (const author of new Set(traces.map((trace) => trace.author))) {
    const own = traces.filter((trace) => trace.author === author);
    const sat = sittings(own, PAUSE);
    Object.assign(of(author), { sittings: sat.length, time: timeOf(sat), edits: own.length });
  }
  return [...people.values()].sort((a, b) => b.written - a.written || a.author.localeCompare(b.author));
}

/**
 * Time spent writing, from gaps: the time from the first to the last edit of each sitting, where one ends after ten idle
 * minutes, and half a minute for each. Reading and thinking longer than that are not seen.
 */
function timeOf(sat: readonly { readonly from: number; readonly to: number }[]): number {
  return sat.reduce((sum, { from, to }) => sum + to - from + LEAST, 0);
}

/** How many words some parts of an atom, or all of it, begin in the document at a moment at which it stands. */
export function wordsBegunIn(tape: Tape, atom: number, moment: number, parts?: readonly AtomPart[]): number {
  const text = tape.text(atom);
  const counts = (at: number): boolean => !parts || parts.some(({ from, to }) => at >= from && at < to);
  let count = 0;
  let inWord = false;
  for (let i = 0; i < text.length; i++) {
    const letter = WORD_UNIT.test(text.charAt(i));
    if (letter && !inWord && counts(i) && (i > 0 || !follows(tape, atom, moment))) count++;
    inWord = letter;
  }
  return count;
}

/** Whether what an atom begins with goes on with a word that stands before it in its block. */
function follows(tape: Tape, atom: number, moment: number): boolean {
  const before = tape.neighbour(atom, -1, moment);
  return before >= 0 && tape.isText(before) && WORD_UNIT.test(tape.text(before).slice(-1));
}

/** Words that people wrote first on a day. */
export interface Day {
  /** As year, month and day, such as 2026-04-14. */
  readonly day: string;
  readonly words: ReadonlyMap<string, number>;
}

/** Words that people wrote first, day by day, days without any left out; `dayOf` tells which day a time is on. */
export function wordsByDay(
  tape: Tape,
  makers: Makers,
  after: number,
  upTo: number,
  dayOf: (time: number) => string,
): Day[] {
  const days = new Map<string, Map<string, number>>();
  const known = new Map<number, string>();
  for (let atom = 0; atom < tape.size; atom++) {
    const born = tape.born(atom);
    if (!tape.isText(atom) || born <= after || born > upTo || tape.origin(atom) !== born) continue;
    const { author, at } = makers(born);
    const day = known.get(born) ?? dayOf(at);
    known.set(born, day);
    const words = days.get(day) ?? new Map<string, number>();
    words.set(author, (words.get(author) ?? 0) + wordsBegunIn(tape, atom, born));
    days.set(day, words);
  }
  return [...days].sort(([a], [b]) => a.localeCompare(b)).map(([day, words]) => ({ day, words }));
}
