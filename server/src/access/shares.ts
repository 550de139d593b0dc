import type { HistoryReach, Role, Share, ShareInput, SharingEvent } from '@oxbow/contract';
import type { Transaction } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { People, Signed } from './people.js';
import type { View } from './view.js';

/** How somebody has a document, as it is stored. */
export type How = Pick<Stored<'shares'>, 'role' | 'history' | 'until'>;

/** Who has a document, and how. A document always has an owner, who has all of its history. */
export class Shares {
  constructor(
    private readonly database: Database,
    private readonly people: People,
  ) {}

  async list(document: View): Promise<Share[]> {
    const rows = await this.database.models.shares.findAll({ where: { document: document.key }, raw: true });
    return rows.map((row) => this.shape(row));
  }

  /**
   * Shares a document, or changes how somebody has it. A history that begins with the share begins behind edit `now`, and does not
   * begin anew when the role changes. Throws 409 when nobody would own the document any more, 422 for an owner without its history.
   */
  async set(
    document: View,
    person: Signed,
    { role, history, until }: ShareInput,
    now: number,
  ): Promise<Share> {
    const row = await this.database.writes.add(async (transaction) => {
      if (role !== 'owner' || until) await this.keepOwner(document, person, transaction);
      const { shares } = this.database.models;
      const where = { document: document.key, person: person.key };
      const held = await shares.findOne({ where, raw: true, transaction });
      const next: Stored<'shares'> = {
        ...where,
        role,
        ...beginning(held, history ?? (role === 'owner' ? 'all' : undefined), now),
        until: until === undefined ? Number(held?.until ?? 0) : until === null ? 0 : Date.parse(until),
      };
      if (role === 'owner' && next.history !== 'all')
        throw Trouble.field('history', 'must be all of it for an owner');
      if (held && next.first > held.first) await this.forget(document, person, transaction);
      await shares.upsert(next, { transaction });
      await this.note(document, held ? 'changed' : 'shared', { person: person.key }, next, transaction);
      return next;
    });
    this.people.standings.changed();
    return this.shape(row);
  }

  /** Ends a share. Throws 409 when nobody would own the document any more. */
  async end(document: View, person: Signed): Promise<void> {
    await this.database.writes.add(async (transaction) => {
      await this.keepOwner(document, person, transaction);
      const where = { document: document.key, person: person.key };
      const gone = await this.database.models.shares.destroy({ where, transaction });
      await this.forget(document, person, transaction);
      if (gone > 0) await this.note(document, 'ended', { person: person.key }, null, transaction);
    });
    this.people.standings.changed();
  }

  /** Puts something that happened to who has a document on record. */
  async note(
    { key, person: by }: Pick<View, 'key' | 'person'>,
    kind: SharingEvent['kind'],
    whom: { readonly person?: number; readonly email?: string },
    how: How | null,
    transaction: Transaction,
  ): Promise<void> {
    const told = how && { role: how.role, history: how.history, until: Number(how.until) };
    const row = {
      document: key,
      at: Date.now(),
      by,
      kind,
      person: whom.person ?? null,
      email: whom.email ?? '',
    };
    await this.database.models.shareEvents.create({ ...row, told: JSON.stringify(told) }, { transaction });
  }

  /** Lets go of what somebody had of a document beside it: what they saw, what they watched and what they were told. */
  private async forget(document: View, person: Signed, transaction: Transaction): Promise<void> {
    const { looks, notices, watches } = this.database.models;
    const of = { where: { document: document.key, person: person.key }, transaction };
    await looks.destroy(of);
    await notices.destroy(of);
    await watches.destroy(of);
  }

  /** Asked within the transaction that changes it, so that two owners cannot take each other out at once. */
  private async keepOwner(document: View, person: Signed, transaction: Transaction): Promise<void> {
    const where = { document: document.key, role: 'owner', until: 0 };
    const owners = await this.database.models.shares.findAll({ where, raw: true, transaction });
    if (owners.length === 1 && owners[0]?.person === person.key)
      throw new Trouble(409, 'A document needs an owner', 'Make somebody else an owner first.');
  }

  private shape({ person, role, history, since, until }: Stored<'shares'>): Share {
    return {
      person: this.people.id(person),
      role: role as Role,
      history: history as HistoryReach,
      since: history === 'all' ? null : new Date(Number(since)).toISOString(),
      until: Number(until) === 0 ? null : new Date(Number(until)).toISOString(),
    };
  }
}

/** Where the history of a share begins: where it did already, if it did; else now. */
export function beginning(
  held: Pick<Stored<'shares'>, 'history' | 'first' | 'since'> | null,
  history: HistoryReach | undefined,
  now: number,
): Pick<Stored<'shares'>, 'history' | 'first' | 'since'> {
  const wanted = history ?? (held?.history as HistoryReach | undefined) ?? 'all';
  if (wanted === 'all') return { history: wanted, first: 0, since: 0 };
  if (held && held.history !== 'all') return { history: wanted, first: held.first, since: held.since };
  return { history: wanted, first: now, since: Date.now() };
}
