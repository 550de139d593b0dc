import type { ComparedChange } from '@oxbow/contract';
import { lettersOf } from '@oxbow/core/kinds/sheet';
import { deedOf } from '../../../reading/look';
import type { Values } from '../calculating';
import { cellName } from '../calculating';
import { drawnCell } from '../drawn-cell';
import { a1 } from '../grid-line';
import type { View } from '../views';
import { cellsOf, nameOf, typedOf } from '../views';
import type { ComparedBooks } from './compared-books';
import type { Marks, Placed, Side } from './placed';

/** A change as one line tells it. */
export interface ToldChange {
  /** The cell, row or column, such as `B3`, `Row 4` or `Column C`; or the name of the sheet. */
  readonly where: string;
  readonly sheet: string;
  /** The row it is in, by what stands first in it. */
  readonly row: string;
  /** What became of it, in a word or two. */
  readonly deed: string;
  /** What stood there before, and what after. */
  readonly before: string;
  readonly after: string;
}

/** Where a change is in two books, and what it did there. */
export function toldOf(
  change: ComparedChange,
  marks: Marks,
  books: ComparedBooks,
  values: Readonly<Record<Side, Values>>,
): ToldChange {
  const place = marks.first.get(change.id);
  if (!place)
    return {
      where: '',
      sheet: '',
      row: '',
      deed: deedOf(change),
      before: change.earlier,
      after: change.later,
    };
  const view = books[place.side];
  const sheet = view.sheets.find(({ id }) => id === place.sheet);
  const name = sheet ? nameOf(sheet, view.sheets.indexOf(sheet)) : '';
  const [before, after] = [textOn('earlier', place, books, values), textOn('later', place, books, values)];
  return {
    where: whereOf(place, view, name),
    sheet: name,
    row: rowOf(place, view, name),
    deed: doneTo(place, before, after),
    before,
    after,
  };
}

/** What became of a cell, a row, a column or a sheet. */
function doneTo({ change, row, column }: Placed, before: string, after: string): string {
  if (change.kind === 'form' && change.form.join() === 'place') return $localize`moved`;
  if (change.kind === 'form' || row === null || column === null) return deedOf(change);
  if (before === '') return $localize`written`;
  if (after === '') return $localize`emptied`;
  return before.startsWith('=') || after.startsWith('=') ? $localize`formula changed` : $localize`changed`;
}

function whereOf({ sheet, row, column }: Placed, { places }: View, name: string): string {
  if (row === null && column === null) return name;
  if (row === null) return $localize`Column ${lettersOf(Math.max(0, places.column(sheet, column ?? '')))}`;
  const index = Math.max(0, places.row(sheet, row));
  return column === null ? $localize`Row ${index + 1}` : a1(index, Math.max(0, places.column(sheet, column)));
}

function rowOf({ sheet, row }: Placed, { places }: View, name: string): string {
  if (row === null) return name;
  const of = places.sheet(sheet);
  const index = places.row(sheet, row);
  const line = of?.rows[index];
  const first = of?.columns
    .map(({ id }) => (line && cellsOf(line.node).get(id)?.textContent) || '')
    .find(Boolean);
  return first ? $localize`Row ${index + 1}, ${first}` : $localize`Row ${index + 1}`;
}

/** What a place holds on one side: of a formula what it is and what it comes to; of a row its cells. */
function textOn(
  side: Side,
  { sheet, row, column }: Placed,
  books: ComparedBooks,
  values: Readonly<Record<Side, Values>>,
): string {
  const view = books[side];
  const of = view.places.sheet(sheet);
  if (!of) return '';
  if (row === null) return column === null ? nameOf(of, view.sheets.indexOf(of)) : '';
  const line = of.rows[view.places.row(sheet, row)];
  if (!line) return '';
  const told = (id: string): string => {
    const cell = cellsOf(line.node).get(id);
    const { text } = drawnCell(cell, values[side].get(cellName(sheet, row, id)));
    const typed = typedOf(cell, view, sheet);
    return column !== null && typed.startsWith('=') ? `${typed} → ${text}` : text;
  };
  return column === null
    ? of.columns
        .map(({ id }) => told(id))
        .filter(Boolean)
        .join(' · ')
    : told(column);
}
