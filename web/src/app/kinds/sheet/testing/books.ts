import { bookOf } from '@oxbow/core/formats/sheets';
import type { Node } from 'prosemirror-model';

const look = { format: '', align: '', bold: false, fill: '', value: null };

/** A book of one sheet, of what is typed into its cells, with four empty rows below. */
export function bookWith(lines: readonly (readonly string[])[], frozenRows = 0): Node {
  const rows = lines.map((line) => line.map((text) => (text === '' ? null : { ...look, text })));
  const below = Array.from({ length: 4 }, () => []);
  return bookOf([{ name: 'Budget', widths: [], frozenRows, frozenColumns: 0, rows: [...rows, ...below] }]);
}

/** Costs of work on a boat: three rows, each cost by a formula. */
export const BUDGET = [
  ['Item', 'Hours', 'Rate', 'Cost'],
  ['Caulking', '12', '38.5', '=B2*C2'],
  ['Tar and rope', '3', '120', '=B3*C3'],
];
