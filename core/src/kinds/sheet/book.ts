import type { Node } from 'prosemirror-model';
import type { Line } from '../lines.js';
import { inOrder } from '../lines.js';

/** A sheet as it is shown: its columns from left to right, its rows from top to bottom. Positions count in the book. */
export interface SheetView {
  readonly id: string;
  readonly name: string;
  readonly node: Node;
  readonly at: number;
  readonly columns: readonly ColumnView[];
  readonly rows: readonly RowView[];
}

export type ColumnView = Line;
export type RowView = Line;

/** A book as it is shown. */
export interface BookView {
  readonly sheets: readonly SheetView[];
}

/** Reads a book: what stands where. Rows of sheets that are gone are left out. Of two with one name the first counts. */
export function readBook(book: Node): BookView {
  const heads = new Map<string, { head: Line; rows: Line[] }>();
  book.forEach((node, at) => {
    const id = String(node.attrs['id']);
    if (node.type.name === 'sheet' && !heads.has(id)) heads.set(id, { head: { id, node, at }, rows: [] });
  });
  book.forEach((node, at) => {
    if (node.type.name === 'row')
      heads.get(String(node.attrs['sheet']))?.rows.push({ id: String(node.attrs['id']), node, at });
  });
  const sheets = [...heads.values()].map(({ head, rows }): SheetView & Line => {
    const columns: Line[] = [];
    head.node.forEach((node, offset) =>
      columns.push({ id: String(node.attrs['id']), node, at: head.at + 1 + offset }),
    );
    const once = columns.filter(({ id }, i) => columns.findIndex((other) => other.id === id) === i);
    return { ...head, name: String(head.node.attrs['name']), columns: inOrder(once), rows: inOrder(rows) };
  });
  return { sheets: inOrder(sheets) };
}

/** The sheets of a book, in the order in which they are shown. */
export function sheetsOf(book: Node): readonly SheetView[] {
  return readBook(book).sheets;
}

/** The columns of the sheet with an id; none for one that is gone. */
export function columnsOf(book: Node, sheet: string): readonly ColumnView[] {
  return sheetsOf(book).find(({ id }) => id === sheet)?.columns ?? [];
}

/** The rows of the sheet with an id; none for one that is gone. */
export function rowsOf(book: Node, sheet: string): readonly RowView[] {
  return sheetsOf(book).find(({ id }) => id === sheet)?.rows ?? [];
}

/** The cell of a row in a column, and its position in the book; null where it is empty. */
export function cellAt(row: RowView, column: string): { readonly cell: Node; readonly at: number } | null {
  let found: { cell: Node; at: number } | null = null;
  row.node.forEach((cell, offset) => {
    if (cell.attrs['column'] === column) found = { cell, at: row.at + 1 + offset };
  });
  return found;
}
