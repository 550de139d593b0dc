import type { Router } from 'express';
import { granted } from '../access/granted.js';
import { may } from '../access/policy.js';
import type { Signed } from '../access/people.js';
import { collection, document } from '../sharing/sharing.js';
import type { Sharable } from '../sharing/sharing.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Who has documents and collections, and how; groups of people; whom archives and messages name. */
export function shareRoutes(router: Router, services: Ways): void {
  const { shares, claims, collections, groups, membership, readingLinks } = services;
  type Of = (params: Record<string, string>, person: Signed) => Promise<Sharable>;
  const ofDocument: Of = async (params, person) =>
    document((await granted(services, params['document'], person, 'share')).document);
  const ofCollection: Of = async (params, person) =>
    collection(await collections.granted(params['collection'], person, 'manage'));
  mountSharing(router, services, ofDocument, {
    sharing: 'sharing',
    candidates: 'candidates',
    shareWith: 'shareWith',
    setShare: 'setShare',
    sendShareAgain: 'sendShareAgain',
    endShare: 'endShare',
    endShares: 'endShares',
  });
  mountSharing(router, services, ofCollection, {
    sharing: 'collectionSharing',
    candidates: 'collectionCandidates',
    shareWith: 'collectionShareWith',
    setShare: 'collectionSetShare',
    sendShareAgain: 'collectionSendShareAgain',
    endShare: 'collectionEndShare',
    endShares: 'collectionEndShares',
  });
  mount(router, services, 'askForDocument', ({ person, params, body, request }) =>
    services.asking.ask(params['document'] ?? '', person, body.message ?? '', request.ip ?? ''),
  );
  mount(router, services, 'listShares', async ({ person, params }) => {
    const { document: view } = await granted(services, params['document'], person, 'read');
    const all = await shares.list(document(view));
    return all.filter(({ holder }) => holder.kind !== 'invited');
  });
  mount(router, services, 'listReadingLinks', async ({ person, params }) => {
    const { document: view } = await granted(services, params['document'], person, 'share');
    return readingLinks.list(view);
  });
  mount(router, services, 'makeReadingLink', async ({ person, params, body }) => {
    const { document: view } = await granted(services, params['document'], person, 'share');
    return readingLinks.make(view, body);
  });
  mount(router, services, 'endReadingLink', async ({ person, params }) => {
    const { document: view } = await granted(services, params['document'], person, 'share');
    await readingLinks.end(view, params['link'] ?? '');
  });
  mount(router, services, 'listGroups', async ({ person }) => {
    await membership.checkAdmin(person);
    return groups.list();
  });
  mount(router, services, 'createGroup', async ({ person, body }) => {
    await membership.checkAdmin(person);
    return groups.create(body);
  });
  mount(router, services, 'changeGroup', async ({ person, params, body }) => {
    await membership.checkAdmin(person);
    return groups.change(params['group'] ?? '', body);
  });
  mount(router, services, 'deleteGroup', async ({ person, params }) => {
    await membership.checkAdmin(person);
    await groups.remove(params['group'] ?? '');
  });
  mount(router, services, 'listClaims', async ({ person, params }) => {
    const { document: view } = await granted(services, params['document'], person, 'lookBack');
    return { items: await claims.of(view), mayVouch: may(view, 'share') };
  });
  mount(router, services, 'vouch', async ({ person, params }) => {
    const { document: view } = await granted(services, params['document'], person, 'share');
    await claims.vouch(view, params['person'] ?? '', person);
  });
}

/** The operations about sharing something, under the names they have for it. */
interface Names {
  readonly sharing: 'sharing' | 'collectionSharing';
  readonly candidates: 'candidates' | 'collectionCandidates';
  readonly shareWith: 'shareWith' | 'collectionShareWith';
  readonly setShare: 'setShare' | 'collectionSetShare';
  readonly sendShareAgain: 'sendShareAgain' | 'collectionSendShareAgain';
  readonly endShare: 'endShare' | 'collectionEndShare';
  readonly endShares: 'endShares' | 'collectionEndShares';
}

/** Sharing a document and sharing a collection are one: `of` finds what is shared, for those who may. */
function mountSharing(
  router: Router,
  services: Ways,
  of: (params: Record<string, string>, person: Signed) => Promise<Sharable>,
  names: Names,
): void {
  const { shares, sharing } = services;
  mount(router, services, names.sharing, async ({ person, params }) => sharing.of(await of(params, person)));
  mount(router, services, names.candidates, async ({ person, params, query }) =>
    sharing.candidates(await of(params, person), person, query.q),
  );
  mount(router, services, names.shareWith, async ({ person, params, body }) => {
    const what = await of(params, person);
    await sharing.with(what, person, body);
    return sharing.of(what);
  });
  mount(router, services, names.setShare, async ({ person, params, body }) => {
    const what = await of(params, person);
    const whom = await shares.whom(params['holder'] ?? '');
    return sharing.setAndTell(what, person, whom, body);
  });
  mount(router, services, names.sendShareAgain, async ({ person, params }) => {
    const what = await of(params, person);
    await sharing.send(what, person, await shares.whom(params['holder'] ?? ''));
    return sharing.of(what);
  });
  mount(router, services, names.endShare, async ({ person, params }) => {
    const what = await of(params, person);
    await sharing.end(what, await shares.whom(params['holder'] ?? ''));
  });
  mount(router, services, names.endShares, async ({ person, params }) =>
    sharing.endAll(await of(params, person)),
  );
}
