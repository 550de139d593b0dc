import { openApi } from '@oxbow/contract';
import type { DocumentSummary } from '@oxbow/contract';
import type { Router } from 'express';
import express from 'express';
import { nanoid } from 'nanoid';
import { Op } from 'sequelize';
import type { Signed } from '../access/people.js';
import { SESSION_COOKIE } from '../access/people.js';
import { arrivalRoutes } from './arrivals.js';
import { checkOutRoutes } from './checking-out.js';
import { serveFile, serveVersion } from './export.js';
import { freshDocument } from './fresh.js';
import { goingBackRoutes } from './going-back.js';
import { granted } from './granted.js';
import { landmarkRoutes } from './landmarks.js';
import { pastRoutes } from './past.js';
import { Trouble } from './problem.js';
import { mount } from './route.js';
import type { Services } from './services.js';
import { shareRoutes } from './sharing.js';
import { fileTitle, leftBy } from './uploads.js';

const PAGE = 50;

/** The API's routes: check, authorise, call, answer. */
export function apiRoutes(services: Services): Router {
  const router = express.Router();
  sessionRoutes(router, services);
  shelfRoutes(router, services);
  historyRoutes(router, services);
  landmarkRoutes(router, services);
  pastRoutes(router, services);
  goingBackRoutes(router, services);
  checkOutRoutes(router, services);
  shareRoutes(router, services);
  arrivalRoutes(router, services);
  return router;
}

function sessionRoutes(router: Router, services: Services): void {
  const { people, demo, version } = services;
  mount(router, people, 'signIn', async ({ body, response, request }) => {
    const signed = await people.signIn(body.email, body.password);
    if (!signed)
      throw new Trouble(401, 'That address and password do not belong together', undefined, [
        { path: 'password', message: 'does not belong to this address' },
      ]);
    response.cookie(SESSION_COOKIE, signed.token, {
      httpOnly: true,
      sameSite: 'lax',
      secure: request.secure,
      path: '/',
      maxAge: 30 * 24 * 3600_000,
    });
    return shown(signed.person);
  });
  mount(router, people, 'whoAmI', async ({ person }) => shown(person));
  mount(router, people, 'signOut', async ({ request, response }) => {
    await people.signOut(request.headers.cookie);
    response.clearCookie(SESSION_COOKIE, { path: '/' });
  });
  mount(router, people, 'demoPeople', async () => {
    if (!demo) throw new Trouble(404, 'There is no such thing here');
    const rows = await services.database.models.people.findAll({
      where: { password: { [Op.ne]: '' } },
      order: [['key', 'ASC']],
      raw: true,
    });
    return rows.map((row) => ({ ...shown(row), email: row.email, about: row.about }));
  });
  mount(router, people, 'listPeople', async () => people.all.map(shown));
  mount(router, people, 'health', async () => {
    await services.database.sequelize.query('SELECT 1');
    return { ready: true, why: 'The database answers and its tables are up to date.' };
  });
  mount(router, people, 'describe', async () => openApi(version));
}

function shown({ id, name, initials, colour }: Pick<Signed, 'id' | 'name' | 'initials' | 'colour'>) {
  return { id, name, initials, colour };
}

function shelfRoutes(router: Router, services: Services): void {
  const { database, people, documents, shelf, channel, filing } = services;
  const { collections } = database.models;
  mount(router, people, 'listCollections', async () =>
    (await collections.findAll({ order: [['position', 'ASC']], raw: true })).map(({ id, name }) => ({
      id,
      name,
    })),
  );
  mount(router, people, 'createCollection', async ({ body }) => {
    const row = { id: nanoid(10), name: body.name.trim(), position: await collections.count() };
    await database.writes.add((transaction) => collections.create(row, { transaction }));
    channel.shelfChanged();
    return { id: row.id, name: row.name };
  });
  mount(router, people, 'renameCollection', async ({ params, body }) => {
    const id = params['collection'] ?? '';
    const [count] = await database.writes.add((transaction) =>
      collections.update({ name: body.name.trim() }, { where: { id }, transaction }),
    );
    if (count === 0) throw new Trouble(404, 'There is no such collection');
    channel.shelfChanged();
    return { id, name: body.name.trim() };
  });
  mount(router, people, 'listDocuments', async ({ person, query }) => {
    const limit = query.limit ?? PAGE;
    const shares = await database.models.shares.findAll({ where: { person: person.key }, raw: true });
    const roles = new Map(shares.map((share) => [share.document, share.role as DocumentSummary['role']]));
    const before = query.cursor ? { [Op.lt]: cursorKey(query.cursor) } : { [Op.gt]: 0 };
    const rows = await database.models.documents.findAll({
      where: { key: { [Op.and]: [{ [Op.in]: [...roles.keys()] }, before] } },
      order: [['key', 'DESC']],
      limit: limit + 1,
      raw: true,
    });
    const items = await Promise.all(
      rows.slice(0, limit).map((row) => shelf.summary(row, roles.get(row.key) ?? 'viewer', person)),
    );
    return {
      items,
      next: rows.length > limit ? Buffer.from(String(rows[limit - 1]?.key)).toString('base64url') : null,
    };
  });
  mount(router, people, 'createDocument', async ({ person, body }) => {
    const row = await documents.create(person, body.title, body.collection ?? null);
    channel.shelfChanged(row.key);
    return shelf.summary(row, 'owner', person);
  });
  mount(router, people, 'importDocument', async ({ person, body, file, response }) => {
    if (!file) throw Trouble.field('file', 'is missing');
    const { title, collection, ...options } = body;
    const read = await filing.read(file.originalname, file.buffer, leftBy(response));
    const row = await documents.create(person, title ?? fileTitle(file.originalname), collection ?? null);
    await filing.file(row, person, read, { ...options, major: body.major === 'true' });
    channel.shelfChanged(row.key);
    return shelf.summary(await freshDocument(services, row), 'owner', person);
  });
  mount(router, people, 'writeArchive', async ({ person, params, response }) => {
    const { document } = await granted(services, params['document'], person, 'archive');
    const bytes = await services.archives.write(document, leftBy(response));
    response.attachment(`${document.title} history.zip`).type('application/zip').send(Buffer.from(bytes));
    return undefined;
  });
  mount(router, people, 'readArchive', async ({ person, file, response }) => {
    if (!file) throw Trouble.field('file', 'is missing');
    const row = await services.archives.read(person, file.buffer, leftBy(response));
    channel.shelfChanged(row.key);
    return shelf.summary(await freshDocument(services, row), 'owner', person);
  });
  mount(router, people, 'getDocument', async ({ person, params }) => {
    const { document, role } = await granted(services, params['document'], person, 'read');
    return shelf.summary(document, role, person);
  });
  mount(router, people, 'changeDocument', async ({ person, params, body }) => {
    const { document, role } = await granted(services, params['document'], person, 'retitle');
    await documents.change(document, person, body);
    channel.shelfChanged(document.key);
    return shelf.summary(await freshDocument(services, document), role, person);
  });
}

