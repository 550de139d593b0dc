import { kindOf } from '@oxbow/core/kinds';
import type { Router } from 'express';
import { granted, stillGranted } from '../access/granted.js';
import { mount } from './route.js';
import { leftBy } from './uploads.js';
import { serveFile, serveOwn } from './export.js';
import { fresh } from './fresh.js';
import type { Ways } from './ways.js';

/** Restoring, taking back, and documents of their own made from a moment. Each is put on top; nothing of the past changes. */
export function goingBackRoutes(router: Router, services: Ways): void {
  const { documents, rooms, places, becoming } = services;
  mount(router, services, 'restore', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'restore');
    const moment =
      body.number !== undefined
        ? await places.seqOf(document, String(body.number), 'number')
        : await places.seqOf(document, `@${body.seq ?? ''}`, 'seq');
    const cause = {
      kind: 'restore',
      moment,
      ...(body.number === undefined ? {} : { number: body.number }),
    } as const;
    return becoming.become(
      document,
      person,
      cause,
      async () => {
        const doc = await rooms.histories.moment(document, moment);
        return { target: doc, from: [{ doc, seq: moment }] };
      },
      { comment: body.comment },
    );
  });
  mount(router, services, 'copyMoment', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const moment =
      body.number !== undefined
        ? await places.seqOf(document, String(body.number), 'number')
        : await places.seqOf(document, `@${body.seq ?? ''}`, 'seq');
    const content = await rooms.histories.moment(document, moment);
    const { id, title, first, key } = document;
    const about = {
      title: body.title,
      collection: body.collection ?? null,
      at: Date.now(),
      kind: kindOf(content).name,
      origin: { other: key, seq: moment + first },
    };
    const row = await documents.make(person, about, async (view) => {
      await services.images.lend(key, view.key, content);
      const cause = { kind: 'copy', document: id, title, moment } as const;
      const from = [{ doc: content, seq: moment, document: id }];
      if (!content.eq(kindOf(content).blank()))
        await becoming.become(view, person, cause, async () => ({ target: content, from }));
      await stillGranted(services.people, document, 'lookBack');
    });
    services.channel.shelfChanged(row.key);
    return services.shelf.summary(await fresh(services, row));
  });
  mount(router, services, 'assemble', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'restore');
    const other = body.with ? (await granted(services, body.with, person, 'lookBack')).document : document;
    return services.assembling.put(document, other, person, body);
  });
  mount(router, services, 'setAside', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const other = body.with ? (await granted(services, body.with, person, 'lookBack')).document : document;
    const row = await services.assembling.aside(document, other, person, body);
    services.channel.shelfChanged(row.key);
    return services.shelf.summary(await fresh(services, row));
  });
  mount(router, services, 'assembledFile', async ({ person, params, body, response }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const other = body.with ? (await granted(services, body.with, person, 'lookBack')).document : document;
    const { target } = await services.assembling.assembled(document, other, body);
    return serveOwn(services, response, document, person, `${document.title} assembled`, target, body.format);
  });
  mount(router, services, 'homecoming', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return services.homecoming.preview(document, person);
  });
  mount(router, services, 'bringHome', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return services.homecoming.bring(document, person, body);
  });
  mount(router, services, 'gatherReturned', async ({ person, params, body, files, response }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return services.returned.gather(document, body, files, leftBy(response));
  });
  mount(router, services, 'putReturned', async ({ person, params, body, files, response }) => {
    const { document } = await granted(services, params['document'], person, 'restore');
    return services.returned.put(document, person, body, files, leftBy(response));
  });
  mount(router, services, 'returnedFile', async ({ person, params, body, files, response }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const bytes = await services.returned.redline(document, person, body, files, leftBy(response));
    serveFile(response, `${document.title} with what came back`, body.format, bytes);
    return undefined;
  });
  mount(router, services, 'takeBack', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'restore');
    return services.takingBack.take(document, person, body);
  });
  mount(router, services, 'previewTakeBack', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'restore');
    return services.takingBack.preview(document, body);
  });
}
