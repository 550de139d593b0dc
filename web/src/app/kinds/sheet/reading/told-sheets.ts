import type { Value } from '@oxbow/core/calculate';
import { shownValue } from '@oxbow/core/calculate';
import { isFormula, referencesOf, sheetTotals } from '@oxbow/core/kinds/sheet';
import { a1 } from '../grid-line';
import type { Values } from '../calculating';
import { cellName } from '../calculating';
import type { View } from '../views';
import { cellsOf, nameOf } from '../views';
import type { ComparedBooks } from './compared-books';

/** Most results that are told of. */
const MOST = 2;

/** What differs between two books, in a line: what was changed, and what came of it. */
export function summaryOf(books: ComparedBooks, before: Values, after: Values): string {
  const { formulas, values, forms, rows, columns, sheets } = sheetTotals(books.told);
  const [r, c] = [rows, columns].map(({ added, removed, moved }) => added + removed + moved) as [
    number,
    number,
  ];
  const parts = [
    formulas === 1 ? $localize`1 formula` : formulas ? $localize`${formulas} formulas` : '',
    values === 1 ? $localize`1 value` : values ? $localize`${values} values` : '',
    r === 1 ? $localize`1 row` : r ? $localize`${r} rows` : '',
    c === 1 ? $localize`1 column` : c ? $localize`${c} columns` : '',
    sheets === 1 ? $localize`1 sheet` : sheets ? $localize`${sheets} sheets` : '',
    forms === 1 ? $localize`the look of 1 cell` : forms ? $localize`the look of ${forms} cells` : '',
  ].filter(Boolean);
  if (parts.length === 0) return '';
  const came = resultsOf(books, before, after).map(({ at, by, format }) =>
    by > 0
      ? $localize`${at} rose by ${shownValue(by, format)}`
      : $localize`${at} fell by ${shownValue(-by, format)}`,
  );
  return came.length > 0
    ? $localize`${parts.join(', ')}; because of them ${came.join($localize` and `)}`
    : parts.join(', ');
}

/** A result that changed though nobody wrote it anew. */
interface Came {
  readonly sheet: string;
  readonly row: number;
  readonly column: number;
  readonly at: string;
  readonly by: number;
  readonly format: string;
}

/** By how much results changed that nobody wrote anew, where no other formula goes on from them: the largest changes first. */
function resultsOf({ later, told }: ComparedBooks, before: Values, after: Values): Came[] {
  const written = new Set(
    told.map((one) => (one.kind === 'cell' ? cellName(one.sheet, one.row, one.column) : '')),
  );
  const used: Rectangle[] = [];
  const found: Came[] = [];
  for (const [index, sheet] of later.sheets.entries())
    sheet.rows.forEach((row, r) =>
      sheet.columns.forEach(({ id }, c) => {
        const cell = cellsOf(row.node).get(id);
        if (!cell || !isFormula(cell.textContent)) return;
        used.push(...rectanglesOf(cell.textContent, sheet.id, later));
        const name = cellName(sheet.id, row.id, id);
        const by = numberOf(after.get(name)) - numberOf(before.get(name));
        if (written.has(name) || !Number.isFinite(by) || Math.abs(by) < 1e-9) return;
        const where = later.sheets.length > 1 ? `${nameOf(sheet, index)}: ` : '';
        const format = String(cell.attrs['format']);
        found.push({
          sheet: sheet.id,
          row: r,
          column: c,
          at: where + a1(r, c),
          by: Number(by.toFixed(9)),
          format,
        });
      }),
    );
  const isUsed = ({ sheet, row, column }: Came): boolean =>
    used.some(
      (one) =>
        one.sheet === sheet &&
        row >= one.top &&
        row <= one.bottom &&
        column >= one.left &&
        column <= one.right,
    );
  return found
    .filter((one) => !isUsed(one))
    .sort((one, other) => Math.abs(other.by) - Math.abs(one.by))
    .slice(0, MOST);
}

interface Rectangle {
  readonly sheet: string;
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
}

/** What a formula refers to, by where it is shown; a whole row or column as far as it goes. */
function rectanglesOf(formula: string, within: string, { places }: View): Rectangle[] {
  return referencesOf(formula).map(([one, end = one]) => {
    const sheet = one.sheet ?? within;
    const at = (id: string | null, of: 'row' | 'column', whole: number): number =>
      id === null ? whole : places[of](sheet, id);
    const rows = [at(one.row, 'row', 0), at(end.row, 'row', Infinity)];
    const columns = [at(one.column, 'column', 0), at(end.column, 'column', Infinity)];
    return {
      sheet,
      top: Math.min(...rows),
      bottom: Math.max(...rows),
      left: Math.min(...columns),
      right: Math.max(...columns),
    };
  });
}

function numberOf(value: Value | undefined): number {
  return typeof value === 'number' ? value : NaN;
}
