import { format, isDateFormat, parseValue } from 'numfmt';

/** What a formula comes to when it comes to nothing, named as ISO/IEC 29500-1, 18.17.3, does; and a formula that needs itself. */
export class Fault {
  constructor(readonly name: string) {}
}

/** A formula that needs its own value, directly or through others. */
export const CYCLE = new Fault('#CYCLE!');

/** What a cell comes to; null for an empty one. Days are numbers, counted as ISO/IEC 29500-1, 18.17.4.1, counts those of the 1900 system. */
export type Value = number | string | boolean | Fault | null;

/** Days are typed as ISO 8601 tells them: any other order of their parts is a guess. */
const DAY = /^\d{4}-\d{2}-\d{2}(?:[T ]\d{2}:\d{2}(?::\d{2})?)?$/;

/** What a text reads as, and the format that it is typed in; null for text. */
function readAs(text: string): ReturnType<typeof parseValue> {
  const read = parseValue(text);
  const format = read?.z ?? '';
  const isOfDays = isDateFormat(format) && (/[yd]/i.test(format) || !/[hs]/i.test(format));
  return isOfDays && !DAY.test(text) ? null : read;
}

/** Numbers as most are typed, which are read without the reader of all forms: a sheet that is scrolled reads thousands a second. */
const PLAIN = /^-?(?:0|[1-9]\d{0,14})(?:\.\d{1,15})?$/;
/** Whole numbers below this are shown alike in no format and by their digits. */
const DIGITS = 1e10;

/** What a text that is no formula comes to: a number, a share, an amount, a day or a time where it reads as one; else the text. */
export function valueOf(text: string): Value {
  if (text === '') return null;
  if (PLAIN.test(text)) return Number(text);
  if (text.startsWith("'")) return text.slice(1);
  const read = readAs(text);
  const value: unknown = read?.v;
  return typeof value === 'number' || typeof value === 'boolean' ? value : text;
}

/** The number format that a text is typed in, such as `0%`; none where it is a plain number or no number. */
export function formatTyped(text: string): string {
  return text.startsWith("'") || PLAIN.test(text) ? '' : (readAs(text)?.z ?? '');
}

/** A value as it is shown in a number format (ISO/IEC 29500-1, 18.8.31); an empty one is general. A format that is none shows the value plainly. */
export function shownValue(value: Value, pattern = ''): string {
  if (value === null) return '';
  if (value instanceof Fault) return value.name;
  if (pattern === '' && Number.isInteger(value) && Math.abs(Number(value)) < DIGITS) return String(value);
  try {
    return format(pattern || 'General', value);
  } catch {
    return format('General', value);
  }
}

/** Whether a number format shows a day or a time. */
export function isDay(pattern: string): boolean {
  return pattern !== '' && isDateFormat(pattern);
}
