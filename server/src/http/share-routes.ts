import type { Router } from 'express';
import { granted } from '../access/granted.js';
import type { Signed } from '../access/people.js';
import { may } from '../access/policy.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Who may do what with a document. */
export function shareRoutes(router: Router, services: Ways): void {
  const { people, shares, claims, channel } = services;
  const member = (id: string | undefined): Signed => {
    const person = people.members.find((one) => one.id === id);
    if (!person) throw new Trouble(404, 'There is nobody of that name here');
    return person;
  };
  mount(router, services, 'listShares', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return shares.list(document);
  });
  mount(router, services, 'setShare', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    const whose = member(params['person']);
    const room = await services.rooms.get(document.key);
    const { seq } = await room.storedHead();
    const before = await people.standings.read(document.id, whose.key);
    const share = await shares.set(document, whose, body, seq);
    if (share.history !== 'all')
      await services.versions.cut(document.key, seq, { cause: 'share', at: Date.now() });
    const after = await people.standings.read(document.id, whose.key);
    if (before && (before.first !== after?.first || before.history !== after.history))
      channel.revoked(document, whose);
    else channel.shelfChanged(document.key);
    await services.post.tellShared(document, person, whose, body.role);
    return share;
  });
  mount(router, services, 'endShare', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    const whose = member(params['person']);
    await shares.end(document, whose);
    channel.revoked(document, whose);
  });
  mount(router, services, 'listClaims', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return { items: await claims.of(document), mayVouch: may(document, 'share') };
  });
  mount(router, services, 'vouch', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    await claims.vouch(document, params['person'] ?? '', person);
  });
}
