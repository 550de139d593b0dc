import type { Moment } from '@oxbow/contract';
import { writeDocument } from '@oxbow/core/formats';
import type { Format } from '@oxbow/core/formats';
import type { Response } from 'express';
import type { Node } from 'prosemirror-model';
import type { StoredDocument } from '../store/models.js';

const FILES = {
  markdown: ['md', 'text/markdown'],
  html: ['html', 'text/html'],
  text: ['txt', 'text/plain'],
  json: ['json', 'application/json'],
} as const;

/** Sends a moment as a file of a format. */
export function serveVersion(
  response: Response,
  document: StoredDocument,
  moment: Moment,
  doc: Node,
  format: Format,
): void {
  const name = `${document.title} ${moment.version === null ? `at edit ${moment.seq}` : `version ${moment.version}`}`;
  serveFile(response, document, name, doc, format);
}

/** Sends a content with a document's images as a file. */
export function serveFile(
  response: Response,
  document: StoredDocument,
  name: string,
  doc: Node,
  format: Format,
): void {
  const [ending, type] = FILES[format];
  const images = {
    address: (hash: string) => `/api/documents/${document.id}/images/${hash}`,
    stored: () => null,
  };
  const body = writeDocument(format, doc, images);
  const plain = name.replace(/[^\w .-]+/g, '_');
  response
    .type(`${type}; charset=utf-8`)
    .set(
      'Content-Disposition',
      `attachment; filename="${plain}.${ending}"; filename*=UTF-8''${encodeURIComponent(name)}.${ending}`,
    )
    .send(format === 'html' ? page(document.title, body) : body);
}

function page(title: string, body: string): string {
  const safe = title.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
  return `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>${safe}</title></head>\n<body>\n${body}\n</body>\n</html>\n`;
}
