import type { Kind } from '../kind.js';
import { SHEET_VERSION, blankBook, sheetSchema } from './schema.js';

export { cellAt, columnsOf, readBook, rowsOf, sheetsOf } from './book.js';
export type { BookView, ColumnView, RowView, SheetView } from './book.js';
export { freshIds, mergedLines, moveLines, removeLine } from '../lines.js';
export type { Line, MergedLine } from '../lines.js';
export { addColumns, addRows, addSheet, clearCells, removeColumns, removeSheet, writeCells } from './acts.js';
export type { CellForm, CellWrite } from './acts.js';
export { goneOn } from './filling.js';
export type { Way } from './filling.js';
export { mergedBooks } from './merged.js';
export type { MergedSheet } from './merged.js';
export { CELL_ALIGNMENTS, FILLS, LONGEST_FORMAT, LONGEST_SHEET_NAME } from './nodes.js';
export {
  Places,
  indexOfLetters,
  isFormula,
  lettersOf,
  referencesOf,
  shiftedFormula,
  shownFormula,
  storedFormula,
} from './references.js';
export type { Reference } from './references.js';
export { sheetChanges, sheetTotals } from './told.js';
export type { CellChange, LinesChange, SheetChange, SheetTotals, WholeChange } from './told.js';
export { SHEET_VERSION, blankBook, sheetSchema } from './schema.js';
export type { SheetNodes } from './schema.js';

/** Sheets: rows and columns of cells that hold values and formulas. */
export const sheet: Kind<'sheet'> = {
  name: 'sheet',
  schema: sheetSchema,
  version: SHEET_VERSION,
  blank: blankBook,
};
