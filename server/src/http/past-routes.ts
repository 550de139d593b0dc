import type { Contributors } from '@oxbow/contract';
import type { Router } from 'express';
import Papa from 'papaparse';
import { granted } from '../access/granted.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Most edits sent at once. */
const EDITS = 2000;

/** The calls that look back at a history, and what one has seen of it. */
export function pastRoutes(router: Router, services: Ways): void {
  const { people, places, rooms, lookingBack, looks, watching, notices, channel } = services;
  mount(router, services, 'removedPassages', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const skip = Number(query.cursor ?? 0);
    if (!Number.isInteger(skip) || skip < 0) throw Trouble.field('cursor', 'is not one that was given out');
    return lookingBack.removed(document, query.q ?? '', skip);
  });
  mount(router, services, 'whereabouts', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const moment = await places.seqOf(document, query.moment);
    return lookingBack.whereabouts(document, moment, query.from, query.to);
  });
  mount(router, services, 'passageLife', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return lookingBack.life(document, await places.seqOf(document, query.moment), query.position);
  });
  mount(router, services, 'contests', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return lookingBack.contests(document);
  });
  mount(router, services, 'findInTime', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return lookingBack.find(document, query.q);
  });
  mount(router, services, 'findEverywhere', async ({ person, query }) =>
    lookingBack.findEverywhere(person, query.q, query.cursor),
  );
  mount(router, services, 'contributors', async ({ person, params, query, response }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const [after, upTo] = [query.after ?? 0, query.upTo ?? document.seq];
    if (after > upTo) throw Trouble.field('after', 'comes after upTo');
    const found = await lookingBack.contributors(document, after, upTo, query.zone);
    if (query.format !== 'csv') return found;
    response
      .attachment(`${document.title} contributors.csv`)
      .type('text/csv; charset=utf-8')
      .send(csv(found, (id) => people.byId(id)?.name ?? id));
    return undefined;
  });
  mount(router, services, 'ledger', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return lookingBack.ledger(document);
  });
  mount(router, services, 'edits', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    const upTo = Math.min(query.upTo, query.after + EDITS);
    const rows = await rooms.histories.edits(document, query.after, upTo, person.key);
    return rows.map((row) => channel.wire(row));
  });
  mount(router, services, 'getLook', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return looks.get(document);
  });
  mount(router, services, 'keepLook', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return looks.keep(document, body);
  });
  mount(router, services, 'listWatches', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return watching.list(document, person);
  });
  mount(router, services, 'watch', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return watching.watch(document, person, body.position ?? null);
  });
  mount(router, services, 'unwatch', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    await watching.unwatch(document, person, params['watch'] ?? '');
  });
  mount(router, services, 'listNotices', async ({ person }) => notices.list(person));
  mount(router, services, 'readNotice', async ({ person, params }) => {
    await notices.putAway(person, params['notice'] ?? '');
  });
}

function csv({ people }: Contributors, name: (id: string) => string): string {
  const rows = people.map((one) => ({
    Person: name(one.person),
    'Words written': one.written,
    'Of those pasted': one.pasted,
    'Kept to the end': one.kept,
    'Words brought back': one.broughtBack,
    'Words removed': one.removed,
    Sittings: one.sittings,
    'Hours of writing': (one.time / 3600_000).toFixed(2),
    Edits: one.edits,
  }));
  return `${Papa.unparse(rows, { escapeFormulae: true })}\r\n`;
}
