import type { Value } from '@oxbow/core/calculate';
import { Fault, valueOf } from '@oxbow/core/calculate';
import { FILLER, canonicalText, untold } from '@oxbow/core/content';
import type { CellForm, CellWrite, RowView, SheetView, Way } from '@oxbow/core/kinds/sheet';
import {
  addColumns,
  addRows,
  addSheet,
  clearCells,
  cellAt,
  freshIds,
  goneOn,
  isFormula,
  moveLines,
  removeColumns,
  removeLine,
  storedFormula,
  writeCells,
} from '@oxbow/core/kinds/sheet';
import type { Transform } from 'prosemirror-transform';
import type { Values } from './calculating';
import { cellName } from './calculating';
import type { Block } from './spots';
import { linesIn } from './spots';
import type { View } from './views';
import { cellsOf, passedOn, viewOf } from './views';

/** Most cells that are written at once. */
export const MOST_CELLS = 20_000;

/** How many cells a block has. */
export function sizeOf({ top, left, bottom, right }: Block): number {
  return (bottom - top + 1) * (right - left + 1);
}

/** What is typed into a cell, as it stores it. */
function stored(typed: string, before: string, { places }: View, sheet: string): string {
  const clean = untold(canonicalText(typed, true).replaceAll(FILLER, ''), before);
  return isFormula(clean) ? storedFormula(clean, places, sheet) : clean;
}

/** Types texts into the cells from a place on, to the right and down; rows and columns are added where there are too few. */
export function typeInto(
  tr: Transform,
  view: View,
  sheet: SheetView,
  at: { readonly row: number; readonly column: number },
  texts: readonly (readonly string[])[],
): void {
  const wide = texts.reduce((most, line) => Math.max(most, line.length), 0);
  const on = grown(tr, view, sheet, at.row + texts.length, at.column + wide);
  const writes = texts.flatMap((line, r) =>
    line.flatMap((text, c): CellWrite[] => {
      const [row, column] = [on.sheet.rows[at.row + r], on.sheet.columns[at.column + c]];
      if (!row || !column) return [];
      const before = cellsOf(row.node).get(column.id)?.textContent ?? '';
      return [{ row, column: column.id, text: stored(text, before, on.view, sheet.id) }];
    }),
  );
  writeCells(tr, writes);
}

/** The sheet with at least so many rows and columns. */
function grown(
  tr: Transform,
  view: View,
  sheet: SheetView,
  rows: number,
  columns: number,
): { view: View; sheet: SheetView } {
  const ids = (count: number): string[] => freshIds(Math.max(0, count), Math.random);
  if (sheet.rows.length < rows) addRows(tr, sheet, sheet.rows.length, ids(rows - sheet.rows.length));
  if (sheet.columns.length < columns)
    addColumns(tr, sheet, sheet.columns.length, ids(columns - sheet.columns.length));
  if (tr.steps.length === 0) return { view, sheet };
  const next = viewOf(tr.doc);
  return { view: next, sheet: next.places.sheet(sheet.id) ?? sheet };
}

/** Gives all cells of a block a look. */
export function lookLike(tr: Transform, sheet: SheetView, block: Block, form: Partial<CellForm>): void {
  const { rows, columns } = linesIn(sheet, block);
  writeCells(
    tr,
    rows.flatMap((row) => columns.map(({ id }) => ({ row, column: id, form }))),
  );
}

/** Empties the cells of a block; what they look like stays. */
export function empty(tr: Transform, sheet: SheetView, block: Block): void {
  const { rows, columns } = linesIn(sheet, block);
  writeCells(
    tr,
    rows.flatMap((row) =>
      columns.flatMap(({ id }) =>
        cellsOf(row.node).get(id)?.textContent ? [{ row, column: id, text: '' }] : [],
      ),
    ),
  );
}

/** Takes the looks of the cells of a block away, and the cells that hold nothing else. */
export function plain(tr: Transform, sheet: SheetView, block: Block): void {
  const { rows, columns } = linesIn(sheet, block);
  const cells = rows.flatMap((row) => columns.flatMap(({ id }) => cellAt(row, id) ?? []));
  const usual = { format: '', align: '', bold: false, fill: '' };
  for (const { at, cell } of cells)
    for (const [name, value] of Object.entries(usual))
      if (cell.attrs[name] !== value) tr.setNodeAttribute(at, name, value);
  clearCells(
    tr,
    cells.filter(({ cell }) => cell.textContent === ''),
  );
}

