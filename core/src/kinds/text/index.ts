import type { Kind } from '../kind.js';
import { SCHEMA_VERSION, blankDocument, textSchema } from './schema.js';

export { IMAGE_PLACES, LONGEST_CAPTION } from './images.js';
export type { ImagePlace } from './images.js';
export { INKS, SIZES, TYPEFACES, isSafeLink } from './marks.js';
export { ALIGNMENTS } from './nodes.js';
export { isNoteId, noteNumbers } from './notes.js';
export {
  LONGEST_RUNNING,
  PAGES_FIELD,
  PAGE_FIELD,
  PAPERS,
  USUAL_PAPER,
  WIDEST_MARGIN,
  paperOf,
  paperTold,
  readPaper,
  sheetOf,
} from './paper.js';
export type { Paper, PaperSize } from './paper.js';
export { SCHEMA_VERSION, blankDocument, textSchema } from './schema.js';
export type { TextMarks, TextNodes } from './schema.js';

/** Text: paragraphs, headings, lists, tables, images, footnotes. */
export const text: Kind<'text'> = {
  name: 'text',
  schema: textSchema,
  version: SCHEMA_VERSION,
  blank: blankDocument,
};
