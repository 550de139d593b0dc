/** What of the parser is used here; it has no types of its own. */
declare module 'fast-formula-parser' {
  export interface Place {
    readonly sheet: string;
    readonly row: number;
    readonly col: number;
  }

  export interface Range {
    readonly sheet: string;
    readonly from: { readonly row: number; readonly col: number };
    readonly to: { readonly row: number; readonly col: number };
  }

  export class FormulaError extends Error {
    constructor(error: string, message?: string, details?: unknown);
    readonly error: string;
    readonly details?: unknown;
  }

  /** An argument of a function of one's own. */
  export interface Argument {
    readonly value: unknown;
  }

  export default class FormulaParser {
    static readonly FormulaError: typeof FormulaError;
    constructor(config: {
      readonly functions?: Readonly<Record<string, (...args: (Argument | null)[]) => unknown>>;
      readonly onCell: (place: Place) => unknown;
      readonly onRange: (range: Range) => unknown[][];
    });
    parse(formula: string, place: Place): unknown;
    supportedFunctions(): string[];
  }
}
