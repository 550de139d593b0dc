import type {
  Candidate,
  HistoryReach,
  Role,
  Share,
  ShareInput,
  ShareWithInput,
  Sharing as Told,
  SharingEvent,
} from '@oxbow/contract';
import type { Transaction } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import { beginning } from '../access/shares.js';
import type { How, Shares } from '../access/shares.js';
import type { View } from '../access/view.js';
import type { Post } from '../mail/post.js';
import type { Membership } from '../membership/membership.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Versions } from '../versions/versions.js';

/** People told of at once by the beginning of their name. */
const MOST_CANDIDATES = 8;
/** Events told, the newest. */
const MOST_EVENTS = 300;

/** Sharing a document with people who are here or are invited to it, writing to them of it, and what became of that. */
export class Sharing {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly shares: Shares,
    private readonly membership: Membership,
    private readonly post: Post,
    private readonly rooms: Rooms,
    private readonly versions: Versions,
  ) {
    membership.onJoined((person, email, transaction) => this.joined(person, email, transaction));
  }

  /** Who has a document, who is invited to it, and what happened to that. */
  async of(document: View): Promise<Told> {
    const { pendingShares, shareEvents } = this.database.models;
    const where = { document: document.key };
    const [shares, pending, rows] = await Promise.all([
      this.shares.list(document),
      pendingShares.findAll({ where, order: [['email', 'ASC']], raw: true }),
      shareEvents.findAll({ where, order: [['key', 'DESC']], limit: MOST_EVENTS, raw: true }),
    ]);
    const events = rows.map((row) => this.event(row));
    const sent = (person: string): string | null =>
      events.find((one) => one.person === person && (one.kind === 'shared' || one.kind === 'sent'))?.at ??
      null;
    return {
      shares: shares.map((share) => ({ ...share, sent: sent(share.person) })),
      invited: pending.map(({ email, role, history, since, until, sent: last }) => ({
        email,
        role: role as Role,
        history: history as HistoryReach,
        since: history === 'all' ? null : time(since),
        until: Number(until) === 0 ? null : time(until),
        sent: time(last),
      })),
      events,
    };
  }

  /** Shares a document with somebody here, and writes to them, or invites an address to it as a guest. */
  async with(document: View, by: Signed, { email, person, message, ...how }: ShareWithInput): Promise<void> {
    if ((email === undefined) === (person === undefined))
      throw Trouble.field('email', 'or person has to be given');
    const address = email?.trim().toLowerCase();
    const whose = address === undefined ? this.member(person) : (await this.people.addresses()).get(address);
    if (whose) {
      await this.set(document, whose, how);
      await this.post.tellShared(document, by, whose, how.role, message);
    } else await this.inviteTo(document, by, address ?? '', how, message);
  }

  /** Shares a document with somebody here, or changes how they have it. */
  async set(document: View, whose: Signed, how: ShareInput): Promise<Share> {
    const seq = await this.now(document);
    const share = await this.shares.set(document, whose, how, seq);
    await this.cut(document, share.history, seq);
    return share;
  }

  /** Writes to somebody again that a document is shared with them; whoever is invited gets a new link. */
  async send(
    document: View,
    by: Signed,
    { email, person }: { email?: string; person?: string },
  ): Promise<void> {
    const address = email?.toLowerCase();
    const pending = address ? await this.pending(document, address) : null;
    if (pending && address) await this.invite(document, by, address, undefined);
    else {
      const whose = this.member(person);
      const share = (await this.shares.list(document)).find((one) => one.person === whose.id);
      if (!share) throw new Trouble(404, 'It is not shared with them');
      await this.post.tellShared(document, by, whose, share.role);
    }
    await this.database.writes.add(async (transaction) => {
      const whom = address ? { email: address } : { person: this.member(person).key };
      await this.shares.note(document, 'sent', whom, null, transaction);
      if (address)
        await this.database.models.pendingShares.update(
          { sent: Date.now() },
          { where: { email: address, document: document.key }, transaction },
        );
    });
  }

  /** Stops sharing a document with whoever was invited by an address. Throws 404 where nobody was. */
  async endInvited(document: View, email: string): Promise<void> {
    const address = email.toLowerCase();
    await this.database.writes.add(async (transaction) => {
      const where = { email: address, document: document.key };
      const gone = await this.database.models.pendingShares.destroy({ where, transaction });
      if (gone === 0) throw new Trouble(404, 'Nobody was invited by that address');
      await this.shares.note(document, 'ended', { email: address }, null, transaction);
    });
  }

  /** Stops sharing a document with everybody but its owners; answers whom it was shared with. */
  async endAll(document: View): Promise<Signed[]> {
    const others = (await this.shares.list(document)).filter(({ role }) => role !== 'owner');
    const people = others.flatMap(({ person }) => this.people.byId(person) ?? []);
    for (const person of people) await this.shares.end(document, person);
    const where = { document: document.key };
    for (const { email } of await this.database.models.pendingShares.findAll({ where, raw: true }))
      await this.endInvited(document, email);
    return people;
  }

  /** People here whose name, a word of it or address begins so, but for those who have the document. */
  async candidates(document: View, begun: string): Promise<Candidate[]> {
    const wanted = begun.trim().toLowerCase();
    const having = new Set((await this.shares.list(document)).map(({ person }) => person));
    const found: Candidate[] = [];
    for (const [email, { id, name, initials, colour }] of await this.people.addresses()) {
      const words = [name.toLowerCase(), ...name.toLowerCase().split(/\s+/), email];
      if (having.has(id) || !words.some((word) => word.startsWith(wanted))) continue;
      found.push({ id, name, initials, colour, email });
    }
    return found.sort((a, b) => a.name.localeCompare(b.name)).slice(0, MOST_CANDIDATES);
  }

  /** Whoever is meant by an id and is somebody here. Throws 404. */
  member(id: string | undefined): Signed {
    const person = this.people.members.find((one) => one.id === id);
    if (!person) throw new Trouble(404, 'There is nobody of that name here');
    return person;
  }

  private async inviteTo(
    document: View,
    by: Signed,
    email: string,
    how: ShareInput,
    message?: string,
  ): Promise<void> {
    if (how.role === 'owner') throw Trouble.field('role', 'of an owner is only for people who are here');
    const seq = await this.now(document);
    const held = await this.pending(document, email);
    const until = how.until ? Date.parse(how.until) : 0;
    const row = {
      ...{ email, document: document.key, role: how.role, until, sent: Date.now() },
      ...beginning(held, how.history, seq),
    };
    await this.invite(document, by, email, message);
    await this.database.writes.add(async (transaction) => {
      await this.database.models.pendingShares.upsert(row, { transaction });
      await this.shares.note(document, held ? 'changed' : 'shared', { email }, row, transaction);
    });
    await this.cut(document, row.history as HistoryReach, seq);
  }

  private async invite(
    document: View,
    by: Signed,
    email: string,
    message: string | undefined,
  ): Promise<void> {
    const word = `${by.name} shares the document “${document.title}” with you.`;
    await this.membership.invite(by, {
      email,
      guest: true,
      message: message ? `${word}\n\n${message}` : word,
    });
  }

  /** Whoever was invited has come: they have what was shared with their address. */
  private async joined(person: number, email: string, transaction: Transaction): Promise<void> {
    const { pendingShares, shares } = this.database.models;
    for (const row of await pendingShares.findAll({ where: { email }, raw: true, transaction })) {
      const { document, role, history, first, since, until } = row;
      await shares.upsert({ document, person, role, history, first, since, until }, { transaction });
      await this.shares.note({ key: document, person }, 'joined', { person, email }, row, transaction);
    }
    await pendingShares.destroy({ where: { email }, transaction });
  }

  private pending({ key }: View, email: string): Promise<Stored<'pendingShares'> | null> {
    return this.database.models.pendingShares.findOne({ where: { email, document: key }, raw: true });
  }

  private async now({ key }: View): Promise<number> {
    return (await (await this.rooms.get(key)).storedHead()).seq;
  }

  /** A version is cut where a history begins for somebody, so that nothing behind it depends on what was before. */
  private async cut({ key }: View, history: HistoryReach, seq: number): Promise<void> {
    if (history !== 'all') await this.versions.cut(key, seq, { cause: 'share', at: Date.now() });
  }

  private event({ at, by, kind, person, email, told }: Stored<'shareEvents'>): SharingEvent {
    const how = JSON.parse(told) as How | null;
    return {
      at: time(at),
      by: this.people.id(by),
      kind: kind as SharingEvent['kind'],
      person: person === null ? null : this.people.id(person),
      email,
      role: (how?.role ?? null) as Role | null,
      history: (how?.history ?? null) as HistoryReach | null,
      until: how && Number(how.until) !== 0 ? time(how.until) : null,
    };
  }
}

function time(at: number): string {
  return new Date(Number(at)).toISOString();
}
