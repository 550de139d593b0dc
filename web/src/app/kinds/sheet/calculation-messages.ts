/** A book to calculate, or steps that it changed by. */
export type CalculationTask = { readonly book: unknown } | { readonly steps: readonly unknown[] };

/** A value as it crosses from one thread to another. */
export type SentValue = number | string | boolean | null | { readonly fault: string };

/** What formulas come to that differ from what was said of them last, and cells that hold no formula any more. */
export interface Calculated {
  readonly values: readonly (readonly [cell: string, value: SentValue])[];
  readonly gone: readonly string[];
}
