import type { Node } from 'prosemirror-model';
import type { Comparison } from '../compare/compare.js';
import { Bound } from './bound.js';
import { textOfBytes, utf8 } from './bytes.js';
import { readDocx } from './docx/read.js';
import { writeDocx, writeDocxRedline } from './docx/write.js';
import { EmbeddedImages } from './embedded.js';
import { FormatError } from './format.js';
import type { Format, ReadFormat } from './format.js';
import { readHtml, writeHtml } from './html.js';
import { readMarkdown, writeMarkdown } from './markdown.js';
import { readOdt } from './odt/read.js';
import { writeOdt, writeOdtRedline } from './odt/write.js';
import type { Reading } from './reading.js';
import { plainReading } from './reading.js';
import { comparisonPage, escaped } from './redline.js';
import { readText, writeText } from './text.js';
import type { Hands, WriteOptions } from './writing.js';

/** Most characters of a text file, not counting the images it carries. */
const LONGEST = 4_000_000;

/** Reads a file of a format. Throws `FormatError` for one that cannot be read, or holds more than a document may. */
export function readFile(format: ReadFormat, bytes: Uint8Array): Reading {
  const reading = readAs(format, bytes);
  new Bound().spend(reading.doc.content.size);
  return reading;
}

function readAs(format: ReadFormat, bytes: Uint8Array): Reading {
  if (format === 'docx') return readDocx(bytes);
  if (format === 'odt') return readOdt(bytes);
  const text = textOfBytes(bytes);
  const counted = format === 'text' ? text : text.replace(/data:image[A-Za-z0-9+/=;:,\s.-]*/g, '');
  if (counted.length > LONGEST)
    throw new FormatError(`This file is longer than ${LONGEST / 1e6} million characters.`);
  if (format === 'text') return plainReading(readText(text));
  const images = new EmbeddedImages();
  const doc = format === 'markdown' ? readMarkdown(text, images) : readHtml(text, images);
  return plainReading(doc, images.pictures, images.tally.list());
}

/** Writes a document as a file of a format, with the images it shows. */
export function writeFile(format: Format, doc: Node, options: WriteOptions): Uint8Array {
  const images = new EmbeddedImages(options.picture);
  switch (format) {
    case 'docx':
      return writeDocx(doc, options);
    case 'odt':
      return writeOdt(doc, options);
    case 'markdown':
      return utf8(writeMarkdown(doc, images));
    case 'html':
      return utf8(htmlPage(options.title, writeHtml(doc, images)));
    case 'text':
      return utf8(writeText(doc));
    case 'json':
      return utf8(JSON.stringify(doc.toJSON()));
  }
}

function htmlPage(title: string, body: string): string {
  return `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>${escaped(title)}</title></head>\n<body>\n${body}\n</body>\n</html>\n`;
}

/** Formats a comparison can be written in: a page for reading and printing, and files whose changes are tracked. */
export type RedlineFormat = 'html' | 'docx' | 'odt';

/** What a redline says beside its changes. */
export interface RedlineFileOptions extends WriteOptions {
  /** What the two ends are, such as "Version 11, 3 Feb 2026, 17:20". */
  readonly ends: readonly [earlier: string, later: string];
  /** Who made a change and when, in words for people. */
  readonly who: (change: number) => string;
}

/** Writes a comparison as a file. In .docx and .odt, accepting all changes gives the later document, rejecting them the earlier. */
export function writeRedline(
  format: RedlineFormat,
  comparison: Comparison,
  hands: Hands,
  options: RedlineFileOptions,
): Uint8Array {
  if (format === 'docx') return writeDocxRedline(comparison, hands, options);
  if (format === 'odt') return writeOdtRedline(comparison, hands, options);
  const { title, ends, who } = options;
  const images = new EmbeddedImages(options.picture);
  return utf8(comparisonPage(comparison, { title, earlier: ends[0], later: ends[1], who, images }));
}
