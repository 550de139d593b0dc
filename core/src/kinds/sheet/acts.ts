import { generateNKeysBetween } from 'fractional-indexing';
import type { Attrs, Node } from 'prosemirror-model';
import type { Transform } from 'prosemirror-transform';
import type { ColumnView, RowView, SheetView } from './book.js';
import { cellAt, sheetsOf } from './book.js';
import { sheetSchema as schema } from './schema.js';

/** What a cell looks like, beside its text. */
export interface CellForm {
  readonly format: string;
  readonly align: string;
  readonly bold: boolean;
  readonly fill: string;
}

/** Makes ids that nothing in a book has, of what `chance` gives: numbers from 0 up to 1. */
export function freshIds(count: number, chance: () => number): string[] {
  return Array.from({ length: count }, () =>
    Array.from({ length: 12 }, () => Math.floor(chance() * 36).toString(36)).join(''),
  );
}

/** What somebody writes into a cell: its text, what it looks like, or both. */
export interface CellWrite {
  readonly row: RowView;
  readonly column: string;
  readonly text?: string;
  readonly form?: Partial<CellForm>;
}

/**
 * Writes into cells, which are made where there are none; an empty text leaves what the cell looks like. Rows are as the document
 * of the transform has them.
 */
export function writeCells(tr: Transform, writes: readonly CellWrite[]): void {
  const placed = writes.map((write) => ({ ...write, held: cellAt(write.row, write.column) }));
  const at = ({ row, held }: (typeof placed)[number]): number => held?.at ?? row.at + row.node.nodeSize - 1;
  for (const { row, column, text, form, held } of placed.sort((one, other) => at(other) - at(one))) {
    if (held) {
      for (const [name, value] of Object.entries(form ?? {}))
        if (held.cell.attrs[name] !== value) tr.setNodeAttribute(held.at, name, value);
      if (text !== undefined) retype(tr, held.at + 1, held.cell.textContent, text);
    } else if (text || form) {
      const cell = schema.node('cell', { column, ...form }, text ? schema.text(text) : []);
      tr.insert(row.at + row.node.nodeSize - 1, cell);
    }
  }
}

/** Puts a text in place of another, touching no more than differs. */
function retype(tr: Transform, at: number, before: string, text: string): void {
  const { head, tail } = sameEnds(before, text);
  const put = text.slice(head, text.length - tail);
  const [from, to] = [at + head, at + before.length - tail];
  if (put) tr.replaceWith(from, to, schema.text(put));
  else if (to > from) tr.delete(from, to);
}

/** How much two texts share at either end, no letter counted twice and none cut in two. */
function sameEnds(before: string, after: string): { head: number; tail: number } {
  const most = Math.min(before.length, after.length);
  let head = 0;
  while (head < most && before[head] === after[head]) head++;
  if (/[\ud800-\udbff]/.test(before.charAt(head - 1))) head--;
  let tail = 0;
  while (tail < most - head && before.at(-1 - tail) === after.at(-1 - tail)) tail++;
  if (/[\udc00-\udfff]/.test(before.charAt(before.length - tail))) tail--;
  return { head, tail: Math.max(0, tail) };
}

/** Clears cells, with what they look like. */
export function clearCells(
  tr: Transform,
  cells: readonly { readonly at: number; readonly cell: Node }[],
): void {
  for (const { at, cell } of [...cells].sort((one, other) => other.at - one.at))
    tr.delete(at, at + cell.nodeSize);
}

/** Adds empty rows before the row of a sheet that is shown at an index, or at its end. */
export function addRows(tr: Transform, sheet: SheetView, before: number, ids: readonly string[]): void {
  const places = placesAt(sheet.rows, before, ids.length);
  const rows = ids.map((id, i) => schema.node('row', { id, sheet: sheet.id, place: places[i] }));
  tr.insert(tr.doc.content.size, rows);
}

/** Adds columns to the left of the one that is shown at an index, or at the end. */
export function addColumns(tr: Transform, sheet: SheetView, before: number, ids: readonly string[]): void {
  const places = placesAt(sheet.columns, before, ids.length);
  const columns = ids.map((id, i) => schema.node('column', { id, place: places[i] }));
  tr.insert(sheet.at + sheet.node.nodeSize - 1, columns);
}

/** Adds a sheet behind all others. */
export function addSheet(tr: Transform, attrs: Attrs, columns: readonly string[]): void {
  const sheets = sheetsOf(tr.doc);
  const [place] = placesAt(sheets, sheets.length, 1);
  const places = generateNKeysBetween(null, null, columns.length);
  tr.insert(
    tr.doc.content.size,
    schema.node(
      'sheet',
      { ...attrs, place },
      columns.map((id, i) => schema.node('column', { id, place: places[i] })),
    ),
  );
}

export function removeRow(tr: Transform, row: RowView): void {
  tr.delete(row.at, row.at + row.node.nodeSize);
}

/** Removes a column; its cells stay, unseen, and are there again when it comes back. */
export function removeColumn(tr: Transform, column: ColumnView): void {
  tr.delete(column.at, column.at + column.node.nodeSize);
}

/** Removes a sheet; its rows stay, unseen, and are there again when it comes back. The last one cannot be removed. */
export function removeSheet(tr: Transform, sheet: SheetView): void {
  tr.delete(sheet.at, sheet.at + sheet.node.nodeSize);
}

/**
 * Moves rows, columns or sheets so that they stand, in the order given, before what is shown at an index of `all`, or at the end.
 * `all` is every one of them as shown. Sorting is moving all.
 */
export function moveLines<T extends RowView>(
  tr: Transform,
  all: readonly T[],
  moved: readonly T[],
  before: number,
): void {
  const going = new Set(moved);
  const rest = all.filter((line) => !going.has(line));
  const index = all.slice(0, before).filter((line) => !going.has(line)).length;
  const places = placesAt(rest, index, moved.length);
  moved.forEach((line, i) => tr.setNodeAttribute(line.at, 'place', places[i]));
}

/**
 * Keys of order for lines between those shown before an index and from it on. Where two neighbours have one key, as when two people
 * added a line at one place at once, the new ones stand behind both.
 */
function placesAt(
  lines: readonly { readonly node: Node }[],
  before: number,
  count: number,
): readonly string[] {
  const keyAt = (index: number): string | null => {
    const line = lines[index];
    return line ? String(line.node.attrs['place']) : null;
  };
  const low = keyAt(before - 1);
  let index = before;
  while (low !== null && index < lines.length && (keyAt(index) ?? '') <= low) index++;
  return generateNKeysBetween(low, keyAt(index), count);
}
