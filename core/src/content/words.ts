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

/** Room for texts longer than this is not kept. */
const KEPT = 1 << 16;

/** Room to cut in; more is made for a text that is cut while one is. */
let spare: { units: Uint16Array<ArrayBuffer>; ends: Int32Array<ArrayBuffer> } | null = null;

/** Tells where each segment of a text begins and ends, without making a string of it. */
export function eachSegment(text: string, tell: (from: number, to: number) => void): void {
  const room = spare ?? { units: new Uint16Array(1024), ends: new Int32Array(1024) };
  spare = null;
  room.units = unitsOf(text, room.units);
  if (text.length > room.ends.length) room.ends = new Int32Array(room.units.length);
  const count = segmentEnds(room.units, text, room.ends);
  let from = 0;
  for (let i = 0; i < count; i++) {
    const to = room.ends[i] as number;
    tell(from, to);
    from = to;
  }
  if (room.units.length <= KEPT) spare = room;
}

/**
 * Sets down where the segments of a text end, of which there are as many as it answers, at most one for each unit. The
 * units of the text, and a 0 behind them, are set down already, as by `unitsOf`.
 */
export function segmentEnds(units: Uint16Array, text: string, ends: Int32Array): number {
  const size = text.length;
  let count = 0;
  let start = 0;
  for (let i = 0; i < size;) {
    if (i === start && classOf(units[i] as number) === PLAIN) {
      do i++;
      while (classOf(units[i] as number) === PLAIN);
      const end = classOf(units[i] as number) === CLOSING ? i + 1 : i;
      const oneSpace = units[end] === SPACE && isAfterSpace(units[end + 1] as number);
      if (oneSpace || end === size || isGap(units, text, end)) {
        ends[count++] = i;
        if (end > i) ends[count++] = end;
        start = i = oneSpace ? (ends[count++] = end + 1) : end;
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
    if (i > start) count = partEnds(text, start, i, ends, count);
    for (let at = i; at < end;)
      at = ends[count++] = units[at] === SPACE ? endOfSpaces(units, at) : lineEnd(units, at);
    start = i = end;
  }
  return size > start ? partEnds(text, start, size, ends, count) : count;
}

/** Cuts a stretch between white space that is more than a plain word. */
function partEnds(text: string, from: number, to: number, ends: Int32Array, count: number): number {
  let at = from;
  for (const part of cutChunk(text.slice(from, to))) ends[count++] = at += part.length;
  return count;
}

const SPACE = 0x20;

/** What a unit is at first sight: a Latin letter or digit, white space, a sign that closes a word and never belongs to it. */
const [PLAIN, BLANK, CLOSING] = [1, 2, 3];
const CLASSES = Uint8Array.from({ length: 0x300 }, (_, unit) =>
  isPlain(unit) ? PLAIN : isSpace(unit) ? BLANK : '.,;:!?)'.includes(String.fromCharCode(unit)) ? CLOSING : 0,
);

function classOf(unit: number): number {
  return unit < 0x300 ? (CLASSES[unit] as number) : 0;
}

/** Whether a unit ends the space before it without belonging to it, at first sight. */
function isAfterSpace(unit: number): boolean {
  return unit < 0x300 && CLASSES[unit] !== BLANK;
}

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
  let plain = 0;
  while (isPlain(text.charCodeAt(plain))) plain++;
  if (plain === text.length) return Math.min(1, plain);
  let words = 0;
  eachSegment(text, (from, to) => {
    if (isPlain(text.charCodeAt(from)) || isWord(text.slice(from, to))) words++;
  });
  return words;
}
