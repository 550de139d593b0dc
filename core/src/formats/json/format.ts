import { utf8 } from '../bytes.js';
import type { FileFormat } from '../format.js';

/** A document as the schema has it, for programs. */
export const json: FileFormat = { write: (doc) => utf8(JSON.stringify(doc.toJSON())) };
