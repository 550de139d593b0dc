import type { Node } from 'prosemirror-model';
import { asTold } from '../content/index.js';
import type { Comparison } from '../compare/compare.js';
import { Bound } from './bound.js';
import { docx } from './docx/format.js';
import { FormatError } from './format.js';
import type { FileFormat, RedlineFileOptions } from './format.js';
import { html } from './html/format.js';
import { json } from './json/format.js';
import { markdown } from './markdown/format.js';
import type { Format, ReadFormat } from './names.js';
import { FORMATS } from './names.js';
import { odt } from './odt/format.js';
import type { Reading } from './reading.js';
import { text } from './text/format.js';
import type { Hands, WriteOptions } from './writing.js';

/** The formats themselves. A new one is a folder, a line here and one in `names.ts`. */
const FILES: Readonly<Record<Format, FileFormat>> = { docx, odt, markdown, html, text, json };

/** Reads a file of a format. Throws `FormatError` for one that cannot be read, or holds more than a document may. */
export function readFile(format: ReadFormat, bytes: Uint8Array): Reading {
  const { read } = FILES[format];
  if (!read) throw new FormatError(`${FORMATS[format].name} can be written only.`);
  const reading = read(bytes);
  new Bound().spend(reading.doc.content.size);
  return reading;
}

/** Writes a document as a file of a format, with the images it shows; what was erased in it as bars, but for JSON, which tells it as it is. */
export function writeFile(format: Format, doc: Node, options: WriteOptions): Uint8Array {
  return FILES[format].write(format === 'json' ? doc : asTold(doc), options);
}

/** Formats a comparison can be written in: a page for reading and printing, and files whose changes are tracked. */
export type RedlineFormat = 'html' | 'docx' | 'odt';

/** Writes a comparison as a file; see `FileFormat`. */
export function writeRedline(
  format: RedlineFormat,
  comparison: Comparison,
  hands: Hands,
  options: RedlineFileOptions,
): Uint8Array {
  const { redline } = FILES[format];
  if (!redline) throw new FormatError(`${FORMATS[format].name} cannot tell changes.`);
  return redline(comparison, hands, options);
}
