import { FILLER } from './erased.js';
import { isPlain } from './unicode/latin.js';

const LETTER = /^[\p{L}\p{N}]$/u;
const LETTER_OR_MARK = /^[\p{L}\p{N}\p{M}]$/u;
const CURRENCY = /^\p{Sc}$/u;
const ERASED = FILLER.charCodeAt(0);
const COLON = 0x3a;
const HYPHENS = new Set([...'-‐‑/@'].map((sign) => sign.charCodeAt(0)));
const BEFORE_NUMBER = new Set([...'-+−±~#'].map((sign) => sign.charCodeAt(0)));
const AFTER_NUMBER = new Set([...'%‰°'].map((sign) => sign.charCodeAt(0)));

/**
 * Whether our tailoring keeps together what UAX #29 would cut at an index of the stretch `from` to `to`: words joined by a
 * hyphen or a slash, the parts of a time, a number with its sign, its currency or its per cent, what was erased side by side.
 */
export function isJoined(units: Uint16Array, from: number, at: number, to: number): boolean {
  const [before, after] = [units[at - 1] as number, units[at] as number];
  if (before === ERASED) return after === ERASED;
  if (HYPHENS.has(after)) return endsWord(units, from, at) && beginsWord(units, at + 1, to);
  if (HYPHENS.has(before) && at - from > 1) return endsWord(units, from, at - 1) && beginsWord(units, at, to);
  if (after === COLON) return isDigit(before) && at + 1 < to && isDigit(units[at + 1] as number);
  if (before === COLON) return at - from > 1 && isDigit(units[at - 2] as number) && isDigit(after);
  if (isDigit(after))
    return CURRENCY.test(signBefore(units, from, at)) || (at - from === 1 && BEFORE_NUMBER.has(before));
  if (isDigit(before)) return AFTER_NUMBER.has(after) || CURRENCY.test(signAt(units, at, to));
  return false;
}

function endsWord(units: Uint16Array, from: number, at: number): boolean {
  return at > from && (isPlain(units[at - 1] as number) || LETTER_OR_MARK.test(signBefore(units, from, at)));
}

function beginsWord(units: Uint16Array, at: number, to: number): boolean {
  return at < to && (isPlain(units[at] as number) || LETTER.test(signAt(units, at, to)));
}

function isDigit(unit: number): boolean {
  return unit >= 0x30 && unit <= 0x39;
}

/** The code point that begins at an index. */
function signAt(units: Uint16Array, at: number, to: number): string {
  const [high, low] = [units[at] as number, at + 1 < to ? (units[at + 1] as number) : 0];
  return isHigh(high) && isLow(low) ? String.fromCharCode(high, low) : String.fromCharCode(high);
}

/** The code point that ends at an index. */
function signBefore(units: Uint16Array, from: number, at: number): string {
  const [high, low] = [at - 2 >= from ? (units[at - 2] as number) : 0, units[at - 1] as number];
  return isHigh(high) && isLow(low) ? String.fromCharCode(high, low) : String.fromCharCode(low);
}

function isHigh(unit: number): boolean {
  return unit >= 0xd800 && unit <= 0xdbff;
}

function isLow(unit: number): boolean {
  return unit >= 0xdc00 && unit <= 0xdfff;
}
