import { graphemeBreaks, wordBreaks } from './unicode/breaks.js';
import { isLatin, isPlain, latinWordBreaks } from './unicode/latin.js';
import { unitsOf } from './units.js';

/**
 * Cuts a text into words, white space and signs; joined again they give the text. Words are those of Unicode Standard
 * Annex #29 with the tailoring it invites: an address, a number, a date, a time, an amount with its currency or per cent
 * sign, and words joined by a hyphen or a slash are one segment each. No grapheme cluster is ever cut. Linear; a chunk of
 * plain Latin letters costs one look at each unit.
 */
export function segments(text: string): string[] {
  const out: string[] = [];
  eachSegment(text, (from, to) => out.push(text.slice(from, to)));
  return out;
}

/** Room for the units of a text; another is made for one that is cut while one is. */
let spare: Uint16Array<ArrayBuffer> | null = null;

/** Tells where each segment of a text begins and ends, without making a string of it. */
export function eachSegment(text: string, tell: (from: number, to: number) => void): void {
  const units = unitsOf(text, spare ?? new Uint16Array(1024));
  spare = null;
  eachSegmentIn(units, text, tell);
  spare = units;
}

/** The same for a text whose units, and a 0 behind them, are set down already, as by `unitsOf`. */
export function eachSegmentIn(
  units: Uint16Array,
  text: string,
  tell: (from: number, to: number) => void,
): void {
  const size = text.length;
  let start = 0;
  for (let i = 0; i < size;) {
    if (i === start && isPlain(units[i] as number)) {
      while (isPlain(units[i] as number)) i++;
      const end = isClosing(units[i] as number) ? i + 1 : i;
      if (end === size || isGap(units, text, end)) {
        tell(start, i);
        if (end > i) tell(i, end);
        start = i = end;
        continue;
      }
    }
    if (!isSpace(units[i] as number)) {
      i++;
      continue;
    }
    const end = endOfSpace(units, i);
    if (!isCut(units, text, end)) {
      i = end;
      continue;
    }
    if (i > start) eachPart(text, start, i, tell);
    for (let at = i; at < end;) {
      const next = units[at] === SPACE ? endOfSpaces(units, at) : lineEnd(units, at);
      tell(at, next);
      at = next;
    }
    start = i = end;
  }
  if (size > start) eachPart(text, start, size, tell);
}

/** Cuts a stretch between white space that is more than a plain word. */
function eachPart(text: string, from: number, to: number, tell: (from: number, to: number) => void): void {
  let at = from;
  for (const part of cutChunk(text.slice(from, to))) tell(at, (at += part.length));
}

/** Whether a unit is a sign that closes a word and never belongs to it. */
function isClosing(unit: number): boolean {
  return unit < 0x40 && CLOSING[unit] === 1;
}

const CLOSING = Uint8Array.from({ length: 0x40 }, (_, unit) =>
  Number('.,;:!?)'.includes(String.fromCharCode(unit))),
);
const SPACE = 0x20;

function isSpace(unit: number): boolean {
  return unit === SPACE || (unit >= 9 && unit <= 13);
}

/** Whether white space begins at an index, and cuts. */
function isGap(units: Uint16Array, text: string, at: number): boolean {
  return isSpace(units[at] as number) && isCut(units, text, endOfSpace(units, at));
}

/** Whether white space that ends at an index cuts: what stands there might belong to it. */
function isCut(units: Uint16Array, text: string, end: number): boolean {
  return (units[end] as number) < 0x300 || !joinsWhatStandsBefore(text, end);
}

function endOfSpace(units: Uint16Array, at: number): number {
  while (isSpace(units[at] as number)) at++;
  return at;
}

function endOfSpaces(units: Uint16Array, at: number): number {
  while (units[at] === SPACE) at++;
  return at;
}

function lineEnd(units: Uint16Array, at: number): number {
  return units[at] === 13 && units[at + 1] === 10 ? at + 2 : at + 1;
}

/** Whether what stands at an index belongs to the sign before it, as a combining mark after a space does. */
function joinsWhatStandsBefore(text: string, at: number): boolean {
  return graphemeBreaks(`a${text.slice(at, at + 2)}`)[0] !== 1;
}

/** An address on the web or of a person; what closes the sentence round it does not belong to it. */
const ADDRESS = /(?:[a-z][a-z0-9+.-]*:\/\/|www\.|[\w.+-]+@(?=[\w-]+\.))[^\s<>"“”]*[^\s<>"“”.,;:!?)\]}'’»]/iu;

/** Cuts a stretch between white space. */
function cutChunk(text: string): string[] {
  const address = text.length > 5 && /[:@.]/.test(text) ? ADDRESS.exec(text) : null;
  if (address) {
    const [before, after] = [text.slice(0, address.index), text.slice(address.index + address[0].length)];
    return [...(before ? cutChunk(before) : []), address[0], ...(after ? cutChunk(after) : [])];
  }
  const out: string[] = [];
  let start = 0;
  for (const end of isLatin(text) ? latinWordBreaks(text) : bothBreaks(text)) {
    if (end < text.length && joined(text, end)) continue;
    out.push(text.slice(start, end));
    start = end;
  }
  return out;
}

/** Ends of words that are ends of grapheme clusters too. */
function bothBreaks(text: string): number[] {
  const clusters = new Set(graphemeBreaks(text));
  return wordBreaks(text).filter((end) => clusters.has(end));
}

const LAST = /[\p{L}\p{N}\p{M}]$/u;
const FIRST = /^[\p{L}\p{N}]/u;

/** Whether the tailoring keeps together what UAX #29 would cut at an index of a chunk. */
function joined(text: string, at: number): boolean {
  const [before, after] = [text.charAt(at - 1), text.charAt(at)];
  if (isHyphen(after)) return LAST.test(text.slice(0, at)) && FIRST.test(text.slice(at + 1));
  if (isHyphen(before) && at > 1) return LAST.test(text.slice(0, at - 1)) && FIRST.test(text.slice(at));
  if (after === ':') return /\d$/.test(text.slice(0, at)) && /^\d/.test(text.slice(at + 1));
  if (before === ':') return /\d:$/.test(text.slice(0, at)) && /^\d/.test(text.slice(at));
  if (isDigit(after)) return /\p{Sc}$/u.test(text.slice(0, at)) || (at === 1 && /[-+−±~#]/.test(before));
  if (isDigit(before)) return /^(?:[%‰°]|\p{Sc})/u.test(text.slice(at));
  return false;
}

function isHyphen(sign: string): boolean {
  return sign !== '' && '-‐‑/@'.includes(sign);
}

function isDigit(sign: string): boolean {
  return sign >= '0' && sign <= '9';
}

/** Whether a segment counts as a word: it holds a letter or a number. */
export function isWord(segment: string): boolean {
  return isPlain(segment.charCodeAt(0)) || /[\p{L}\p{N}]/u.test(segment);
}

/** Number of words in a text; "half-tide", "3.5" and "Ines's" are one word each. Signs of Han count each. */
export function countWords(text: string): number {
  let words = 0;
  eachSegment(text, (from, to) => {
    if (isPlain(text.charCodeAt(from)) || isWord(text.slice(from, to))) words++;
  });
  return words;
}
