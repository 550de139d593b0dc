import type { Router } from 'express';
import { granted } from '../access/granted.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Names on moments, and words about versions written afterwards. */
export function landmarkRoutes(router: Router, services: Ways): void {
  const { places, told, landmarks, channel } = services;
  mount(router, services, 'commentVersion', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'comment');
    const number = Number(params['number']);
    const version = await told.comment(document, number, person.key, body.comment.trim());
    if (!version) throw new Trouble(404, `There is no version ${params['number']}`);
    return version;
  });
  mount(router, services, 'pastComments', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return told.pastComments(document, Number(params['number']));
  });
  mount(router, services, 'listLandmarks', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return landmarks.list(document);
  });
  mount(router, services, 'nameMoment', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    const seq =
      body.number === undefined
        ? await places.seqOf(document, `@${body.seq ?? ''}`, 'seq')
        : await places.seqOf(document, String(body.number), 'number');
    const landmark = await landmarks.name(document, person, seq, body);
    channel.landmarksChanged(document, landmark.seq);
    return landmark;
  });
  mount(router, services, 'getLandmark', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return landmarks.find(document, params['landmark'] ?? '');
  });
  mount(router, services, 'renameLandmark', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    const landmark = await landmarks.rename(document, person, params['landmark'] ?? '', body);
    channel.landmarksChanged(document, landmark.seq);
    return landmark;
  });
  mount(router, services, 'unnameMoment', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    const seq = await landmarks.remove(document, params['landmark'] ?? '');
    channel.landmarksChanged(document, seq);
  });
  mount(router, services, 'findLandmarks', async ({ person, query }) =>
    landmarks.search(person, query.q ?? ''),
  );
}
