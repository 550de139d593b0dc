import type { BookView, SheetView } from './book.js';

/**
 * Formulas are stored with their references by name, as `[row.column]` or `[sheet!row.column]`, a `$` before what stays when the formula is
 * copied, and are shown in A1 notation. So a formula refers to what it referred to wherever that goes. `[.column]` is a whole column,
 * `[row.]` a whole row. What has no name yet, beyond the last row or column, is stored as it was typed.
 */
export interface Reference {
  /** Null for the sheet that the formula stands in. */
  readonly sheet: string | null;
  /** Null for a whole column. */
  readonly row: string | null;
  /** Null for a whole row. */
  readonly column: string | null;
}

/** Whether the text of a cell is a formula. */
export function isFormula(text: string): boolean {
  return text.length > 1 && text.startsWith('=');
}

/** A text in quotes, which holds no references. */
const QUOTED = '"(?:[^"]|"")*"';

/** A cell, a range of whole columns, or one of whole rows, in A1 notation; part of no longer word, and no function. */
const SHOWN = new RegExp(
  [
    QUOTED,
    [
      String.raw`(?<![\p{L}\p{N}_.$\[])`,
      String.raw`(?<head>'(?:[^']|'')+'!|[\p{L}_][\p{L}\p{N}_.]*!)?`,
      '(?:',
      [
        String.raw`(?<fixC>\$?)(?<column>[A-Za-z]{1,3})(?<fixR>\$?)(?<row>[1-9]\d{0,6})`,
        String.raw`(?<fixA>\$?)(?<from>[A-Za-z]{1,3}):(?<fixB>\$?)(?<to>[A-Za-z]{1,3})`,
        String.raw`(?<fixF>\$?)(?<first>[1-9]\d{0,6}):(?<fixL>\$?)(?<last>[1-9]\d{0,6})`,
      ].join('|'),
      ')',
      String.raw`(?![\p{L}\p{N}_(.!])`,
    ].join(''),
  ].join('|'),
  'gu',
);

const END = String.raw`\[(?:[a-z0-9]{1,16}!)?(?<endRow>\$?[a-z0-9]{1,16})?\.(?<endColumn>\$?[a-z0-9]{1,16})?\]`;
/** A reference as it is stored; of two that a colon joins both. */
const STORED = new RegExp(
  `${QUOTED}|${String.raw`\[(?:(?<sheet>[a-z0-9]{1,16})!)?(?<row>\$?[a-z0-9]{1,16})?\.(?<column>\$?[a-z0-9]{1,16})?\]`}(?::${END})?`,
  'g',
);

type Groups = Readonly<Record<string, string | undefined>>;

/** Puts something else for each reference that a pattern finds; null leaves it as it is. */
function replaced(text: string, pattern: RegExp, by: (groups: Groups) => string | null): string {
  return text.replace(pattern, (whole: string, ...rest: unknown[]) =>
    whole.startsWith('"') ? whole : (by(rest.at(-1) as Groups) ?? whole),
  );
}

/** The letters of a column that is shown at an index from 0: A, B, up to Z, then AA (ISO/IEC 29500-1, 18.3.1.4, attribute `r`). */
export function lettersOf(index: number): string {
  let letters = '';
  for (let rest = index + 1; rest > 0; rest = Math.floor((rest - 1) / 26))
    letters = String.fromCharCode(65 + ((rest - 1) % 26)) + letters;
  return letters;
}

/** The index of a column with letters, from 0. */
export function indexOfLetters(letters: string): number {
  return [...letters.toUpperCase()].reduce((sum, letter) => 26 * sum + letter.charCodeAt(0) - 64, 0) - 1;
}

/** Where things are shown, and what stands where: made once for a book. */
export class Places {
  private readonly sheets = new Map<string, SheetView>();
  private readonly byName = new Map<string, SheetView>();
  private readonly rows = new Map<string, ReadonlyMap<string, number>>();
  private readonly columns = new Map<string, ReadonlyMap<string, number>>();

  constructor(readonly book: BookView) {
    const indexed = (lines: readonly { readonly id: string }[]): ReadonlyMap<string, number> => {
      const out = new Map<string, number>();
      lines.forEach(({ id }, i) => {
        if (!out.has(id)) out.set(id, i);
      });
      return out;
    };
    for (const sheet of book.sheets) {
      this.sheets.set(sheet.id, sheet);
      const name = sheet.name.toLowerCase();
      if (!this.byName.has(name)) this.byName.set(name, sheet);
      this.rows.set(sheet.id, indexed(sheet.rows));
      this.columns.set(sheet.id, indexed(sheet.columns));
    }
  }

  sheet(id: string): SheetView | null {
    return this.sheets.get(id) ?? null;
  }

  named(name: string): SheetView | null {
    return this.byName.get(name.toLowerCase()) ?? null;
  }

  /** Index of a row in its sheet from 0, or -1. */
  row(sheet: string, id: string): number {
    return this.rows.get(sheet)?.get(id) ?? -1;
  }

  column(sheet: string, id: string): number {
    return this.columns.get(sheet)?.get(id) ?? -1;
  }
}

