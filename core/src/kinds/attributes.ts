import type { AttributeSpec } from 'prosemirror-model';

/** An attribute whose values are checked; without a default it has to be given. */
export function check(default_: unknown, says: string, holds: (value: unknown) => boolean): AttributeSpec {
  const validate = (value: unknown): void => {
    if (!holds(value)) throw new RangeError(`expected ${says}`);
  };
  return default_ === undefined ? { validate } : { default: default_, validate };
}

/** An attribute that is a whole number within bounds. */
export const wholeNumber = (default_: number, low: number, high: number): AttributeSpec =>
  check(
    default_,
    `a whole number from ${low} to ${high}`,
    (value) => Number.isInteger(value) && Number(value) >= low && Number(value) <= high,
  );

/** As much of a DOM element as reading attributes needs; core has no DOM. */
export interface Element {
  getAttribute(name: string): string | null;
  readonly style: { readonly textAlign: string };
}

/** An attribute that is one of a few words. */
export function oneOf(values: readonly string[], fallback: string): AttributeSpec {
  return check(fallback, `one of ${values.join(', ')}`, (value) => values.includes(value as string));
}

/** An attribute that is a line of text: no breaks in it, and no longer than `most` letters. */
export function line(most: number): AttributeSpec {
  return check(
    '',
    `a line of at most ${most} letters`,
    (value) => typeof value === 'string' && value.length <= most && !/[\n\r]/.test(value),
  );
}
