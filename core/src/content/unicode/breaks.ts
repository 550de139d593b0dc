import { BIT, PICTOGRAPH, graphemeClass, wordClass } from './properties.js';

const LINE = BIT.CR | BIT.LF | BIT.Newline;
const IGNORED = BIT.Extend | BIT.Format | BIT.ZWJ;
const LETTER = BIT.ALetter | BIT.Hebrew_Letter;
const MID_LETTER = BIT.MidLetter | BIT.MidNumLet | BIT.Single_Quote;
const MID_NUMBER = BIT.MidNum | BIT.MidNumLet | BIT.Single_Quote;
const JOINED = LETTER | BIT.Numeric | BIT.Katakana;

/**
 * Where words end in a text, as indices in UTF-16 units, the end of the text included; empty for an empty text. Linear.
 * Source: Unicode Standard Annex #29, revision 41 (Unicode 15.0), rules WB1 to WB999.
 */
export function wordBreaks(text: string): number[] {
  const out: number[] = [];
  const { codes, starts } = codePoints(text);
  const classes = codes.map(wordClass);
  /** The class after `i` that counts, past what WB4 ignores. */
  const after = (i: number): number => {
    let j = i + 1;
    while (((classes[j] ?? 0) & IGNORED) !== 0) j++;
    return classes[j] ?? 0;
  };
  let before = 0;
  let last = 0;
  let flags = 0;
  for (let i = 0; i < classes.length; i++) {
    const raw = classes[i - 1] ?? 0;
    const now = classes[i] ?? 0;
    if (i > 0 && breaksWord(raw, now, before, last, flags, () => after(i))) out.push(starts[i] as number);
    const fresh = i === 0 || (raw & LINE) !== 0;
    if ((now & IGNORED) !== 0 && !fresh) continue;
    flags = (now & BIT.Regional_Indicator) !== 0 && (last & BIT.Regional_Indicator) !== 0 ? flags + 1 : 0;
    [before, last] = [last, now];
  }
  if (text.length > 0) out.push(text.length);
  return out;
}

/**
 * Whether a word ends between class `raw` and class `now`. `last` and `before` are the two classes before that count, and
 * `pairs` tells how many regional indicators stand before the last one.
 */
function breaksWord(
  raw: number,
  now: number,
  before: number,
  last: number,
  pairs: number,
  next: () => number,
): boolean {
  if ((raw & BIT.CR) !== 0 && (now & BIT.LF) !== 0) return false;
  if (((raw | now) & LINE) !== 0) return true;
  if ((raw & BIT.ZWJ) !== 0 && (now & PICTOGRAPH) !== 0) return false;
  if ((raw & BIT.WSegSpace) !== 0 && (now & BIT.WSegSpace) !== 0) return false;
  if ((now & IGNORED) !== 0) return false;
  if ((last & LETTER) !== 0) {
    if ((now & LETTER) !== 0) return false;
    if ((now & MID_LETTER) !== 0 && (next() & LETTER) !== 0) return false;
    if ((last & BIT.Hebrew_Letter) !== 0) {
      if ((now & BIT.Single_Quote) !== 0) return false;
      if ((now & BIT.Double_Quote) !== 0 && (next() & BIT.Hebrew_Letter) !== 0) return false;
    }
    if ((now & BIT.Numeric) !== 0) return false;
  }
  if ((last & MID_LETTER) !== 0 && (before & LETTER) !== 0 && (now & LETTER) !== 0) return false;
  if (
    (last & BIT.Double_Quote) !== 0 &&
    (before & BIT.Hebrew_Letter) !== 0 &&
    (now & BIT.Hebrew_Letter) !== 0
  )
    return false;
  if ((last & BIT.Numeric) !== 0) {
    if ((now & (BIT.Numeric | LETTER)) !== 0) return false;
    if ((now & MID_NUMBER) !== 0 && (next() & BIT.Numeric) !== 0) return false;
  }
  if ((last & MID_NUMBER) !== 0 && (before & BIT.Numeric) !== 0 && (now & BIT.Numeric) !== 0) return false;
  if ((last & BIT.Katakana) !== 0 && (now & BIT.Katakana) !== 0) return false;
  if ((last & (JOINED | BIT.ExtendNumLet)) !== 0 && (now & BIT.ExtendNumLet) !== 0) return false;
  if ((last & BIT.ExtendNumLet) !== 0 && (now & JOINED) !== 0) return false;
  if ((last & BIT.Regional_Indicator) !== 0 && (now & BIT.Regional_Indicator) !== 0) return pairs % 2 === 1;
  return true;
}

/**
 * Where grapheme clusters end in a text, as indices in UTF-16 units, the end of the text included. Linear.
 * Source: Unicode Standard Annex #29, revision 41 (Unicode 15.0), rules GB1 to GB999 for extended clusters.
 */
export function graphemeBreaks(text: string): number[] {
  const out: number[] = [];
  const { codes, starts } = codePoints(text);
  let last = 0;
  let pairs = 0;
  let emoji = false;
  for (let i = 0; i < codes.length; i++) {
    const now = graphemeClass(codes[i] as number);
    if (i > 0 && breaksGrapheme(last, now, pairs, emoji)) out.push(starts[i] as number);
    if ((now & PICTOGRAPH) !== 0) emoji = true;
    else if ((now & (BIT.Extend | BIT.ZWJ)) === 0) emoji = false;
    pairs = (now & BIT.Regional_Indicator) === 0 ? 0 : pairs + 1;
    last = now;
  }
  if (text.length > 0) out.push(text.length);
  return out;
}

const CONTROL = BIT.CR | BIT.LF | BIT.Control;

function breaksGrapheme(last: number, now: number, pairs: number, emoji: boolean): boolean {
  if ((last & BIT.CR) !== 0 && (now & BIT.LF) !== 0) return false;
  if (((last | now) & CONTROL) !== 0) return true;
  if ((last & BIT.L) !== 0 && (now & (BIT.L | BIT.V | BIT.LV | BIT.LVT)) !== 0) return false;
  if ((last & (BIT.LV | BIT.V)) !== 0 && (now & (BIT.V | BIT.T)) !== 0) return false;
  if ((last & (BIT.LVT | BIT.T)) !== 0 && (now & BIT.T) !== 0) return false;
  if ((now & (BIT.Extend | BIT.ZWJ | BIT.SpacingMark)) !== 0 || (last & BIT.Prepend) !== 0) return false;
  if (emoji && (last & BIT.ZWJ) !== 0 && (now & PICTOGRAPH) !== 0) return false;
  if ((last & BIT.Regional_Indicator) !== 0 && (now & BIT.Regional_Indicator) !== 0) return pairs % 2 === 0;
  return true;
}

function codePoints(text: string): { codes: number[]; starts: number[] } {
  const codes: number[] = [];
  const starts: number[] = [];
  for (let i = 0; i < text.length; i++) {
    const code = text.codePointAt(i) as number;
    codes.push(code);
    starts.push(i);
    if (code > 0xffff) i++;
  }
  return { codes, starts };
}
