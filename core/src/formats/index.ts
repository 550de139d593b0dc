import type { Node } from 'prosemirror-model';
import type { Format, Images } from './format.js';
import { readHtml, writeHtml } from './html.js';
import { readMarkdown, writeMarkdown } from './markdown.js';
import { readText, writeText } from './text.js';

export { FormatError, NO_IMAGES, formatOfFile } from './format.js';
export type { Format, Images } from './format.js';
export { readDocx } from './docx/read.js';
export { writeDocx, writeDocxRedline } from './docx/write.js';
export { readOdt } from './odt/read.js';
export { writeOdt, writeOdtRedline } from './odt/write.js';
export type { Hand, HandStretch, Hands, WriteOptions } from './writing.js';
export { comparisonPage } from './redline.js';
export type { RedlineOptions } from './redline.js';
export { readHtml, readMarkdown, readText, writeHtml, writeMarkdown, writeText };

/** Reads a file's text as a document. Throws `FormatError` for a file that cannot be read. */
export function readDocument(format: Exclude<Format, 'json'>, text: string, images: Images): Node {
  if (format === 'markdown') return readMarkdown(text, images);
  return format === 'html' ? readHtml(text, images) : readText(text);
}

/** Writes a document in a format. */
export function writeDocument(format: Format, doc: Node, images: Images): string {
  switch (format) {
    case 'markdown':
      return writeMarkdown(doc, images);
    case 'html':
      return writeHtml(doc, images);
    case 'text':
      return writeText(doc);
    case 'json':
      return JSON.stringify(doc.toJSON());
  }
}
