import { Calculation } from '@oxbow/core/calculate';
import type { ColumnView, RowView, SheetView } from '@oxbow/core/kinds/sheet';
import { isFormula, lettersOf, readBook } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';
import type { DrawnMark, DrawnPart } from '../../document/kinds';
import { drawnCell } from './drawn-cell';
import { cellsOf, nameOf } from './views';

/** Draws a book as it stood: its sheets as tables, one below the other, as far as they are asked for. */
export function drawBook(book: Node, marks: readonly DrawnMark[], part: DrawnPart): HTMLElement {
  const view = readBook(book);
  const calculation = new Calculation(view);
  const element = document.createElement('div');
  element.className = 'drawn-book';
  const marked = new Marked(marks);
  const windows = windowsOf(view.sheets, marked, part);
  view.sheets.forEach((sheet, index) => {
    const rows = windows.get(sheet.id);
    if (!rows) return;
    if (view.sheets.length > 1) {
      const name = document.createElement('h3');
      name.textContent = nameOf(sheet, index);
      element.append(name);
    }
    element.append(drawSheet(sheet, rows, calculation, marked));
  });
  return element;
}

interface Rows {
  readonly from: number;
  readonly to: number;
}

/** Which rows of each sheet are drawn: those round the first mark, or a share of the way down, and no sheet more than is asked for in all. */
function windowsOf(
  sheets: readonly SheetView[],
  marked: Marked,
  { lines, depth = 0 }: DrawnPart,
): Map<string, Rows> {
  const out = new Map<string, Rows>();
  const first = sheets.find(({ rows }) =>
    rows.some(({ at, node }) => marked.touches(at, at + node.nodeSize)),
  );
  const start = first ?? sheets[0];
  let left = lines;
  const from = start ? sheets.indexOf(start) : 0;
  for (const sheet of sheets.slice(from)) {
    if (left <= 0) break;
    const { rows } = sheet;
    const at =
      sheet === first
        ? rows.findIndex(({ at, node }) => marked.touches(at, at + node.nodeSize))
        : sheet === start
          ? Math.floor(depth * rows.length)
          : 0;
    const begin = Math.max(0, Math.min(rows.length - left, at - Math.floor(left / 3)));
    const end = Math.min(rows.length, begin + left);
    out.set(sheet.id, { from: begin, to: end });
    left -= end - begin;
  }
  return out;
}

/** Marks by where they are. */
class Marked {
  private readonly marks: readonly DrawnMark[];

  constructor(marks: readonly DrawnMark[]) {
    this.marks = [...marks].sort((one, other) => one.from - other.from);
  }

  touches(from: number, to: number): boolean {
    return this.on(from, to).length > 0;
  }

  /** Marks that share something with a stretch, or stand in it. */
  on(from: number, to: number): readonly DrawnMark[] {
    return this.marks.filter(
      (mark) => mark.from < to && mark.to > from && (mark.to > mark.from || mark.from > from),
    );
  }
}

function drawSheet(
  sheet: SheetView,
  { from, to }: Rows,
  calculation: Calculation,
  marked: Marked,
): HTMLElement {
  const table = document.createElement('table');
  table.className = 'drawn-sheet';
  const head = table.createTHead().insertRow();
  head.append(document.createElement('td'), ...sheet.columns.map((_, i) => headOf(lettersOf(i), 'col')));
  const body = table.createTBody();
  sheet.rows.slice(from, to).forEach((row, i) => {
    const line = body.insertRow();
    const number = headOf(String(from + i + 1), 'row');
    place(number, row.at, row.at + row.node.nodeSize);
    number.classList.add('whole');
    line.append(number, ...sheet.columns.map((column) => cellOf(sheet, row, column, calculation, marked)));
    dress(
      line,
      marked
        .on(row.at, row.at + row.node.nodeSize)
        .filter((mark) => mark.from <= row.at && mark.to >= row.at + row.node.nodeSize),
    );
  });
  return table;
}

function headOf(text: string, scope: 'col' | 'row'): HTMLTableCellElement {
  const cell = document.createElement('th');
  cell.scope = scope;
  cell.textContent = text;
  return cell;
}

function cellOf(
  sheet: SheetView,
  row: RowView,
  { id }: ColumnView,
  calculation: Calculation,
  marked: Marked,
): HTMLElement {
  const element = document.createElement('td');
  const cell = cellsOf(row.node).get(id);
  if (!cell) return element;
  let at = row.at + 1;
  row.node.forEach((one, offset) => {
    if (one === cell) at = row.at + 1 + offset;
  });
  const value = isFormula(cell.textContent) ? calculation.value(sheet.id, row.id, id) : undefined;
  const drawn = drawnCell(cell, value);
  element.textContent = drawn.text;
  element.style.textAlign = drawn.align;
  element.classList.toggle('bold', drawn.bold);
  element.classList.toggle('fault', drawn.fault);
  element.classList.toggle('erased', drawn.erased);
  if (drawn.fill) element.classList.add(`ink-${drawn.fill}`);
  place(element, at, at + cell.nodeSize);
  dress(element, marked.on(at, at + cell.nodeSize));
  return element;
}

function place(element: HTMLElement, from: number, to: number): void {
  element.dataset['from'] = String(from);
  element.dataset['to'] = String(to);
}

function dress(element: HTMLElement, marks: readonly DrawnMark[]): void {
  for (const { name, who } of marks) {
    element.classList.add(name);
    if (who) element.style.setProperty('--who', who);
  }
}
