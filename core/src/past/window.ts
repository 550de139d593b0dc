import { eachSegment, isWord } from '../content/index.js';
import type { Tape } from './tape.js';

/** A word as it is looked for: small letters, composed, Latin ones without their accents. */
export function folded(word: string): string {
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
export interface Window {
  readonly moment: number;
  readonly text: string;
  readonly words: readonly PlacedWord[];
  readonly left: number;
  readonly right: number;
}

/** White space at which reading may stop, since no word reaches over it. */
const CHUNK_END = /\s+(?=[^\s\u0300-\uffff])/g;

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
  const starts: number[] = [];
  let text = '';
  for (const atom of atoms) {
    starts.push(text.length);
    text += tape.text(atom);
  }
  const ends = [...text.matchAll(CHUNK_END)];
  const low = before.cut ? (ends[0]?.index ?? text.length) : 0;
  const high = after.cut ? (ends.at(-1)?.index ?? 0) : text.length;
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
  return { moment, text, words: placed, left: before.end, right: after.end };
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
  let end = middle;
  for (let ends = 0, at = middle + direction; at >= 0 && at < tape.size; at += direction) {
    end = at;
    if (!tape.aliveAt(at, moment)) continue;
    if (!tape.isText(at)) break;
    atoms.push(at);
    for (const found of tape.text(at).matchAll(CHUNK_END)) if (found) ends++;
    if (ends > words) return { atoms, end, cut: true };
  }
  return { atoms, end, cut: false };
}
