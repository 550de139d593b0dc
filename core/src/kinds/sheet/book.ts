import type { Node } from 'prosemirror-model';

/** A sheet as it is shown: its columns from left to right, its rows from top to bottom. Positions count in the book. */
export interface SheetView {
  readonly id: string;
  readonly name: string;
  readonly node: Node;
  readonly at: number;
  readonly columns: readonly ColumnView[];
  readonly rows: readonly RowView[];
}

export interface ColumnView {
  readonly id: string;
  readonly node: Node;
  readonly at: number;
}

export interface RowView {
  readonly id: string;
  readonly node: Node;
  readonly at: number;
}

/** A book as it is shown. */
export interface BookView {
  readonly sheets: readonly SheetView[];
}

interface Standing {
  readonly id: string;
  readonly node: Node;
  readonly at: number;
}

/** Reads a book: what stands where. Rows of sheets that are gone are left out. Of two with one name the first counts. */
export function readBook(book: Node): BookView {
  const heads = new Map<string, { head: Standing; rows: Standing[] }>();
  book.forEach((node, at) => {
    const id = String(node.attrs['id']);
    if (node.type.name === 'sheet' && !heads.has(id)) heads.set(id, { head: { id, node, at }, rows: [] });
  });
  book.forEach((node, at) => {
    if (node.type.name === 'row')
      heads.get(String(node.attrs['sheet']))?.rows.push({ id: String(node.attrs['id']), node, at });
  });
  const sheets = [...heads.values()].map(({ head, rows }): SheetView & Standing => {
    const columns: Standing[] = [];
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

/** By their keys of order; those of one key as they stand in the book. */
function inOrder<T extends Standing>(lines: readonly T[]): T[] {
  const keyOf = ({ node }: T): string => String(node.attrs['place']);
  return lines
    .map((line, i) => ({ line, i, key: keyOf(line) }))
    .sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : a.i - b.i))
    .map(({ line }) => line);
}
