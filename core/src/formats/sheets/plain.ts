import type { Node } from 'prosemirror-model';
import type { Value } from '../../calculate/index.js';
import { Calculation, formatTyped, shownValue } from '../../calculate/index.js';
import { canonicalText, told } from '../../content/index.js';
import {
  LONGEST_FORMAT,
  LONGEST_SHEET_NAME,
  Places,
  isFormula,
  readBook,
  sheetSchema as schema,
  shownFormula,
  storedFormula,
} from '../../kinds/sheet/index.js';
import { firstPlaces } from '../../kinds/lines.js';
import { Bound } from '../bound.js';
import { FormatError } from '../format.js';

/** What a cell looks like. */
export interface Look {
  /** A number format of ISO/IEC 29500-1, 18.8.31; empty for general. */
  readonly format: string;
  readonly align: string;
  readonly bold: boolean;
  readonly fill: string;
}

export const USUAL_LOOK: Look = { format: '', align: '', bold: false, fill: '' };

/** A cell as files know it: its text as it is typed, formulas in A1 notation, and what it comes to. */
export interface PlainCell extends Look {
  readonly text: string;
  /** Known of a book of ours; a file that is read is calculated anew. */
  readonly value: Value;
}

/** A sheet as files know it: rows of cells by where they are shown, empty ones null. */
export interface PlainSheet {
  readonly name: string;
  /** Widths of columns in pixels, null for the usual one. */
  readonly widths: readonly (number | null)[];
  readonly frozenRows: number;
  readonly frozenColumns: number;
  readonly rows: readonly (readonly (PlainCell | null)[])[];
}

/** Most rows and columns that a file may bring; an empty corner costs nothing in a file. */
const MOST_ROWS = 100_000;
const MOST_COLUMNS = 1000;
/** Width of a column that nobody set, in pixels. */
const USUAL_WIDTH = 96;
/** Most that may be frozen. */
const MOST_FROZEN = 100;

/** The sheets of a book, as files know them. */
export function plainOf(book: Node): PlainSheet[] {
  const view = readBook(book);
  const [places, calculation] = [new Places(view), new Calculation(view)];
  return view.sheets.map((sheet, index) => ({
    name: sheet.name || `Sheet ${index + 1}`,
    widths: sheet.columns.map(({ node }) => {
      const width = Number(node.attrs['width']);
      return width === USUAL_WIDTH ? null : width;
    }),
    frozenRows: Number(sheet.node.attrs['frozenRows']),
    frozenColumns: Number(sheet.node.attrs['frozenColumns']),
    rows: trimmed(
      sheet.rows.map(({ node }, row) => {
        const cells: (PlainCell | null)[] = sheet.columns.map(() => null);
        node.forEach((cell) => {
          const column = places.column(sheet.id, String(cell.attrs['column']));
          const stored = told(cell.textContent);
          if (column < 0) return;
          const { format, align, bold, fill } = cell.attrs as Look;
          const text = isFormula(stored) ? shownFormula(stored, places, sheet.id) : stored;
          cells[column] = { text, value: calculation.at(sheet.id, row, column), format, align, bold, fill };
        });
        return trimmed(cells);
      }),
    ),
  }));
}

/** A list without what is empty at its end. */
function trimmed<T>(list: readonly T[]): T[] {
  let end = list.length;
  const isEmpty = (item: T | undefined): boolean =>
    item === null || (Array.isArray(item) && item.length === 0);
  while (end > 0 && isEmpty(list[end - 1])) end--;
  return list.slice(0, end);
}

/** What a cell shows: in its number format, or the one that its text was typed in. */
export function shownIn({ text, value, format }: Pick<PlainCell, 'text' | 'value' | 'format'>): string {
  return shownValue(value, format || (isFormula(text) ? '' : formatTyped(text)));
}

/** A book of the sheets that a file has. Throws `FormatError` for one with more rows, columns or letters than a book may hold. */
export function bookOf(sheets: readonly PlainSheet[]): Node {
  const bound = new Bound();
  const shapes = sheets.map(({ rows, widths }) => ({
    rows: rows.length,
    columns: rows.reduce((most, row) => Math.max(most, row.length), Math.max(1, widths.length)),
  }));
  if (shapes.some(({ rows, columns }) => rows > MOST_ROWS || columns > MOST_COLUMNS))
    throw new FormatError(`This file has a sheet of more than ${MOST_ROWS} rows or ${MOST_COLUMNS} columns.`);
  const order = firstPlaces(sheets.length);
  const ids = sheets.map((_, i) => (i === 0 ? 'first' : `s${i + 1}`));
  const names = distinct(sheets.map(({ name }) => name));
  const heads = sheets.map((sheet, i) => {
    const places = firstPlaces(shapes[i]?.columns ?? 0);
    const columns = places.map((place, c) =>
      schema.node('column', { id: `c${c + 1}`, place, width: widthOf(sheet.widths[c] ?? null) }),
    );
    const [frozenRows, frozenColumns] = [sheet.frozenRows, sheet.frozenColumns].map((n) =>
      Math.min(n, MOST_FROZEN),
    );
    return schema.node(
      'sheet',
      { id: ids[i], name: names[i], place: order[i], frozenRows, frozenColumns },
      columns,
    );
  });
  const bare = sheets.map((sheet, i) =>
    firstPlaces(sheet.rows.length).map((place, r) =>
      schema.node('row', { id: `r${r + 1}`, sheet: ids[i], place }),
    ),
  );
  const start = schema.node(
    'book',
    null,
    heads.flatMap((head, i) => [head, ...(bare[i] ?? [])]),
  );
  bound.spend(start.content.size);
  const places = new Places(readBook(start));
  const blocks = sheets.flatMap((sheet, i) => [
    heads[i] as Node,
    ...(bare[i] ?? []).map((row, r) => {
      const cells = (sheet.rows[r] ?? []).flatMap((cell, c) => {
        const made = cell && cellOf(cell, `c${c + 1}`, places, ids[i] ?? '');
        if (made) bound.spend(made.nodeSize);
        return made ? [made] : [];
      });
      return row.type.create(row.attrs, cells);
    }),
  ]);
  return blocks.length > 0
    ? schema.node('book', null, blocks)
    : schema.node('book', null, [schema.node('sheet')]);
}

function cellOf(
  { text, format, align, bold, fill }: PlainCell,
  column: string,
  places: Places,
  sheet: string,
): Node | null {
  const clean = canonicalText(text, true).replace(/\p{Surrogate}|\u007f/gu, '');
  const stored = isFormula(clean) ? storedFormula(clean, places, sheet) : clean;
  const look = {
    format: format.length > LONGEST_FORMAT || /[\n\r]/.test(format) ? '' : format,
    align,
    bold,
    fill,
  };
  const isPlain = Object.entries(USUAL_LOOK).every(([name, value]) => look[name as keyof Look] === value);
  if (stored === '' && isPlain) return null;
  return schema.node('cell', { column, ...look }, stored === '' ? [] : schema.text(stored));
}

function widthOf(width: number | null): number {
  return width === null ? USUAL_WIDTH : Math.min(2000, Math.max(8, Math.round(width)));
}

/** Names on one line, within bounds, each other than those before it, whatever its case. */
function distinct(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const plain = name
      .replace(/\s+/g, ' ')
      .trim()
      .slice(0, LONGEST_SHEET_NAME - 4);
    let own = plain;
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${plain} ${n}`;
    taken.add(own.toLowerCase());
    return own;
  });
}
