import type { Attrs, Node } from 'prosemirror-model';
import type { Transform } from 'prosemirror-transform';
import { firstPlaces, placesAt } from '../lines.js';
import type { RowView, SheetView } from './book.js';
import { cellAt, sheetsOf } from './book.js';
import { sheetSchema as schema } from './schema.js';

/** What a cell looks like, beside its text. */
export interface CellForm {
  readonly format: string;
  readonly align: string;
  readonly bold: boolean;
  readonly fill: string;
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
  const places = firstPlaces(columns.length);
  tr.insert(
    tr.doc.content.size,
    schema.node(
      'sheet',
      { ...attrs, place },
      columns.map((id, i) => schema.node('column', { id, place: places[i] })),
    ),
  );
}
