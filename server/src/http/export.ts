import { FORMATS } from '@oxbow/core/formats';
import type { Format } from '@oxbow/core/formats';
import type { Response } from 'express';
import type { Node } from 'prosemirror-model';
import type { Signed } from '../access/people.js';
import type { Stand } from '../documents/places.js';
import type { StoredDocument } from '../store/models.js';
import type { Ways } from './ways.js';
import { leftBy } from './uploads.js';

/** Sends a moment as a file of a format. */
export async function serveVersion(
  services: Ways,
  response: Response,
  document: StoredDocument,
  { doc, ...moment }: Stand,
  format: Format,
): Promise<void> {
  const name = `${document.title} ${moment.version === null ? `at edit ${moment.seq}` : `version ${moment.version}`}`;
  const author = services.people.byId(moment.by)?.name ?? '';
  await serveContent(services, response, document, { name, doc, author, at: moment.at }, format);
}

/** Sends a content put together by a person, with a document's images, as a file. */
export function serveOwn(
  services: Ways,
  response: Response,
  document: StoredDocument,
  person: Signed,
  name: string,
  doc: Node,
  format: Format,
): Promise<void> {
  const at = new Date().toISOString();
  return serveContent(services, response, document, { name, doc, author: person.name, at }, format);
}

interface Content {
  readonly name: string;
  readonly doc: Node;
  readonly author: string;
  readonly at: string;
}

async function serveContent(
  { files, images }: Ways,
  response: Response,
  document: StoredDocument,
  { name, doc, author, at }: Content,
  format: Format,
): Promise<void> {
  const about = { title: document.title, author, at, images: await images.shownIn(document.key, doc) };
  serveFile(response, name, format, await files.write(format, doc, about, leftBy(response)));
}

/** Sends bytes as a file to save. */
export function serveFile(response: Response, name: string, format: Format, bytes: Uint8Array): void {
  const { endings, type } = FORMATS[format];
  response.attachment(`${name}.${endings[0]}`).type(type).send(Buffer.from(bytes));
}
