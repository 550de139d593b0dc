import { addressIn, endOfRun, mayHoldAddress } from './addresses.js';
import { isJoined } from './joins.js';
import { graphemeBreaks, wordBreaks } from './unicode/breaks.js';
import { eachLatinEnd, isLatin, isPlain } from './unicode/latin.js';
import { unitsOf } from './units.js';

/**
 * Cuts a text into words, white space and signs; joined again they give the text. Words are those of Unicode Standard
 * Annex #29 with the tailoring it invites: an address, a number, a date, a time, an amount with its currency or per cent
 * sign, and words joined by a hyphen or a slash are one segment each. No grapheme cluster is ever cut. Linear, whatever
 * the text: each unit is looked at a bounded number of times. A chunk of plain Latin letters costs one look at each.
 */
export function segments(text: string): string[] {
  const out: string[] = [];
  eachSegment(text, (from, to) => out.push(text.slice(from, to)));
  return out;
}

/** Scratch for texts longer than this is not kept. */
const KEPT = 1 << 16;

/** Scratch to cut in; more is made for a text that is cut while one is. */
let spare: { units: Uint16Array<ArrayBuffer>; ends: Int32Array<ArrayBuffer> } | null = null;

/** Tells where each segment of a text begins and ends, without making a string of it. */
export function eachSegment(text: string, tell: (from: number, to: number) => void): void {
  const scratch = spare ?? { units: new Uint16Array(1024), ends: new Int32Array(1024) };
  spare = null;
  scratch.units = unitsOf(text, scratch.units);
  if (text.length > scratch.ends.length) scratch.ends = new Int32Array(scratch.units.length);
  const count = segmentEnds(scratch.units, text, scratch.ends);
  let from = 0;
  for (let i = 0; i < count; i++) {
    const to = scratch.ends[i] as number;
    tell(from, to);
    from = to;
  }
  if (scratch.units.length <= KEPT) spare = scratch;
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
    if (i > start) count = chunkEnds(units, text, start, i, ends, count);
    for (let at = i; at < end;)
      at = ends[count++] = units[at] === SPACE ? endOfSpaces(units, at) : lineEnd(units, at);
    start = i = end;
  }
  return size > start ? chunkEnds(units, text, start, size, ends, count) : count;
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

/** Cuts a chunk between white space that is more than a plain word: addresses stay whole, the rest is cut into words. */
function chunkEnds(
  units: Uint16Array,
  text: string,
  from: number,
  to: number,
  ends: Int32Array,
  count: number,
): number {
  if (!mayHoldAddress(units, from, to)) return wordEnds(units, text, from, to, ends, count);
  let start = from;
  for (let at = from; at < to; at++) {
    const end = endOfRun(units, at, to);
    const address = addressIn(units, at, end);
    at = end;
    if (!address) continue;
    count = wordEnds(units, text, start, address.from, ends, count);
    ends[count++] = start = address.to;
  }
  return wordEnds(units, text, start, to, ends, count);
}

/** Cuts a stretch without addresses into words and signs. */
function wordEnds(
  units: Uint16Array,
  text: string,
  from: number,
  to: number,
  ends: Int32Array,
  count: number,
): number {
  if (from === to) return count;
  const tell = (end: number): void => {
    if (end === to || !isJoined(units, from, end, to)) ends[count++] = end;
  };
  if (isLatin(units, from, to)) eachLatinEnd(units, from, to, tell);
  else for (const end of unbrokenEnds(text.slice(from, to))) tell(from + end);
  return count;
}

/** Ends of words that are ends of grapheme clusters too. */
function unbrokenEnds(text: string): number[] {
  const clusters = graphemeBreaks(text);
  let i = 0;
  return wordBreaks(text).filter((end) => {
    while ((clusters[i] ?? end) < end) i++;
    return clusters[i] === end;
  });
}