function cursorKey(cursor: string): number {
  const key = Number(Buffer.from(cursor, 'base64url').toString());
  if (!Number.isInteger(key) || key < 1) throw Trouble.field('cursor', 'is not one that was given out');
  return key;
}

function historyRoutes(router: Router, services: Services): void {
  const { people, documents, credited } = services;
  const { versions } = documents;
  mount(router, people, 'listVersions', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    const limit = query.limit ?? PAGE;
    const before = query.cursor ? cursorKey(query.cursor) : 2 ** 30;
    const [rows, names] = await Promise.all([
      versions.list(document.key, before, limit + 1),
      versions.names(document.key),
    ]);
    const items = rows.slice(0, limit).map((row) => versions.shape(row, names.get(row.seq)));
    return {
      items,
      next: rows.length > limit ? Buffer.from(String(items.at(-1)?.number)).toString('base64url') : null,
    };
  });
  mount(router, people, 'keepVersion', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    return documents.keep(document, person, body);
  });
  mount(router, people, 'getVersion', async ({ person, params, query, response }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    const ref = params['moment'] ?? '';
    if (!/^(@\d{1,9}|\d{1,9})$/.test(ref))
      throw Trouble.field('moment', 'must be a version number, or @ and the number of an edit');
    const moment = await documents.moment(document, await documents.seqOf(document, ref));
    if (query.format && query.format !== 'json')
      return serveVersion(services, response, document, moment, query.format);
    return { ...moment, doc: undefined };
  });
  mount(router, people, 'getFiling', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return services.filing.of(document, await documents.seqOf(document, params['moment'] ?? ''));
  });
  mount(router, people, 'compare', async ({ person, params, query, response }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    const other = query.with ? (await granted(services, query.with, person, 'read')).document : document;
    const earlier = { document: other, seq: await documents.seqOf(other, query.earlier, 'earlier') };
    const later = { document, seq: await documents.seqOf(document, query.later, 'later') };
    const { format = 'json' } = query;
    if (format === 'json') return credited.compare(earlier, later);
    const { name, bytes } = await credited.redline(earlier, later, format);
    serveFile(response, name, format, bytes);
    return undefined;
  });
  mount(router, people, 'history', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return documents.history(document, query.after ?? 0);
  });
  mount(router, people, 'fileVersion', async ({ person, params, body, file, response }) => {
    const { document } = await granted(services, params['document'], person, 'write');
    if (!file) throw Trouble.field('file', 'is missing');
    const read = await services.filing.read(file.originalname, file.buffer, leftBy(response));
    const { comment, tracked } = body;
    return services.filing.file(document, person, read, { comment, tracked, major: body.major === 'true' });
  });
  mount(router, people, 'storeImage', async ({ person, params, file }) => {
    const { document } = await granted(services, params['document'], person, 'write');
    if (!file) throw Trouble.field('file', 'is missing');
    return services.images.store(document.key, file.buffer);
  });
  mount(router, people, 'getImage', async ({ person, params, response }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    const image = await services.images.read(document.key, params['hash'] ?? '');
    if (!image) throw new Trouble(404, 'There is no such image in this document');
    response.type(image.type).set('Cache-Control', 'private, max-age=31536000, immutable').send(image.data);
    return undefined;
  });
}
