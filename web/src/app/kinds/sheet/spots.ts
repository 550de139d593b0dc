import type { ColumnView, RowView, SheetView } from '@oxbow/core/kinds/sheet';
import { cellAt } from '@oxbow/core/kinds/sheet';
import type { Standpoint } from '../../document/kinds';
import type { View } from './views';

/** A cell, by the names of its row and column. */
export interface Spot {
  readonly row: string;
  readonly column: string;
}

/** What is selected: from the cell where it began to the one where it ends, in one sheet. */
export interface Selected {
  readonly sheet: string;
  readonly anchor: Spot;
  readonly head: Spot;
}

/** A rectangle of cells by where they are shown, both ends in it. */
export interface Block {
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

/** Where a cell is shown; a row or column that is gone counts as the first. */
export function shownAt(
  { places }: View,
  sheet: string,
  { row, column }: Spot,
): { row: number; column: number } {
  return { row: Math.max(0, places.row(sheet, row)), column: Math.max(0, places.column(sheet, column)) };
}

/** What is selected as it is shown. */
export function blockOf(view: View, { sheet, anchor, head }: Selected): Block {
  const [one, other] = [shownAt(view, sheet, anchor), shownAt(view, sheet, head)];
  return {
    top: Math.min(one.row, other.row),
    bottom: Math.max(one.row, other.row),
    left: Math.min(one.column, other.column),
    right: Math.max(one.column, other.column),
  };
}

/** The cell shown at a place, or the nearest there is. */
export function spotAt({ rows, columns }: SheetView, row: number, column: number): Spot {
  const within = <T>(list: readonly T[], index: number): T | undefined =>
    list[Math.max(0, Math.min(list.length - 1, index))];
  return { row: within(rows, row)?.id ?? '', column: within(columns, column)?.id ?? '' };
}

/** Rows and columns of a block. */
export function linesIn(
  sheet: SheetView,
  block: Block,
): { rows: readonly RowView[]; columns: readonly ColumnView[] } {
  return {
    rows: sheet.rows.slice(block.top, block.bottom + 1),
    columns: sheet.columns.slice(block.left, block.right + 1),
  };
}

/** One selected cell as positions of the book, for others to see: the anchor is its column, the head its cell or the end of its row. */
export function standpointOf(view: View, { sheet, anchor }: Selected): Standpoint | null {
  const of = view.places.sheet(sheet);
  const { row, column } = shownAt(view, sheet, anchor);
  const [line, across] = [of?.rows[row], of?.columns[column]];
  if (!line || !across) return null;
  const cell = cellAt(line, across.id);
  return {
    anchor: across.at,
    head: cell ? cell.at + 1 + cell.cell.content.size : line.at + line.node.nodeSize - 1,
  };
}

/** The cell that positions of the book tell of; null where there is none any more. */
export function spotOf(view: View, { anchor, head }: Standpoint): (Spot & { readonly sheet: string }) | null {
  const { doc } = view;
  if (head > doc.content.size) return null;
  const $head = doc.resolve(head);
  const row = $head.depth > 0 ? $head.node(1) : null;
  if (row?.type.name !== 'row') return null;
  const cell = $head.depth > 1 ? $head.node(2) : null;
  const column = cell?.attrs['column'] ?? doc.nodeAt(Math.min(anchor, doc.content.size - 1))?.attrs['id'];
  const found = { sheet: String(row.attrs['sheet']), row: String(row.attrs['id']), column: String(column) };
  const { places } = view;
  const shown = places.row(found.sheet, found.row) >= 0 && places.column(found.sheet, found.column) >= 0;
  return shown ? found : null;
}

/** The first cell of the row that stands at a position; null where no row does. */
export function rowAt({ sheets }: View, position: number): (Spot & { readonly sheet: string }) | null {
  for (const { id, rows, columns } of sheets) {
    const row = rows.find(({ at, node }) => position >= at && position < at + node.nodeSize);
    const [column] = columns;
    if (row && column) return { sheet: id, row: row.id, column: column.id };
  }
  return null;
}
