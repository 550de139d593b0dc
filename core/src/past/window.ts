import { eachSegment, isWord } from '../content/index.js';
import type { Tape } from './tape.js';

const ASCII = /^[ -~]*$/;
/** The first sign that may combine with white space before it. */
const COMBINING = 0x300;

/** A word as it is looked for: small letters, composed, Latin ones without their accents. */
export function folded(word: string): string {
  if (ASCII.test(word)) return word.toLowerCase();
  return word
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .normalize('NFC');
}

/** The words of a text, folded. */
export function foldedWords(text: string): string[] {
  const out: string[] = [];
  eachSegment(text, (from, to) => {
    const segment = text.slice(from, to);
    if (isWord(segment)) out.push(folded(segment));
  });
  return out;
}

/** A place between instances: a unit of an atom. */
export interface Unit {
  readonly atom: number;
  readonly inside: number;
}

/** A word within a window: folded, where it stands in the window's text, and the instances of its first and last unit. */
export interface PlacedWord {
  readonly word: string;
  readonly from: number;
  readonly to: number;
  readonly first: Unit;
  readonly last: Unit;
}

/** The text round a place at a moment, with the stretch of the tape it was read from. */
export class Window {
  private cut: PlacedWord[] | null = null;

  constructor(
    readonly moment: number,
    readonly text: string,
    readonly left: number,
    readonly right: number,
    private readonly cutting: () => PlacedWord[],
  ) {}

  /** Its whole words, cut when they are first asked for. */
  get words(): readonly PlacedWord[] {
    return (this.cut ??= this.cutting());
  }

  /** Whether it may hold a folded word: only then is it worth cutting. */
  mayHold(word: string): boolean {
    return folded(this.text).includes(word);
  }
}

/**
 * The text round an atom at a moment, or round where it would stand: it and whole words to either side, `words` of them
 * and the rest of the one the atom is part of, no further than the block goes. Two where a boundary lies between.
 */
export function windowsAt(tape: Tape, atom: number, moment: number, words: number): Window[] {
  const stands = tape.aliveAt(atom, moment);
  if (stands && tape.isText(atom)) return [windowFrom(tape, atom, moment, words)];
  const [before, after] = ([-1, 1] as const).map((direction) => tape.neighbour(atom, direction, moment));
  const left = before !== undefined && before >= 0 && tape.isText(before) ? [before] : [];
  const right = after !== undefined && after >= 0 && tape.isText(after) ? [after] : [];
  const middles = stands || left.length === 0 ? [...left, ...right] : left;
  return middles.map((middle) => windowFrom(tape, middle, moment, words));
}

/** The window round an atom of text that stands at the moment; the atom itself is taken whole. */
export function windowFrom(tape: Tape, middle: number, moment: number, words: number): Window {
  const before = reach(tape, middle, -1, moment, words);
  const after = reach(tape, middle, 1, moment, words);
  const atoms = [...before.atoms.reverse(), middle, ...after.atoms];
  const places: number[] = [];
  let text = '';
  for (const atom of atoms) {
    places.push(text.length);
    text += tape.text(atom);
  }
  return new Window(moment, text, before.end, after.end, () => {
    const starts = chunkStarts(text);
    const low = before.cut ? (starts[0] ?? text.length) : 0;
    const high = after.cut ? (starts.at(-1) ?? 0) : text.length;
    return placedWords(text, atoms, places, low, high);
  });
}

/** The words of a text made of atoms, those that lie between two indexes of it. */
function placedWords(
  text: string,
  atoms: readonly number[],
  starts: readonly number[],
  low: number,
  high: number,
): PlacedWord[] {
  const placed: PlacedWord[] = [];
  let piece = 0;
  const unit = (at: number): Unit => {
    while ((starts[piece + 1] ?? Infinity) <= at) piece++;
    return { atom: atoms[piece] as number, inside: at - (starts[piece] as number) };
  };
  eachSegment(text, (from, to) => {
    if (from < low || to > high) return;
    const segment = text.slice(from, to);
    if (!isWord(segment)) return;
    const first = unit(from);
    placed.push({ word: folded(segment), from, to, first, last: unit(to - 1) });
  });
  return placed;
}

/** Atoms of text in a direction, nearest first, until enough words were passed (`cut`) or the block ends. */
function reach(
  tape: Tape,
  middle: number,
  direction: 1 | -1,
  moment: number,
  words: number,
): { atoms: number[]; end: number; cut: boolean } {
  const atoms: number[] = [];
  let ends = 0;
  let end = tape.neighbour(middle, direction, moment);
  for (; end >= 0 && tape.isText(end); end = tape.neighbour(end, direction, moment)) {
    atoms.push(end);
    ends += chunkStarts(tape.text(end)).length;
    if (ends > words) return { atoms, end, cut: true };
  }
  if (end < 0) end = direction === 1 ? tape.size - 1 : 0;
  return { atoms, end, cut: false };
}

/** Where chunks begin in a text behind white space at which reading may stop, since no word reaches over it. */
function chunkStarts(text: string): number[] {
  const starts: number[] = [];
  for (let i = 1; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    if (unit < COMBINING && !isSpace(unit) && isSpace(text.charCodeAt(i - 1))) starts.push(i);
  }
  return starts;
}

function isSpace(unit: number): boolean {
  return unit === 32 || (unit >= 9 && unit <= 13);
}
