import type { CellForm, SheetView } from '@oxbow/core/kinds/sheet';
import {
  addRows,
  addSheet,
  moveLines,
  Places,
  readBook,
  removeLine,
  storedFormula,
  writeCells,
} from '@oxbow/core/kinds/sheet';
import { StepHand } from './step-hand.js';

/** Somebody's hand on a book of sheets: each cell that is typed, and each row that is put in, is one edit. */
export class SheetHand extends StepHand {
  /** A sheet as it is now, by its name; the first one where none is called that. */
  sheet(name: string): SheetView {
    const { sheets } = readBook(this.doc);
    return (sheets.find((sheet) => sheet.name === name) ?? sheets[0]) as SheetView;
  }

  call(name: string): void {
    this.act((tr) => tr.setNodeAttribute(this.sheet('').at, 'name', name));
  }

  /** A sheet of so many columns and rows behind the others. */
  addSheet(name: string, columns: number, rows: number): void {
    const [id = ''] = this.ids(1);
    this.act((tr) => {
      addSheet(tr, { id, name }, this.ids(columns));
      addRows(tr, readBook(tr.doc).sheets.find((sheet) => sheet.id === id) as SheetView, 0, this.ids(rows));
    });
  }

  /** Types into cells, by where they are shown: formulas in A1 notation. */
  type(sheet: string, row: number, texts: readonly (string | null)[], form?: Partial<CellForm>): void {
    texts.forEach((text, column) => {
      if (text !== null) this.put(sheet, row, column, text, form);
    });
  }

  put(sheet: string, row: number, column: number, text: string, form?: Partial<CellForm>): void {
    this.act((tr) => {
      const of = this.sheet(sheet);
      const [line, across] = [of.rows[row], of.columns[column]];
      if (!line || !across) return;
      const stored = text.startsWith('=') ? storedFormula(text, new Places(readBook(this.doc)), of.id) : text;
      writeCells(tr, [{ row: line, column: across.id, text: stored, ...(form ? { form } : {}) }]);
    });
  }

  look(sheet: string, rows: readonly number[], columns: readonly number[], form: Partial<CellForm>): void {
    this.act((tr) => {
      const of = this.sheet(sheet);
      writeCells(
        tr,
        rows.flatMap((r) =>
          columns.flatMap((c) => {
            const [row, column] = [of.rows[r], of.columns[c]];
            return row && column ? [{ row, column: column.id, form }] : [];
          }),
        ),
      );
    });
  }

  set(sheet: string, attrs: Readonly<Record<string, number>>): void {
    this.act((tr) => {
      for (const [name, value] of Object.entries(attrs))
        tr.setNodeAttribute(this.sheet(sheet).at, name, value);
    });
  }

  widen(sheet: string, column: number, width: number): void {
    const found = this.sheet(sheet).columns[column];
    if (found) this.act((tr) => tr.setNodeAttribute(found.at, 'width', width));
  }

  insertRow(sheet: string, before: number): void {
    this.act((tr) => addRows(tr, this.sheet(sheet), before, this.ids(1)));
  }

  moveRow(sheet: string, from: number, before: number): void {
    const of = this.sheet(sheet);
    const row = of.rows[from];
    if (row) this.act((tr) => moveLines(tr, of.rows, [row], before));
  }

  /** Rows are gone at one stroke, and what a column holds in others. */
  wipe(sheet: string, rows: readonly [from: number, to: number], column: number): void {
    this.act((tr) => {
      const of = this.sheet(sheet);
      writeCells(
        tr,
        of.rows.slice(1).flatMap((row) => [{ row, column: of.columns[column]?.id ?? '', text: '' }]),
      );
      const after = readBook(tr.doc).sheets.find(({ id }) => id === of.id) as SheetView;
      for (const row of [...after.rows.slice(...rows)].sort((one, other) => other.at - one.at))
        removeLine(tr, row);
    });
  }

  /** The row of a sheet that begins with a text, or -1. */
  rowOf(sheet: string, text: string): number {
    return this.sheet(sheet).rows.findIndex(({ node }) => node.firstChild?.textContent === text);
  }
}
