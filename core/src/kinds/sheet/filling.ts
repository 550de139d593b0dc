import { isFormula, shiftedFormula } from './references.js';

/** Which way cells are filled. */
export type Way = 'down' | 'right';

/** A number as it is typed plainly. */
const NUMBER = /^-?\d+(?:\.\d+)?$/;
/** Words that end in a number, such as `Week 3`. */
const COUNTED = /^(.*?)(\d+)$/;

/**
 * What goes on from some texts in a line, `count` more of them: numbers that differ by one step go on by it, words that end in a number
 * count on, formulas refer to what lies as far on as they do, and all else is repeated. Formulas are as they are typed.
 */
export function goneOn(texts: readonly string[], count: number, way: Way): string[] {
  const step = stepOf(texts);
  const last = texts.at(-1) ?? '';
  return Array.from({ length: count }, (_, i) => {
    const source = texts[i % texts.length] ?? '';
    const by = texts.length * (1 + Math.floor(i / texts.length));
    if (isFormula(source))
      return way === 'down' ? shiftedFormula(source, by, 0) : shiftedFormula(source, 0, by);
    return step === null ? source : stepped(last, step, i + 1);
  });
}

/** By how much each of the texts is more than the one before it; null where they are no numbers, or go by no one step. */
function stepOf(texts: readonly string[]): number | null {
  const words = texts.map((text) => COUNTED.exec(text));
  const numbers = texts.every((text) => NUMBER.test(text))
    ? texts.map(Number)
    : words.every((word) => word && word[1]?.trim() !== '' && word[1] === words[0]?.[1])
      ? words.map((word) => Number(word?.[2]))
      : [];
  const [first = 0, second] = numbers;
  if (numbers.length === 0) return null;
  if (second === undefined) return NUMBER.test(texts[0] ?? '') ? null : 1;
  const step = second - first;
  const even = numbers.every(
    (number, i) => i === 0 || Math.abs(number - (numbers[i - 1] ?? 0) - step) < 1e-9,
  );
  return even ? step : null;
}

function stepped(last: string, step: number, times: number): string {
  if (NUMBER.test(last)) {
    const places = Math.max(decimals(last), decimals(String(step)));
    return String(Number((Number(last) + step * times).toFixed(places)));
  }
  const [, head = '', number = '0'] = COUNTED.exec(last) ?? [];
  return head + String(Number(number) + step * times).padStart(number.length, '0');
}

function decimals(number: string): number {
  return Math.min(12, number.split('.')[1]?.length ?? 0);
}
