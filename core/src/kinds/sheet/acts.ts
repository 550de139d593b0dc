import type { Attrs, Node } from 'prosemirror-model';
import type { Transform } from 'prosemirror-transform';
import { FILLER } from '../../content/index.js';
import { firstPlaces, makePlaces } from '../lines.js';
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
  const made = new Map<RowView, Node[]>();
  const held: (CellWrite & { readonly at: number; readonly cell: Node })[] = [];
  for (const write of writes) {
    const { row, column, text, form } = write;
    const found = cellAt(row, column);
    if (found) held.push({ ...write, ...found });
    else if (text || form) {
      const cell = schema.node('cell', { column, ...form }, text ? schema.text(text) : []);
      made.set(row, [...(made.get(row) ?? []), cell]);
    }
  }
  const acts = [
    ...held.map((write) => ({ at: write.at, run: () => rewrite(tr, write) })),
    ...[...made].map(([{ at, node }, cells]) => {
      const end = at + node.nodeSize - 1;
      return { at: end, run: () => void tr.insert(end, cells) };
    }),
  ];
  for (const { run } of acts.sort((one, other) => other.at - one.at)) run();
}

function rewrite(tr: Transform, { at, cell, text, form }: CellWrite & { at: number; cell: Node }): void {
  for (const [name, value] of Object.entries(form ?? {}))
    if (cell.attrs[name] !== value) tr.setNodeAttribute(at, name, value);
  if (text !== undefined) retype(tr, at + 1, cell.textContent, text);
}

/** Puts a text in place of another, touching no more than differs; what was erased stays where it is, or goes. */
function retype(tr: Transform, at: number, before: string, text: string): void {
  const { head, tail } = sameEnds(before, text);
  const put = text.slice(head, text.length - tail).replaceAll(FILLER, '');
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

/** Rows that are put in by one step. */
const TOGETHER = 500;

/** Adds empty rows before the row of a sheet that is shown at an index, or at its end. */
export function addRows(tr: Transform, sheet: SheetView, before: number, ids: readonly string[]): void {
  const places = makePlaces(tr, sheet.rows, before, ids.length);
  const rows = ids.map((id, i) => schema.node('row', { id, sheet: sheet.id, place: places[i] }));
  // Many rows are several steps, so that no message has to hold them all.
  for (let i = 0; i < rows.length; i += TOGETHER) tr.insert(tr.doc.content.size, rows.slice(i, i + TOGETHER));
}

/** Adds columns to the left of the one that is shown at an index, or at the end. */
export function addColumns(tr: Transform, sheet: SheetView, before: number, ids: readonly string[]): void {
  const places = makePlaces(tr, sheet.columns, before, ids.length);
  const columns = ids.map((id, i) => schema.node('column', { id, place: places[i] }));
  tr.insert(sheet.at + sheet.node.nodeSize - 1, columns);
}

/**
 * Takes columns of a sheet away, with what stands in them: what others write in them meanwhile is shown nowhere until they come back.
 */
export function removeColumns(tr: Transform, { rows, columns }: SheetView, going: ReadonlySet<string>): void {
  const lines = columns.filter(({ id }) => going.has(id));
  const cells = rows.flatMap(({ at, node }) => {
    const found: { at: number; node: Node }[] = [];
    node.forEach((cell, offset) => {
      if (going.has(String(cell.attrs['column']))) found.push({ at: at + 1 + offset, node: cell });
    });
    return found;
  });
  removeAll(tr, [...lines, ...cells]);
}

/** Takes a sheet away, with its rows. One sheet always stays. */
export function removeSheet(tr: Transform, { at, node, rows }: SheetView): void {
  removeAll(tr, [{ at, node }, ...rows]);
}

function removeAll(tr: Transform, nodes: readonly { readonly at: number; readonly node: Node }[]): void {
  for (const { at, node } of [...nodes].sort((one, other) => other.at - one.at))
    tr.delete(at, at + node.nodeSize);
}

/** Adds a sheet behind all others. */
export function addSheet(tr: Transform, attrs: Attrs, columns: readonly string[]): void {
  const sheets = sheetsOf(tr.doc);
  const [place] = makePlaces(tr, sheets, sheets.length, 1);
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
