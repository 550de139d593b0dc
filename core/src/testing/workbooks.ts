import type { PlainCell, PlainSheet } from '../formats/sheets/plain.js';
import { CELL_ALIGNMENTS, FILLS, lettersOf } from '../kinds/sheet/index.js';
import { sentence } from './documents.js';
import type { Random } from './random.js';

/** Number formats that files are asked to keep. */
export const FORMATS = ['', '0.00', '#,##0.00', '0%', '0.0%', 'yyyy-mm-dd', 'hh:mm', '0.00E+00'] as const;

/** A cell with anything that a sheet of ours may hold; what it refers to lies in the nine cells at the corner. */
function cell(random: Random): PlainCell | null {
  if (random.chance(0.3)) return null;
  const corner = (): string => `${lettersOf(random.between(0, 2))}${random.between(1, 3)}`;
  const number = random.between(-99_999, 99_999) / random.pick([1, 10, 100]);
  const text = random.pick([
    () => String(number),
    () => sentence(random, 1, 4).replace(/^[='].?/, ''),
    () => `=${corner()}*2+SUM(${corner()}:C3)`,
    () => `=IF(${corner()}>1,"more, or ""less""","none")&LEN("A1")`,
    () =>
      random.pick([
        'TRUE',
        '2026-11-30',
        "'007",
        '',
        'two\nlines',
        '  spaced  ',
        'a & b < c > "d"',
        '\u{1F30A} ebb',
      ]),
  ])();
  return {
    text,
    value: null,
    format: random.chance(0.4) ? random.pick(FORMATS) : '',
    align: random.chance(0.2) ? random.pick(CELL_ALIGNMENTS) : '',
    bold: random.chance(0.2),
    fill: random.chance(0.2) ? random.pick(FILLS) : '',
  };
}

/** Sheets with anything in them that a book of ours may hold. */
export function anySheets(random: Random): PlainSheet[] {
  const names = ['Rota', "The mill's costs", 'Boats & oars', 'März'];
  return names.slice(0, random.between(1, names.length)).map((name) => ({
    name,
    widths: Array.from({ length: random.between(0, 4) }, () =>
      random.chance(0.5) ? null : random.between(20, 400),
    ),
    frozenRows: random.chance(0.3) ? random.between(1, 3) : 0,
    frozenColumns: random.chance(0.3) ? random.between(1, 3) : 0,
    rows: Array.from({ length: random.between(3, 9) }, () =>
      Array.from({ length: random.between(3, 6) }, () => cell(random)),
    ),
  }));
}
