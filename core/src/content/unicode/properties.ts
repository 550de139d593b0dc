import data from './tables.json' with { type: 'json' };

/** What the break rules need to know of a code point: a bit for each class, so that a rule is a mask. */
const names = [
  ...['CR', 'LF', 'Newline', 'Control', 'Extend', 'ZWJ', 'Format', 'SpacingMark', 'Prepend'],
  ...['Regional_Indicator', 'Hebrew_Letter', 'ALetter', 'Single_Quote', 'Double_Quote', 'MidNumLet'],
  ...['MidLetter', 'MidNum', 'Numeric', 'Katakana', 'ExtendNumLet', 'WSegSpace', 'L', 'V', 'T', 'LV', 'LVT'],
] as const;
type Name =
  | 'CR'
  | 'LF'
  | 'Newline'
  | 'Control'
  | 'Extend'
  | 'ZWJ'
  | 'Format'
  | 'SpacingMark'
  | 'Prepend'
  | 'Regional_Indicator'
  | 'Hebrew_Letter'
  | 'ALetter'
  | 'Single_Quote'
  | 'Double_Quote'
  | 'MidNumLet'
  | 'MidLetter'
  | 'MidNum'
  | 'Numeric'
  | 'Katakana'
  | 'ExtendNumLet'
  | 'WSegSpace'
  | 'L'
  | 'V'
  | 'T'
  | 'LV'
  | 'LVT';

/** The bit of each class of Word_Break and Grapheme_Cluster_Break. */
export const BIT = Object.fromEntries(names.map((name, i) => [name, 1 << i])) as Record<Name, number>;
/** The bit of Extended_Pictographic. */
export const PICTOGRAPH = 1 << names.length;

const PAGE = 7;
const CODES = 0x110000;

interface Tables {
  readonly pages: Uint16Array;
  readonly word: Int32Array;
  readonly grapheme: Int32Array;
}

let held: Tables | null = null;

/** Unpacks the ranges into two-stage tables: a page for each 128 code points, equal pages once. */
function tables(): Tables {
  if (held) return held;
  const classes = new Uint8Array(CODES);
  let at = 0;
  for (const range of data.ranges.split(',')) {
    const [gap = 0, length = 0, value = 0] = range.split(' ').map((digits) => parseInt(digits, 36));
    classes.fill(value, at + gap, at + gap + length);
    at += gap + length;
  }
  const bits = (name: unknown, pictograph: unknown): number =>
    (BIT[name as Name] ?? 0) | (pictograph ? PICTOGRAPH : 0);
  const wordBits = data.classes.map(([name, , pictograph]) => bits(name, pictograph));
  const graphemeBits = data.classes.map(([, name, pictograph]) => bits(name, pictograph));
  const pages = new Uint16Array(CODES >> PAGE);
  const numbers = new Map<string, number>();
  const kept: Uint8Array[] = [];
  for (let page = 0; page < pages.length; page++) {
    const part = classes.subarray(page << PAGE, (page + 1) << PAGE);
    const key = part.join();
    let number = numbers.get(key);
    if (number === undefined) {
      number = kept.push(part) - 1;
      numbers.set(key, number);
    }
    pages[page] = number;
  }
  const spread = (of: readonly number[]): Int32Array =>
    Int32Array.from({ length: kept.length << PAGE }, (_, i) => of[kept[i >> PAGE]?.[i & 127] ?? 0] ?? 0);
  held = { pages, word: spread(wordBits), grapheme: spread(graphemeBits) };
  return held;
}

/** Bits of a code point's Word_Break class, with `PICTOGRAPH`; 0 for Other. Unicode 15.0. */
export function wordClass(code: number): number {
  const { pages, word } = tables();
  return word[((pages[code >> PAGE] ?? 0) << PAGE) | (code & 127)] ?? 0;
}

/** Bits of a code point's Grapheme_Cluster_Break class, with `PICTOGRAPH`; 0 for Other. Unicode 15.0. */
export function graphemeClass(code: number): number {
  const { pages, grapheme } = tables();
  return grapheme[((pages[code >> PAGE] ?? 0) << PAGE) | (code & 127)] ?? 0;
}
