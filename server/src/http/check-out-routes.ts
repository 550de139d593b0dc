import type { Router } from 'express';
import { may } from '../access/policy.js';
import { granted } from '../access/granted.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Documents that are written in by one person at a time. */
export function checkOutRoutes(router: Router, services: Ways): void {
  const { checkOuts, channel, people } = services;
  mount(router, services, 'askForCheckOut', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    await checkOuts.ask(document, body.asked);
    channel.shelfChanged(document.key);
  });
  mount(router, services, 'checkOut', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    if (!may(document, 'write')) throw new Trouble(403, 'You may read this document, not change it');
    await checkOuts.out(document, person);
    channel.shelfChanged(document.key);
  });
  mount(router, services, 'checkIn', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'write');
    const version = await checkOuts.in(document, person, body);
    channel.shelfChanged(document.key);
    return { version };
  });
  mount(router, services, 'cancelCheckOut', async ({ person, params, query }) => {
    const { document, holder } = await granted(services, params['document'], person, 'read');
    if (document.hold !== 'own' && !may(document, 'share'))
      throw new Trouble(403, 'Only an owner can end the check-out of somebody else');
    const named = query.holder === undefined ? holder : people.byId(query.holder);
    if (named) await checkOuts.end(document, named);
    channel.shelfChanged(document.key);
  });
}
