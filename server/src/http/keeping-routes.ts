import type { KeptBy } from '@oxbow/contract';
import { KEEP_EVERYTHING } from '@oxbow/contract';
import { kindNamed } from '@oxbow/core/kinds';
import { readSteps } from '@oxbow/core/history';
import type { Router } from 'express';
import { granted } from '../access/granted.js';
import { may } from '../access/policy.js';
import { checkBudgets } from '../live/budgets.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** How long versions are kept, which are discarded, and what is erased. */
export function keepingRoutes(router: Router, services: Ways): void {
  const { discards, rules, thinning, erasures, collections } = services;
  mount(router, services, 'discardVersion', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'erase');
    await discards.put(document, person, Number(params['number']));
  });
  mount(router, services, 'putVersionBack', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'erase');
    return discards.putBack(document, Number(params['number']));
  });
  mount(router, services, 'listDiscards', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'erase');
    return discards.list(document);
  });
  mount(router, services, 'documentRule', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    return thinning.told(await rules.ofDocument(document.key), [document.key], person, may(document, 'rule'));
  });
  mount(router, services, 'setDocumentRule', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'rule');
    checkRule(body.rule);
    const before = await rules.of(document.key);
    await rules.put({ document: document.key, collection: '' }, body.rule, person.key);
    const kept = await thinning.told(await rules.ofDocument(document.key), [document.key], person, true);
    await askForCheckOut(services, [document.key], before.checkOut, kept.rule.checkOut);
    return kept;
  });
  mount(router, services, 'previewDocumentRule', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'rule');
    checkRule(body.rule);
    return thinning.preview([document.key], body.rule ?? (await rules.inherited(document.key)));
  });
  mount(router, services, 'collectionRule', async ({ person, params }) => {
    const held = await collections.granted(params['collection'], person, 'see');
    const within = await rules.under(held.id);
    return thinning.told(await rules.ofCollection(held.id), within, person, held.role === 'owner');
  });
  mount(router, services, 'setCollectionRule', async ({ person, params, body }) => {
    const held = await collections.granted(params['collection'], person, 'manage');
    checkRule(body.rule);
    const before = await rules.ofCollection(held.id);
    await rules.put({ document: 0, collection: held.id }, body.rule, person.key);
    const within = await rules.under(held.id);
    const kept = await thinning.told(await rules.ofCollection(held.id), within, person, true);
    await askForCheckOut(services, within, before.rule.checkOut, kept.rule.checkOut);
    return kept;
  });
  mount(router, services, 'previewCollectionRule', async ({ person, params, body }) => {
    const held = await collections.granted(params['collection'], person, 'manage');
    checkRule(body.rule);
    return thinning.preview(await rules.under(held.id), body.rule ?? KEEP_EVERYTHING);
  });
  mount(router, services, 'listThinnings', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return document.first > 0 ? [] : thinning.list(document.key);
  });
  mount(router, services, 'previewErasure', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'erase');
    return erasures.preview(document, person, body);
  });
  mount(router, services, 'erase', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'erase');
    return erasures.begin(document, person, body);
  });
  mount(router, services, 'heedErasures', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    checkBudgets(body.edits);
    const { schema } = kindNamed(document.kind);
    const wanted = body.edits.map((edit) => ({ ...edit, steps: readSteps(schema, edit.steps) }));
    const steps = await (await services.rooms.told(document)).heeded(person.key, wanted);
    return {
      edits: body.edits.map((edit, i) => ({
        ...edit,
        steps: (steps[i] ?? []).map((step) => step.toJSON() as (typeof edit.steps)[number]),
      })),
    };
  });
  mount(router, services, 'listErasures', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'lookBack');
    return erasures.list(document, person);
  });
  mount(router, services, 'answerErasure', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'erase');
    return erasures.answer(document, person, params['erasure'] ?? '', body.agree);
  });
}

/** A rule says all that it needs. Throws 422 at the field. */
function checkRule(rule: KeptBy['rule'] | null): void {
  if (rule?.keep === 'last' && rule.last === undefined) throw Trouble.field('rule/last', 'says how many');
  if (rule?.keep !== 'thinned') return;
  if (rule.days === undefined) throw Trouble.field('rule/days', 'says for how many days all is kept');
  if (rule.each === undefined) throw Trouble.field('rule/each', 'says of what one is kept');
}

/** Has documents checked out to be written in, or no longer, where a rule changed that. */
async function askForCheckOut(
  { checkOuts, channel }: Ways,
  documents: readonly number[],
  before: boolean,
  now: boolean,
): Promise<void> {
  if (before === now) return;
  for (const key of documents) {
    await checkOuts.ask({ key }, now);
    channel.shelfChanged(key);
  }
}
