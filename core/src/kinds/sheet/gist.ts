import type { Node } from 'prosemirror-model';
import { shortened, told } from '../../content/index.js';
import { readBook } from './book.js';
import { Places, isFormula, lettersOf, shownFormula } from './references.js';
import type { CellChange, LinesChange, SheetChange } from './told.js';
import { sheetChanges, sheetTotals } from './told.js';

/** Most cells that are told one by one, and letters of each that are quoted. */
const CELLS = 2;
const LETTERS = 40;

/** What is different between two books of one history, in a line: sheets, rows and columns by how many, few cells by what they held. */
export function sheetGist(earlier: Node, later: Node): string {
  const changes = sheetChanges(earlier, later);
  if (changes.length === 0) return 'No change';
  const parts = [...sheetParts(changes), ...lineParts(changes), ...cellParts(changes, earlier, later)];
  const line = parts.join('; ');
  return line.charAt(0).toUpperCase() + line.slice(1);
}

function sheetParts(changes: readonly SheetChange[]): string[] {
  return changes.flatMap((change) => {
    if (change.kind !== 'sheet') return [];
    const name = (text: string): string => (text ? `the sheet ${quoted(text)}` : 'a sheet');
    if (change.turn === 'renamed') return [`${name(change.before)} is called ${quoted(change.after)}`];
    return [`${change.turn} ${name(change.after || change.before)}`];
  });
}

function lineParts(changes: readonly SheetChange[]): string[] {
  const { rows, columns } = sheetTotals(changes);
  const turns: readonly LinesChange['turn'][] = ['added', 'removed', 'moved'];
  return [
    ...turns.flatMap((turn) => (rows[turn] ? [`${turn} ${counted(rows[turn], 'row')}`] : [])),
    ...turns.flatMap((turn) => (columns[turn] ? [`${turn} ${counted(columns[turn], 'column')}`] : [])),
  ];
}

function cellParts(changes: readonly SheetChange[], earlier: Node, later: Node): string[] {
  const cells = changes.filter((change): change is CellChange => change.kind === 'cell');
  const texts = cells.filter(({ what }) => what !== 'form');
  const { formulas, values, forms } = sheetTotals(changes);
  const looks = forms ? [`the look of ${counted(forms, 'cell')}`] : [];
  if (texts.length > CELLS)
    return [
      ...[[formulas, 'formula'] as const, [values, 'value'] as const].flatMap(([count, name]) =>
        count ? [`${counted(count, name)} changed`] : [],
      ),
      ...looks,
    ];
  const [before, after] = [earlier, later].map((book) => new Places(readBook(book))) as [Places, Places];
  return [...texts.map((cell) => phrase(cell, before, after)), ...looks];
}

function phrase({ sheet, row, column, before, after }: CellChange, was: Places, is: Places): string {
  const where = lettersOf(Math.max(0, is.column(sheet, column))) + String(is.row(sheet, row) + 1);
  const shown = (text: string, places: Places): string =>
    quoted(isFormula(text) ? shownFormula(text, places, sheet) : told(text));
  if (before === '') return `${where} is ${shown(after, is)}`;
  return after === ''
    ? `${where} lost ${shown(before, was)}`
    : `${where} was ${shown(before, was)}, is ${shown(after, is)}`;
}

function counted(count: number, name: string): string {
  return count === 1 ? `1 ${name}` : `${count} ${name}s`;
}

function quoted(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return `“${shortened(line, LETTERS)}”`;
}
