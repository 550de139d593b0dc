import { readFile } from 'node:fs/promises';
import type { Router } from 'express';
import { allowed, granted } from '../access/granted.js';
import { Trouble } from '../trouble/trouble.js';
import { PAGE, cursorAt, cursorKey } from './cursor.js';
import { serveFile, serveVersion } from './export.js';
import { mount } from './route.js';
import { leftBy } from './uploads.js';
import type { Ways } from './ways.js';

/** Versions and moments of a document, and comparisons of them. */
export function historyRoutes(router: Router, services: Ways): void {
  const { documents, places, told, credited } = services;
  mount(router, services, 'listVersions', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const limit = query.limit ?? PAGE;
    const before = query.cursor ? cursorKey(query.cursor) : 2 ** 30;
    const versions = await told.list(document, before, limit + 1);
    const items = versions.slice(0, limit);
    return { items, next: versions.length > limit ? cursorAt(items.at(-1)?.number ?? 0) : null };
  });
  mount(router, services, 'keepVersion', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    return documents.keep(document, person, body);
  });
  mount(router, services, 'getVersion', async ({ person, params, query, response }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    // Whoever may not look back is not told which moments and versions there are.
    if (params['moment'] !== `@${document.seq}`) allowed(document, null, 'lookBack');
    const seq = await places.seqOf(document, params['moment'] ?? '');
    if (!query.format || query.format === 'json') return places.moment(document, seq);
    return serveVersion(services, response, document, await places.at(document, seq), query.format);
  });
  mount(router, services, 'getFiling', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return services.filing.of(document, await places.seqOf(document, params['moment'] ?? ''));
  });
  mount(router, services, 'compare', async ({ person, params, query, response }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const other = query.with ? (await granted(services, query.with, person, 'lookBack')).document : document;
    const earlier = { document: other, seq: await places.seqOf(other, query.earlier, 'earlier') };
    const later = { document, seq: await places.seqOf(document, query.later, 'later') };
    const { format = 'json' } = query;
    if (format === 'json') return credited.compare(earlier, later);
    const { name, bytes } = await credited.redline(earlier, later, format);
    serveFile(response, name, format, bytes);
    return undefined;
  });
  mount(router, services, 'history', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return places.history(document, query.after ?? 0);
  });
  mount(router, services, 'fileVersion', async ({ person, params, body, file, response }) => {
    const { document } = await granted(services, params['document'], person, 'write');
    if (!file) throw Trouble.field('file', 'is missing');
    const read = await services.filing.read(file.originalname, file, leftBy(response));
    const { comment, tracked } = body;
    return services.filing.file(document, person, read, { comment, tracked, major: body.major === 'true' });
  });
  mount(router, services, 'storeImage', async ({ person, params, file }) => {
    const { document } = await granted(services, params['document'], person, 'write');
    if (!file) throw Trouble.field('file', 'is missing');
    const stored = await services.images.store(document.key, await readFile(file.path));
    services.shown.note(document, stored.hash);
    return stored;
  });
  mount(router, services, 'getImage', async ({ person, params, response }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    const image = await services.shown.read(document, params['hash'] ?? '');
    if (!image) throw new Trouble(404, 'There is no such image in this document');
    response.type(image.type).set('Cache-Control', 'private, max-age=31536000, immutable').send(image.data);
    return undefined;
  });
}
