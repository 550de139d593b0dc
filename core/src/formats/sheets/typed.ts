import { isDay, shownValue, valueOf } from '../../calculate/index.js';

/** What somebody would type for a number in a format: a day as one, all else as the number. */
export function typedNumber(value: number, format: string): string {
  if (isDay(format) && Number.isInteger(value) && value > 0) return shownValue(value, 'yyyy-mm-dd');
  return String(value);
}

/** What somebody would type for a text, so that it is one, whatever it reads as: an apostrophe before it where it is needed. */
export function typedText(text: string): string {
  return text === '' || (valueOf(text) === text && !/^[='].?/.test(text)) ? text : `'${text}`;
}
