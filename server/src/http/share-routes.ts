import type { Router } from 'express';
import { granted } from '../access/granted.js';
import { may } from '../access/policy.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Who has a document, and how. */
export function shareRoutes(router: Router, services: Ways): void {
  const { people, shares, sharing, claims, channel } = services;
  mount(router, services, 'listShares', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return shares.list(document);
  });
  mount(router, services, 'sharing', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    return sharing.of(document);
  });
  mount(router, services, 'candidates', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    return sharing.candidates(document, query.q);
  });
  mount(router, services, 'shareWith', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    await sharing.with(document, person, body);
    channel.shelfChanged(document.key);
    return sharing.of(document);
  });
  mount(router, services, 'setShare', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    const whose = sharing.member(params['person']);
    const before = await people.standings.read(document.id, whose.key);
    const share = await sharing.set(document, whose, body);
    const after = await people.standings.read(document.id, whose.key);
    if (before && (before.first !== after?.first || before.history !== after.history))
      channel.revoked(document, whose);
    else channel.shelfChanged(document.key);
    if (!before) await services.post.tellShared(document, person, whose, body.role);
    return share;
  });
  mount(router, services, 'sendShareAgain', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    await sharing.send(document, person, body);
    return sharing.of(document);
  });
  mount(router, services, 'endShare', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    const whose = sharing.member(params['person']);
    await shares.end(document, whose);
    channel.revoked(document, whose);
  });
  mount(router, services, 'endInvitedShare', async ({ person, params, query }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    await sharing.endInvited(document, query.email);
  });
  mount(router, services, 'endShares', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    for (const whose of await sharing.endAll(document)) channel.revoked(document, whose);
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
