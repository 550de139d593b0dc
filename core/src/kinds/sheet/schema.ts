import type { Node } from 'prosemirror-model';
import { Schema } from 'prosemirror-model';
import { firstPlaces } from '../lines.js';
import { nodes } from './nodes.js';

/** Names of the node types of the sheet kind. */
export type SheetNodes = keyof typeof nodes;

/** The schema of sheets. */
export const sheetSchema = new Schema<SheetNodes>({ nodes, topNode: 'book' });

/** Version of the schema that new edits are written with; stored with each edit. */
export const SHEET_VERSION = 1;

/** Columns and rows of a blank sheet. */
const [COLUMNS, ROWS] = [8, 24];

/** The blank beginning of every book of sheets: one sheet of eight columns and twenty-four empty rows. */
export function blankBook(): Node {
  const columns = firstPlaces(COLUMNS).map((place, i) =>
    sheetSchema.node('column', { id: `c${i + 1}`, place }),
  );
  const rows = firstPlaces(ROWS).map((place, i) => sheetSchema.node('row', { id: `r${i + 1}`, place }));
  return sheetSchema.node('book', null, [sheetSchema.node('sheet', { id: 'first' }, columns), ...rows]);
}
