import type { Router } from 'express';
import { granted } from '../access/granted.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** What comes in from outside, and what goes out to it. */
export function arrivalRoutes(router: Router, services: Ways): void {
  const { arrivals, post, channel } = services;
  mount(router, services, 'listArrivals', async ({ person }) => arrivals.list(person));
  mount(router, services, 'arrivedFile', async ({ person, params, response }) => {
    const { bytes } = await arrivals.file(person, params['arrival'] ?? '', params['index'] ?? '');
    response
      .attachment()
      .type('application/octet-stream')
      .set('Cache-Control', 'private, no-store')
      .send(Buffer.from(bytes));
  });
  mount(router, services, 'likeArrived', async ({ person, params }) =>
    arrivals.like(person, params['arrival'] ?? '', params['index'] ?? ''),
  );
  mount(router, services, 'fileArrived', async ({ person, params, body }) => {
    const target = body.document ? (await granted(services, body.document, person, 'write')).document : null;
    const filed = await arrivals.put(person, params['arrival'] ?? '', params['index'] ?? '', target, body);
    channel.shelfChanged(target?.key);
    return filed;
  });
  mount(router, services, 'putArrivalAway', async ({ person, params }) => {
    await arrivals.putAway(person, params['arrival'] ?? '');
  });
  mount(router, services, 'post', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const other = body.with ? (await granted(services, body.with, person, 'lookBack')).document : document;
    return post.send(document, other, person, body);
  });
}
