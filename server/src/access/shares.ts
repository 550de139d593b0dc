import type { HistoryReach, Holder, Role, Share, ShareInput, SharingEvent } from '@oxbow/contract';
import { EVERYBODY } from '@oxbow/contract';
import { Op } from 'sequelize';
import type { Transaction } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Begun, Groups } from './groups.js';
import type { People } from './people.js';

/** What is shared: a document by its number, or where that is 0 a collection with all that is in it. */
export interface Shared {
  readonly document: number;
  readonly collection: string;
  /** Who acts. */
  readonly person: number;
}

/** With whom something is shared, as it is stored: one of these, or none for everybody here. */
export type Whom = Pick<Stored<'shares'>, 'person' | 'groupKey' | 'email'>;

/** How something is had, as it is stored. */
export type How = Pick<Stored<'shares'>, 'role' | 'history' | 'until'>;

/** With whom a share is, of all that its row says. */
export function whomOf({ person, groupKey, email }: Whom): Whom {
  return { person, groupKey, email };
}

const NOBODY_ELSE: Whom = { person: 0, groupKey: 0, email: '' };

/**
 * With whom documents and collections are shared, and how. A document and a collection always have an owner by name and for good, and owners have
 * all of the history.
 */
export class Shares {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly groups: Groups,
  ) {}

  /** The shares of a document or a collection as such. */
  rows({ document, collection }: Omit<Shared, 'person'>): Promise<Stored<'shares'>[]> {
    return this.database.models.shares.findAll({
      where: { document, collection },
      order: [['key', 'ASC']],
      raw: true,
    });
  }

  /** The shares of a document, its collection's after its own, or those of a collection. */
  async list({ document, collection }: Omit<Shared, 'person'>): Promise<Share[]> {
    const own = await this.rows({ document, collection });
    const through =
      document > 0 ? await this.database.models.documents.findByPk(document, { raw: true }) : null;
    const others = through?.collection
      ? await this.rows({ document: 0, collection: through.collection })
      : [];
    return this.shapes([...own, ...others], document > 0);
  }

  /** Who is meant by the id of a person or group, or "everybody". Throws 404. */
  async whom(id: string): Promise<Whom> {
    if (id === EVERYBODY) return NOBODY_ELSE;
    if (id.includes('@')) return { ...NOBODY_ELSE, email: id.toLowerCase() };
    const person = this.people.members.find((one) => one.id === id);
    if (person) return { ...NOBODY_ELSE, person: person.key };
    const group = await this.groups.byId(id);
    if (!group) throw new Trouble(404, 'There is nobody of that name here');
    return { ...NOBODY_ELSE, groupKey: group.key };
  }

  /** Whom a share is with, to tell it. */
  async holders(rows: readonly Whom[]): Promise<(whom: Whom, named?: string) => Holder> {
    const groups = rows.some(({ groupKey }) => groupKey > 0)
      ? await this.database.models.groups.findAll({ raw: true })
      : [];
    return ({ person, groupKey, email }, named = '') => {
      if (person > 0)
        return { kind: 'person', id: this.people.id(person), name: this.people.byKey(person)?.name ?? '' };
      if (email !== '') return { kind: 'invited', id: email, name: email };
      if (groupKey === 0) return { kind: 'everybody', id: EVERYBODY, name: 'Everybody here' };
      const group = groups.find(({ key }) => key === groupKey);
      return { kind: 'group', id: group?.id ?? 'gone', name: group?.name ?? named };
    };
  }

  /**
   * Shares something, or changes how they have it. A history that begins with the share begins where `begun` says, and does not begin
   * anew when the role changes. Throws 409 when nobody would own it any more, 422 for an owner without the history, or who
   * is not here yet.
   */
  async set(shared: Shared, whom: Whom, input: ShareInput, begun: readonly Begun[]): Promise<Share> {
    const { role, history, until } = input;
    const { shares, reaches } = this.database.models;
    const row = await this.database.writes.add(async (transaction) => {
      if (role !== 'owner' || until) await this.keepOwner(shared, whom, transaction);
      const where = { document: shared.document, collection: shared.collection, ...whomOf(whom) };
      const held = await shares.findOne({ where, raw: true, transaction });
      const before = held?.history as HistoryReach | undefined;
      const next = {
        ...where,
        role,
        history: history ?? (role === 'owner' ? 'all' : (before ?? 'all')),
        since: before && before !== 'all' ? (held?.since ?? 0) : Date.now(),
        until: until === undefined ? Number(held?.until ?? 0) : until === null ? 0 : Date.parse(until),
        sent: Number(held?.sent ?? 0),
      };
      if (role === 'owner' && next.history !== 'all')
        throw Trouble.field('history', 'must be all of it for an owner');
      if (role === 'owner' && whom.email !== '')
        throw Trouble.field('role', 'of an owner is only for people who are here');
      if (held) await shares.update(next, { where: { key: held.key }, transaction });
      const key = held?.key ?? (await shares.create(next, { transaction })).key;
      if (next.history === 'all') await reaches.destroy({ where: { share: key }, transaction });
      else if (!before || before === 'all')
        await reaches.bulkCreate(
          begun.map((one) => ({ ...one, share: key, since: Number(next.since) })),
          { transaction },
        );
      await this.note(shared, held ? 'changed' : 'shared', whom, next, transaction);
      return { ...next, key };
    });
    await this.changed(shared, whom);
    const [share] = await this.shapes([row], shared.document > 0);
    return share as Share;
  }

  /** Ends a share; answers whether there was one. Throws 409 when nobody would own it any more. */
  async end(shared: Shared, whom: Whom): Promise<boolean> {
    const gone = await this.database.writes.add(async (transaction) => {
      await this.keepOwner(shared, whom, transaction);
      const where = { document: shared.document, collection: shared.collection, ...whomOf(whom) };
      const count = await this.database.models.shares.destroy({ where, transaction });
      if (count > 0) await this.note(shared, 'ended', whom, null, transaction);
      return count > 0;
    });
    await this.changed(shared, whom);
    return gone;
  }

  /** Lets it be known of the shares that ended by themselves after one time and by another, so that windows open through them close. */
  async ended(after: number, by: number): Promise<void> {
    const { shares } = this.database.models;
    const rows = await shares.findAll({ where: { until: { [Op.gt]: after, [Op.lte]: by } }, raw: true });
    for (const row of rows) await this.changed({ ...row, person: 0 }, row);
  }

  private async changed(shared: Shared, { person, groupKey, email }: Whom): Promise<void> {
    if (email !== '') return;
    const documents = await this.documentsOf(shared);
    const people = person > 0 ? [person] : groupKey > 0 ? await this.groups.members(groupKey) : null;
    await this.people.standings.changed({ documents, people, collections: shared.document === 0 });
  }

  /** The document itself, or all that is in a collection, by number. */
  async documentsOf({ document, collection }: Omit<Shared, 'person'>): Promise<number[]> {
    if (document > 0) return [document];
    const rows = await this.database.models.documents.findAll({
      where: { collection },
      attributes: ['key'],
      raw: true,
    });
    return rows.map(({ key }) => key);
  }

  /** Puts something that happened to who has something on record. */
  async note(
    { document, collection, person: by }: Shared,
    kind: SharingEvent['kind'],
    whom: Whom,
    how: How | null,
    transaction: Transaction,
  ): Promise<void> {
    const told = how && { role: how.role, history: how.history, until: Number(how.until) };
    const named = (await this.holders([whom]))(whom).name;
    const row = {
      document,
      collection,
      at: Date.now(),
      by,
      kind,
      ...whomOf(whom),
      named,
      told: JSON.stringify(told),
    };
    await this.database.models.shareEvents.create(row, { transaction });
  }

  /** Asked within the transaction that changes it, so that two owners cannot take each other out at once. */
  private async keepOwner(
    { document, collection }: Shared,
    { person }: Whom,
    transaction: Transaction,
  ): Promise<void> {
    const where = { document, collection, role: 'owner', until: 0 };
    const owners = (await this.database.models.shares.findAll({ where, raw: true, transaction })).filter(
      (row) => row.person > 0,
    );
    if (owners.length === 1 && owners[0]?.person === person && person > 0)
      throw new Trouble(
        409,
        document > 0 ? 'A document needs an owner' : 'A collection needs an owner',
        'Make somebody else an owner first.',
      );
  }

  private async shapes(rows: readonly Stored<'shares'>[], ofDocument: boolean): Promise<Share[]> {
    const holder = await this.holders(rows);
    const id = rows.map(({ collection }) => collection).filter((one) => one !== '');
    const collections = await this.database.models.collections.findAll({ where: { id }, raw: true });
    const through = new Map(collections.map((one) => [one.id, { id: one.id, name: one.name }]));
    return rows.map((row) => ({
      holder: holder(row),
      through: (ofDocument && through.get(row.collection)) || null,
      role: row.role as Role,
      history: row.history as HistoryReach,
      since: row.history === 'all' || (ofDocument && row.document === 0) ? null : time(row.since),
      until: Number(row.until) === 0 ? null : time(row.until),
      sent: Number(row.sent) === 0 ? null : time(row.sent),
    }));
  }
}

/** A time of the database as the API tells it. */
export function time(at: number): string {
  return new Date(Number(at)).toISOString();
}
