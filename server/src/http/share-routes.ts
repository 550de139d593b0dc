import type { Share } from '@oxbow/contract';
import type { Router } from 'express';
import type { Signed } from '../access/people.js';
import type { StoredDocument } from '../store/models.js';
import { granted } from '../access/granted.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Who may do what with a document. */
export function shareRoutes(router: Router, services: Ways): void {
  const { database, people, channel } = services;
  const { shares } = database.models;
  const member = (id: string | undefined): Signed => {
    const person = people.byId(id ?? '');
    if (!person) throw new Trouble(404, 'There is nobody of that name here');
    return person;
  };
  const keepOwner = async (document: StoredDocument, person: Signed): Promise<void> => {
    const owners = await shares.findAll({ where: { document: document.key, role: 'owner' }, raw: true });
    if (owners.length === 1 && owners[0]?.person === person.key)
      throw new Trouble(409, 'A document needs an owner', 'Make somebody else an owner first.');
  };
  mount(router, services, 'listShares', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'read');
    const rows = await shares.findAll({ where: { document: document.key }, raw: true });
    return rows.map((row) => ({ person: people.id(row.person), role: row.role as Share['role'] }));
  });
  mount(router, services, 'setShare', async ({ person, params, body }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    const whose = member(params['person']);
    if (body.role !== 'owner') await keepOwner(document, whose);
    await database.writes.add((transaction) =>
      shares.upsert({ document: document.key, person: whose.key, role: body.role }, { transaction }),
    );
    channel.shelfChanged(document.key);
    await services.post.tellShared(document, person, whose, body.role);
    return { person: whose.id, role: body.role };
  });
  mount(router, services, 'endShare', async ({ person, params }) => {
    const { document } = await granted(services, params['document'], person, 'share');
    const whose = member(params['person']);
    await keepOwner(document, whose);
    await database.writes.add((transaction) =>
      shares.destroy({ where: { document: document.key, person: whose.key }, transaction }),
    );
    channel.revoked(document, whose);
  });
}
