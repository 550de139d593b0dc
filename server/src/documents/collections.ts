import type { Collection, Role } from '@oxbow/contract';
import { nanoid } from 'nanoid';
import type { Transaction } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import { mayWithCollection } from '../access/policy.js';
import type { CollectionAction } from '../access/policy.js';
import type { Shared, Shares } from '../access/shares.js';
import { wholeShare } from '../access/view.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';

/** The roles in the order of how much they give. */
const MOST_FIRST: readonly Role[] = ['owner', 'editor', 'commenter', 'viewer'];

/** A collection as one person has it. */
export interface HeldCollection extends Collection {
  readonly person: number;
}

/** Collections of documents, each with its owners. Whoever does not have one does not know of it. */
export class Collections {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly shares: Shares,
  ) {}

  /** The collections that somebody has, in their order. */
  async list(person: Signed): Promise<HeldCollection[]> {
    const shares = await this.reaching(person);
    const rows = await this.database.models.collections.findAll({ order: [['position', 'ASC']], raw: true });
    return rows.flatMap(({ id, name }) => {
      const [counts] = shares.filter(({ collection }) => collection === id).sort(nearerFirst);
      return counts ? [{ id, name, role: counts.role as Role, person: person.key }] : [];
    });
  }

  /** A collection of somebody who may do this with it. Throws 404 and 403. */
  async granted(id: string | undefined, person: Signed, action: CollectionAction): Promise<HeldCollection> {
    const held = (await this.list(person)).find((one) => one.id === id);
    if (!held) throw new Trouble(404, 'There is no such collection');
    if (!mayWithCollection(held.role, action))
      throw new Trouble(403, 'Only whoever owns this collection may do that', `You have it as ${held.role}.`);
    return held;
  }

  /** Checks that somebody may put documents into a collection. Throws 422 at the field. */
  async checkFillable(id: string, person: Signed): Promise<void> {
    const held = (await this.list(person)).find((one) => one.id === id);
    if (!held) throw Trouble.field('collection', 'there is no such collection');
    if (!mayWithCollection(held.role, 'fill'))
      throw Trouble.field('collection', `is not for you to put documents into: you have it as ${held.role}`);
  }

  async create(person: Signed, name: string): Promise<HeldCollection> {
    const { collections, shares } = this.database.models;
    const row = { id: nanoid(10), name: name.trim(), position: await collections.count() };
    await this.database.writes.add(async (transaction) => {
      await collections.create(row, { transaction });
      await shares.create(wholeShare(row.id, person.key, 'owner'), { transaction });
    });
    return { id: row.id, name: row.name, role: 'owner', person: person.key };
  }

  async rename(held: HeldCollection, name: string): Promise<HeldCollection> {
    const { id } = held;
    await this.database.writes.add((transaction) =>
      this.database.models.collections.update({ name: name.trim() }, { where: { id }, transaction }),
    );
    return { ...held, name: name.trim() };
  }

  /** Deletes a collection: its documents stand in none, and whoever had them only through it has them no more. */
  async remove(held: HeldCollection): Promise<void> {
    const { collections, documents, shares } = this.database.models;
    const within = await this.shares.documentsOf(sharedCollection(held));
    await this.database.writes.add(async (transaction) => {
      const where = { collection: held.id };
      await documents.update({ collection: null }, { where, transaction });
      await shares.destroy({ where, transaction });
      await collections.destroy({ where: { id: held.id }, transaction });
    });
    await this.people.standings.changed({ documents: within, people: null, collections: true });
  }

  /**
   * Puts a document into a collection, or in none, as part of a transaction: whoever has that collection from a day on has the document from edit
   * `seq` on. Answers whether there is anybody.
   */
  async place(
    document: number,
    collection: string | null,
    seq: number,
    transaction: Transaction,
  ): Promise<boolean> {
    const { documents, shares, reaches } = this.database.models;
    await documents.update({ collection }, { where: { key: document }, transaction });
    const others = await shares.findAll({
      where: { document: 0 },
      attributes: ['key'],
      raw: true,
      transaction,
    });
    await reaches.destroy({ where: { document, share: others.map(({ key }) => key) }, transaction });
    const since =
      collection === null ? [] : await shares.findAll({ where: { collection }, raw: true, transaction });
    const limited = since.filter(({ history }) => history !== 'all');
    await reaches.bulkCreate(
      limited.map(({ key }) => ({ share: key, document, first: seq, since: Date.now() })),
      { transaction },
    );
    return limited.length > 0;
  }

  /** The shares of collections that reach somebody now. */
  private async reaching({ key }: Signed): Promise<Stored<'shares'>[]> {
    return this.database.rows<Stored<'shares'>>(
      `SELECT shares.* FROM shares WHERE document = 0 AND (until = 0 OR until > :now) AND (person = :key
         OR "groupKey" IN (SELECT "groupKey" FROM "groupMembers" WHERE "groupMembers".person = :key)
         OR (person = 0 AND "groupKey" = 0 AND email = '' AND EXISTS (SELECT 1 FROM people WHERE people.key = :key AND guest = 0)))`,
      { key, now: Date.now() },
    );
  }
}

/** A collection as what is shared. */
export function sharedCollection({ id, person }: HeldCollection): Shared {
  return { document: 0, collection: id, person };
}

function nearerFirst(one: Stored<'shares'>, other: Stored<'shares'>): number {
  const near = ({ person, groupKey }: Stored<'shares'>): number => (person > 0 ? 0 : groupKey > 0 ? 1 : 2);
  const most = ({ role }: Stored<'shares'>): number => MOST_FIRST.indexOf(role as Role);
  return near(one) - near(other) || most(one) - most(other);
}
