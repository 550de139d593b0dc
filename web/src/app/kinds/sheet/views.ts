import { FILLER, told } from '@oxbow/core/content';
import type { SheetView } from '@oxbow/core/kinds/sheet';
import { Places, isFormula, readBook, shownFormula } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';

/** A book as it is shown, with where everything stands. */
export interface View {
  readonly doc: Node;
  readonly sheets: readonly SheetView[];
  readonly places: Places;
}

const views = new WeakMap<Node, View>();

/** Reads a book, once. */
export function viewOf(doc: Node): View {
  const known = views.get(doc);
  if (known) return known;
  const book = readBook(doc);
  const view = { doc, sheets: book.sheets, places: new Places(book) };
  views.set(doc, view);
  return view;
}

const cells = new WeakMap<Node, ReadonlyMap<string, Node>>();

/** The cells of a row by the names of their columns. */
export function cellsOf(row: Node): ReadonlyMap<string, Node> {
  const known = cells.get(row);
  if (known) return known;
  const found = new Map<string, Node>();
  row.forEach((cell) => found.set(String(cell.attrs['column']), cell));
  cells.set(row, found);
  return found;
}

/** What one would type for a cell: formulas in A1 notation, what was erased as bars. */
export function typedOf(cell: Node | undefined, view: View, sheet: string): string {
  return told(writtenIn(cell, view, sheet));
}

/** What other cells get of a cell that they are filled from, or that is pasted into them: what was erased goes nowhere else. */
export function passedOn(cell: Node | undefined, view: View, sheet: string): string {
  return writtenIn(cell, view, sheet).replaceAll(FILLER, '');
}

function writtenIn(cell: Node | undefined, { places }: View, sheet: string): string {
  const text = cell?.textContent ?? '';
  return isFormula(text) ? shownFormula(text, places, sheet) : text;
}

/** What a sheet is called where nobody named it. */
export function nameOf(sheet: SheetView, index: number): string {
  return sheet.name || $localize`Sheet ${index + 1}`;
}
