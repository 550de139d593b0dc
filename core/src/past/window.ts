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
    /** Whether reading stopped at either side before the block did. */
    private readonly stopped: { readonly before: boolean; readonly after: boolean },
    private readonly pieces: readonly Piece[],
  ) {}

  /** Where its first whole chunk begins, and where its last one ends: beyond that words may be read in part. */
  get whole(): { readonly from: number; readonly to: number } {
    const starts = chunkStarts(this.text);
    return {
      from: this.stopped.before ? (starts[0] ?? this.text.length) : 0,
      to: this.stopped.after ? (starts.at(-1) ?? 0) : this.text.length,
    };
  }

  /** Its whole words, cut when they are first asked for. */
  get words(): readonly PlacedWord[] {
    if (this.cut) return this.cut;
    const { from, to } = this.whole;
    return (this.cut = placedWords(this.text, this.pieces, from, to));
  }

  /** The instance that an index of its text is of. */
  unitAt(at: number): Unit {
    let left = at;
    for (const { atom, from, text } of this.pieces) {
      if (left < text.length) return { atom, inside: from + left };
      left -= text.length;
    }
    throw new RangeError('An index lies outside the window');
  }

  /** Whether it may hold a folded word: only then is it worth cutting. */
  mayHold(word: string): boolean {
    return folded(this.text).includes(word);
  }
}

/** A stretch of an atom's units, empty for a place between two. */
export interface AtomSpot {
  readonly atom: number;
  readonly from: number;
  readonly to: number;
}

/**
 * The text round an atom at a moment, or round where it would stand: it and whole words to either side, `words` of them
 * and the rest of the one the atom is part of, no further than the block goes. Two where a boundary lies between.
 */
export function windowsAt(tape: Tape, atom: number, moment: number, words: number): Window[] {
  const stands = tape.aliveAt(atom, moment);
  if (stands && tape.isText(atom))
    return [windowRound(tape, { atom, from: 0, to: tape.length(atom) }, moment, words)];
  const [before, after] = ([-1, 1] as const).map((direction) => tape.neighbour(atom, direction, moment));
  const spots: AtomSpot[] = [];
  if (before !== undefined && before >= 0 && tape.isText(before))
    spots.push({ atom: before, from: tape.length(before), to: tape.length(before) });
  if (after !== undefined && after >= 0 && tape.isText(after) && (stands || spots.length === 0))
    spots.push({ atom: after, from: 0, to: 0 });
  return spots.map((spot) => windowRound(tape, spot, moment, words));
}

/** The window round a stretch of text that stands at the moment; the stretch itself is taken whole. */
export function windowRound(tape: Tape, spot: AtomSpot, moment: number, words: number): Window {
  const before = reach(tape, spot, -1, moment, words);
  const after = reach(tape, spot, 1, moment, words);
  const middle = { ...spot, text: tape.text(spot.atom).slice(spot.from, spot.to) };
  const pieces = [...before.pieces.reverse(), middle, ...after.pieces];
  const text = pieces.map((piece) => piece.text).join('');
  return new Window(moment, text, before.end, after.end, { before: before.cut, after: after.cut }, pieces);
}

/** What is read of an atom: from its unit `from` on. */
interface Piece {
  readonly atom: number;
  readonly from: number;
  readonly text: string;
}

/** The words of a text made of pieces, those that lie between two indexes of it. */
function placedWords(text: string, pieces: readonly Piece[], low: number, high: number): PlacedWord[] {
  const placed: PlacedWord[] = [];
  let [piece, start] = [0, 0];
  const unit = (at: number): Unit => {
    for (let held = pieces[piece]; held && start + held.text.length <= at; held = pieces[++piece])
      start += held.text.length;
    const { atom = 0, from = 0 } = pieces[piece] ?? {};
    return { atom, inside: from + at - start };
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

/** Units without white space after which reading stops: no word as long as that is looked for. */
const LONGEST = 256;

/**
 * Text in a direction from a stretch, nearest first, until enough words were passed, or more units than so many words that
 * are looked for can have (`cut`), or the block ends.
 */
function reach(
  tape: Tape,
  { atom, from, to }: AtomSpot,
  direction: 1 | -1,
  moment: number,
  words: number,
): { pieces: Piece[]; end: number; cut: boolean } {
  const pieces: Piece[] = [];
  const most = LONGEST * (words + 1);
  let [starts, units] = [0, 0];
  let end = atom;
  let [low, high] = direction === 1 ? [to, tape.length(atom)] : [0, from];
  for (;;) {
    const text = tape.text(end).slice(low, high);
    const rest =
      direction === 1 ? text.slice(0, most - units) : text.slice(Math.max(0, text.length - most + units));
    const { start, passed } = chunkStart(rest, direction, words - starts);
    const kept =
      start === undefined ? rest : direction === 1 ? rest.slice(0, start + 1) : rest.slice(start - 1);
    const skipped = direction === 1 ? 0 : text.length - kept.length;
    if (kept.length > 0) pieces.push({ atom: end, from: low + skipped, text: kept });
    units += kept.length;
    starts += passed;
    if (start !== undefined || kept.length < text.length || units >= most) return { pieces, end, cut: true };
    const next = tape.neighbour(end, direction, moment);
    if (next < 0) return { pieces, end: direction === 1 ? tape.size - 1 : 0, cut: false };
    end = next;
    if (!tape.isText(end)) return { pieces, end, cut: false };
    [low, high] = [0, tape.length(end)];
  }
}

/** Where a chunk begins in a direction, when so many were passed before; undefined where there are not as many. */
function chunkStart(
  text: string,
  direction: 1 | -1,
  past: number,
): { start: number | undefined; passed: number } {
  let passed = 0;
  for (let i = direction === 1 ? 1 : text.length - 1; i > 0 && i < text.length; i += direction) {
    if (!beginsChunk(text, i)) continue;
    if (passed === past) return { start: i, passed };
    passed++;
  }
  return { start: undefined, passed };
}

/** Where chunks begin in a text behind white space at which reading may stop, since no word reaches over it. */
function chunkStarts(text: string): number[] {
  const starts: number[] = [];
  for (let i = 1; i < text.length; i++) if (beginsChunk(text, i)) starts.push(i);
  return starts;
}

function beginsChunk(text: string, at: number): boolean {
  const unit = text.charCodeAt(at);
  return unit < COMBINING && !isSpace(unit) && isSpace(text.charCodeAt(at - 1));
}

function isSpace(unit: number): boolean {
  return unit === 32 || (unit >= 9 && unit <= 13);
}
