import type { Collection } from '@oxbow/contract';
import { kindOf } from '@oxbow/core/kinds';
import type { Router } from 'express';
import { granted } from '../access/granted.js';
import type { HeldCollection } from '../documents/collections.js';
import { fileTitle } from '../filing/titles.js';
import { Trouble } from '../trouble/trouble.js';
import { PAGE, cursorAt, cursorKey } from './cursor.js';
import { fresh } from './fresh.js';
import { mount } from './route.js';
import { leftBy } from './uploads.js';
import type { Ways } from './ways.js';

/** Documents and the collections they stand in. */
export function shelfRoutes(router: Router, services: Ways): void {
  const { bin, collections, documents, shelf, channel, filing } = services;
  const told = ({ id, name, role }: HeldCollection): Collection => ({ id, name, role });
  mount(router, services, 'listCollections', async ({ person }) =>
    (await collections.list(person)).map(told),
  );
  mount(router, services, 'createCollection', async ({ person, body }) => {
    const made = await collections.create(person, body.name);
    channel.shelfChanged();
    return told(made);
  });
  mount(router, services, 'renameCollection', async ({ person, params, body }) => {
    const held = await collections.granted(params['collection'], person, 'manage');
    const renamed = await collections.rename(held, body.name);
    channel.shelfChanged();
    return told(renamed);
  });
  mount(router, services, 'deleteCollection', async ({ person, params }) => {
    await collections.remove(await collections.granted(params['collection'], person, 'manage'));
    channel.shelfChanged();
  });
  mount(router, services, 'listDocuments', async ({ person, query }) => {
    const limit = query.limit ?? PAGE;
    const before = query.cursor ? cursorKey(query.cursor) : Number.MAX_SAFE_INTEGER;
    const views = (await services.people.documents(person))
      .filter(({ key }) => key < before)
      .sort((one, other) => other.key - one.key);
    const rows = views.slice(0, limit + 1);
    const items = await Promise.all(rows.slice(0, limit).map((view) => shelf.summary(view)));
    return {
      items,
      next: rows.length > limit ? cursorAt(rows[limit - 1]?.key ?? 0) : null,
    };
  });
  mount(router, services, 'createDocument', async ({ person, body }) => {
    const row = await documents.create(person, body.title, body.collection ?? null, Date.now(), body.kind);
    channel.shelfChanged(row.key);
    return shelf.summary(row);
  });
  mount(router, services, 'importDocument', async ({ person, body, file, response }) => {
    if (!file) throw Trouble.field('file', 'is missing');
    const { title, collection, ...options } = body;
    const read = await filing.read(file.originalname, file, leftBy(response));
    const about = {
      title: title ?? fileTitle(file.originalname),
      collection: collection ?? null,
      at: Date.now(),
      kind: kindOf(read.reading.doc).name,
    };
    const row = await documents.make(person, about, (view) =>
      filing.file(view, person, read, { ...options, major: body.major === 'true' }),
    );
    channel.shelfChanged(row.key);
    return shelf.summary(await fresh(services, row));
  });
  mount(router, services, 'writeArchive', async ({ person, params, response }) => {
    const { document } = await granted(services, params['document'], person, 'archive');
    const bytes = await services.archives.write(document, leftBy(response));
    response.attachment(`${document.title} history.zip`).type('application/zip').send(Buffer.from(bytes));
    return undefined;
  });
  mount(router, services, 'readArchive', async ({ person, file, response }) => {
    if (!file) throw Trouble.field('file', 'is missing');
    const row = await services.archives.read(person, file, leftBy(response));
    channel.shelfChanged(row.key);
    return shelf.summary(await fresh(services, row));
  });
  mount(router, services, 'getDocument', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return shelf.summary(document);
  });
  mount(router, services, 'binDocument', async ({ person, params }) => {
    await bin.put((await granted(services, params['document'], person, 'bin')).document);
  });
  mount(router, services, 'listBin', ({ person }) => bin.list(person));
  mount(router, services, 'putBack', async ({ person, params }) => {
    await bin.putBack(person, params['document'] ?? '');
    const { document } = await granted(services, params['document'], person, 'read');
    return shelf.summary(document);
  });
  mount(router, services, 'deleteForGood', ({ person, params }) =>
    bin.delete(person, params['document'] ?? ''),
  );
  mount(router, services, 'changeDocument', async ({ person, params, body }) => {
    const action = body.collection === undefined ? 'retitle' : 'move';
    const { document } = await granted(services, params['document'], person, action);
    await documents.change(document, person, body);
    channel.shelfChanged(document.key);
    return shelf.summary(await fresh(services, document));
  });
}
