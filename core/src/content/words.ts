import { graphemeBreaks, wordBreaks } from './unicode/breaks.js';
import { isLatin, isPlainWord, latinWordBreaks } from './unicode/latin.js';

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

/** Tells where each segment of a text begins and ends, without making a string of it. */
export function eachSegment(text: string, tell: (from: number, to: number) => void): void {
  const chunk = (from: number, to: number): void => {
    if (isPlainWord(text, from, to)) tell(from, to);
    else if (to - from > 1 && CLOSING.includes(text.charAt(to - 1)) && isPlainWord(text, from, to - 1)) {
      tell(from, to - 1);
      tell(to - 1, to);
    } else {
      let at = from;
      for (const part of cutChunk(text.slice(from, to))) tell(at, (at += part.length));
    }
  };
  let start = 0;
  for (let i = 0; i < text.length;) {
    if (!isSpace(text.charCodeAt(i))) {
      i++;
      continue;
    }
    const end = endOfSpace(text, i);
    if (text.charCodeAt(end) >= 0x300 && joinsWhatStandsBefore(text, end)) {
      i = end;
      continue;
    }
    if (i > start) chunk(start, i);
    for (let at = i; at < end;) {
      const next = text.charCodeAt(at) === SPACE ? endOfSpaces(text, at, end) : lineEnd(text, at);
      tell(at, next);
      at = next;
    }
    start = i = end;
  }
  if (text.length > start) chunk(start, text.length);
}

/** Signs that close a word and never belong to it. */
const CLOSING = '.,;:!?)';
const SPACE = 0x20;

function isSpace(unit: number): boolean {
  return unit === SPACE || (unit >= 9 && unit <= 13);
}

function endOfSpace(text: string, at: number): number {
  while (isSpace(text.charCodeAt(at))) at++;
  return at;
}

function endOfSpaces(text: string, at: number, end: number): number {
  while (at < end && text.charCodeAt(at) === SPACE) at++;
  return at;
}

function lineEnd(text: string, at: number): number {
  return text.charCodeAt(at) === 13 && text.charCodeAt(at + 1) === 10 ? at + 2 : at + 1;
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
  return isPlainWord(segment, 0, 1) || /[\p{L}\p{N}]/u.test(segment);
}

/** Number of words in a text; "half-tide", "3.5" and "Ines's" are one word each. Signs of Han count each. */
export function countWords(text: string): number {
  let words = 0;
  for (const segment of segments(text)) if (isWord(segment)) words++;
  return words;
}
