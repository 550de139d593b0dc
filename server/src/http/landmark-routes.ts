import type { Router } from 'express';
import { granted } from '../access/granted.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Names on moments, and words about versions written afterwards. */
export function landmarkRoutes(router: Router, services: Ways): void {
  const { places, versions, landmarks, channel } = services;
  mount(router, services, 'commentVersion', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    const version = await versions.comment(
      document.key,
      Number(params['number']),
      person.key,
      body.comment.trim(),
    );
    if (!version) throw new Trouble(404, `There is no version ${params['number']}`);
    return version;
  });
  mount(router, services, 'pastComments', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return versions.pastComments(document.key, Number(params['number']));
  });
  mount(router, services, 'listLandmarks', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return landmarks.list(document);
  });
  mount(router, services, 'nameMoment', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    const seq =
      body.number === undefined
        ? await places.seqOf(document, `@${body.seq ?? ''}`, 'seq')
        : await places.seqOf(document, String(body.number), 'number');
    const landmark = await landmarks.name(document, person, seq, body);
    channel.landmarksChanged(document);
    return landmark;
  });
  mount(router, services, 'getLandmark', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return landmarks.find(document, params['landmark'] ?? '');
  });
  mount(router, services, 'renameLandmark', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    const landmark = await landmarks.rename(document, person, params['landmark'] ?? '', body);
    channel.landmarksChanged(document);
    return landmark;
  });
  mount(router, services, 'unnameMoment', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'keep');
    await landmarks.remove(document, params['landmark'] ?? '');
    channel.landmarksChanged(document);
  });
  mount(router, services, 'findLandmarks', async ({ person, query }) =>
    landmarks.search(person, query.q ?? ''),
  );
}