/** Fills a block from its cells at the near edge: `count` of them, from the top or from the left, go on to the far edge. */
export function fill(tr: Transform, view: View, sheet: SheetView, block: Block, way: Way, count = 1): void {
  const { rows, columns } = linesIn(sheet, block);
  const lines =
    way === 'down'
      ? columns.map(({ id }) => rows.map((row) => ({ row, column: id })))
      : rows.map((row) => columns.map(({ id }) => ({ row, column: id })));
  const writes = lines.flatMap((line) => {
    const [from, to] = [line.slice(0, count), line.slice(count)];
    const cells = from.map(({ row, column }) => cellsOf(row.node).get(column));
    const texts = goneOn(
      cells.map((cell) => passedOn(cell, view, sheet.id)),
      to.length,
      way,
    );
    return to.map(({ row, column }, i): CellWrite => {
      const { format, align, bold, fill: ink } = (cells[i % count]?.attrs ?? USUAL) as CellForm;
      return {
        row,
        column,
        text: stored(texts[i] ?? '', '', view, sheet.id),
        form: { format, align, bold, fill: ink },
      };
    });
  });
  writeCells(
    tr,
    writes.filter(({ row, column, text, form }) => text || cellsOf(row.node).has(column) || !isUsual(form)),
  );
}

const USUAL: CellForm = { format: '', align: '', bold: false, fill: '' };

function isUsual(form: Partial<CellForm> | undefined): boolean {
  return Object.entries(USUAL).every(([name, value]) => (form?.[name as keyof CellForm] ?? value) === value);
}

/** Adds empty rows or columns before an index. */
export function addLines(
  tr: Transform,
  sheet: SheetView,
  which: 'rows' | 'columns',
  before: number,
  count: number,
): void {
  (which === 'rows' ? addRows : addColumns)(tr, sheet, before, freshIds(count, Math.random));
}

/** Takes rows or columns away; one of each always stays. */
export function removeLines(
  tr: Transform,
  sheet: SheetView,
  which: 'rows' | 'columns',
  from: number,
  to: number,
): void {
  const lines = sheet[which].slice(from, to + 1);
  const going = lines.length < sheet[which].length ? lines : lines.slice(1);
  if (which === 'columns') return removeColumns(tr, sheet, new Set(going.map(({ id }) => id)));
  for (const line of [...going].sort((one, other) => other.at - one.at)) removeLine(tr, line);
}

/** Moves rows or columns before an index. */
export function shiftLines(
  tr: Transform,
  sheet: SheetView,
  which: 'rows' | 'columns',
  from: number,
  to: number,
  before: number,
): void {
  moveLines(tr, sheet[which], sheet[which].slice(from, to + 1), before);
}

/** Sorts rows by what a column comes to: numbers before texts before yes and no, empty ones last, equal ones as they stand. */
export function sortRows(
  tr: Transform,
  sheet: SheetView,
  { top, bottom }: Pick<Block, 'top' | 'bottom'>,
  column: string,
  values: Values,
  descending: boolean,
): void {
  const rows = sheet.rows.slice(top, bottom + 1);
  const value = ({ node, id }: RowView): Value => {
    const text = cellsOf(node).get(column)?.textContent ?? '';
    return isFormula(text) ? (values.get(cellName(sheet.id, id, column)) ?? null) : valueOf(text);
  };
  const keyed = rows.map((row) => ({ row, value: value(row) }));
  const turn = descending ? -1 : 1;
  const sorted = keyed.sort((one, other) => {
    const [a, b] = [rankOf(one.value), rankOf(other.value)];
    return a !== b ? a - b : turn * order(one.value, other.value);
  });
  if (sorted.some(({ row }, i) => row !== rows[i]))
    moveLines(
      tr,
      sheet.rows,
      sorted.map(({ row }) => row),
      bottom + 1,
    );
}

function rankOf(value: Value): number {
  if (value === null) return 4;
  if (value instanceof Fault) return 3;
  return typeof value === 'number' ? 0 : typeof value === 'string' ? 1 : 2;
}

const byWords = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });

function order(one: Value, other: Value): number {
  if (typeof one === 'string' && typeof other === 'string') return byWords.compare(one, other);
  return Number(one) - Number(other) || 0;
}

/** Adds a sheet behind the others, as large as a blank one. Answers its name. */
export function newSheet(tr: Transform, name: string): string {
  const [id = ''] = freshIds(1, Math.random);
  addSheet(tr, { id, name }, freshIds(8, Math.random));
  const sheet = viewOf(tr.doc).places.sheet(id);
  if (sheet) addRows(tr, sheet, 0, freshIds(24, Math.random));
  return id;
}