/** A formula as it is stored, of one as it is typed into a sheet. */
export function storedFormula(typed: string, places: Places, within: string): string {
  return replaced(
    typed,
    SHOWN,
    ({ head, fixC, column, fixR, row, fixA, from, fixB, to, fixF, first, fixL, last }) => {
      const sheet = head === undefined ? places.sheet(within) : places.named(nameIn(head));
      if (!sheet) return null;
      const prefix = head === undefined ? '' : `${sheet.id}!`;
      const columnOf = (letters: string, fix = ''): string | null => {
        const id = sheet.columns[indexOfLetters(letters)]?.id;
        return id === undefined ? null : fix + id;
      };
      const rowOf = (digits: string, fix = ''): string | null => {
        const id = sheet.rows[Number(digits) - 1]?.id;
        return id === undefined ? null : fix + id;
      };
      if (row !== undefined && column !== undefined) {
        const [r, c] = [rowOf(row, fixR), columnOf(column, fixC)];
        return r === null || c === null ? null : `[${prefix}${r}.${c}]`;
      }
      if (from !== undefined && to !== undefined) {
        const [a, b] = [columnOf(from, fixA), columnOf(to, fixB)];
        return a === null || b === null ? null : `[${prefix}.${a}]:[${prefix}.${b}]`;
      }
      const [a, b] = [rowOf(first ?? '', fixF), rowOf(last ?? '', fixL)];
      return a === null || b === null ? null : `[${prefix}${a}.]:[${prefix}${b}.]`;
    },
  );
}

/** The name of a sheet before a reference, without what sets it off. */
function nameIn(head: string): string {
  const name = head.slice(0, -1);
  return name.startsWith("'") ? name.slice(1, -1).replaceAll("''", "'") : name;
}

/** What stands in a formula for what it refers to and is gone (ISO/IEC 29500-1, 18.17.3). */
export const GONE = '#REF!';

/** A formula as it is shown, in A1 notation; what it refers to and is gone as `GONE`. */
export function shownFormula(stored: string, places: Places, within: string): string {
  return replaced(stored, STORED, ({ sheet, row, column, endRow, endColumn }) => {
    const of = sheet ?? within;
    const cell = (r: string | undefined, c: string | undefined): string | null => {
      const [shownC, shownR] = [
        c === undefined ? '' : shownColumn(places, of, c),
        r === undefined ? '' : shownRow(places, of, r),
      ];
      return shownC === null || shownR === null ? null : shownC + shownR;
    };
    const isRange = endRow !== undefined || endColumn !== undefined;
    const ends = isRange ? [cell(row, column), cell(endRow, endColumn)] : [cell(row, column)];
    return ends.includes(null) ? GONE : `${prefixOf(places, sheet)}${ends.join(':')}`;
  });
}

function shownRow(places: Places, sheet: string, named: string): string | null {
  const [fix, id] = fixed(named);
  const index = places.row(sheet, id);
  return index < 0 ? null : `${fix}${index + 1}`;
}

function shownColumn(places: Places, sheet: string, named: string): string | null {
  const [fix, id] = fixed(named);
  const index = places.column(sheet, id);
  return index < 0 ? null : `${fix}${lettersOf(index)}`;
}

function fixed(named: string): readonly [fix: string, id: string] {
  return named.startsWith('$') ? ['$', named.slice(1)] : ['', named];
}

/** The name of a sheet before a reference, in quotes where it needs them. */
function prefixOf(places: Places, id: string | undefined): string {
  if (id === undefined) return '';
  const name = places.sheet(id)?.name ?? '';
  return /^[\p{L}_][\p{L}\p{N}_.]*$/u.test(name) ? `${name}!` : `'${name.replaceAll("'", "''")}'!`;
}

/** The references of a stored formula, in order: a cell, or the two corners of a range. */
export function referencesOf(stored: string): (readonly [Reference] | readonly [Reference, Reference])[] {
  const out: (readonly [Reference] | readonly [Reference, Reference])[] = [];
  for (const { 0: whole, groups = {} } of stored.matchAll(STORED)) {
    if (whole.startsWith('"')) continue;
    const { sheet = null, row, column, endRow, endColumn } = groups as Groups;
    const at = (r: string | undefined, c: string | undefined): Reference => ({
      sheet,
      row: r === undefined ? null : fixed(r)[1],
      column: c === undefined ? null : fixed(c)[1],
    });
    const isRange = endRow !== undefined || endColumn !== undefined;
    out.push(isRange ? [at(row, column), at(endRow, endColumn)] : [at(row, column)]);
  }
  return out;
}

/** A formula as it is typed, as it would read in a cell so many rows further down and columns further to the right: copied, or filled. */
export function shiftedFormula(typed: string, down: number, right: number): string {
  return replaced(
    typed,
    SHOWN,
    ({ head = '', fixC, column, fixR, row, fixA, from, fixB, to, fixF, first, fixL, last }) => {
      const columnOf = (letters: string, fix = ''): string | null => {
        const index = indexOfLetters(letters) + (fix ? 0 : right);
        return index < 0 ? null : fix + lettersOf(index);
      };
      const rowOf = (digits: string, fix = ''): string | null => {
        const number = Number(digits) + (fix ? 0 : down);
        return number < 1 ? null : fix + String(number);
      };
      const cell = (): string | null => {
        const [c, r] = [columnOf(column ?? '', fixC), rowOf(row ?? '', fixR)];
        return c === null || r === null ? null : c + r;
      };
      const parts =
        row !== undefined
          ? [cell()]
          : from !== undefined
            ? [columnOf(from, fixA), columnOf(to ?? '', fixB)]
            : [rowOf(first ?? '', fixF), rowOf(last ?? '', fixL)];
      return parts.includes(null) ? GONE : head + parts.join(':');
    },
  );
}
