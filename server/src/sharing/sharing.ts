import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { RateLimiterRes } from 'rate-limiter-flexible';
import { TooMany } from '../access/attempts.js';
import type {
  Candidate,
  Having,
  HistoryReach,
  Role,
  Share,
  ShareInput,
  ShareWithInput,
  Sharing as Told,
  SharingEvent,
} from '@oxbow/contract';
import { EVERYBODY } from '@oxbow/contract';
import type { Transaction } from 'sequelize';
import type { Begun, Groups } from '../access/groups.js';
import type { People, Signed } from '../access/people.js';
import { time, whomOf } from '../access/shares.js';
import type { How, Shared, Shares, Whom } from '../access/shares.js';
import type { View } from '../access/view.js';
import type { HeldCollection } from '../documents/collections.js';
import { sharedCollection } from '../documents/collections.js';
import type { Post } from '../mail/post.js';
import type { Membership } from '../membership/membership.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Asking } from './asking.js';
import type { Versions } from '../versions/versions.js';

/** People and groups told of at once by the beginning of their name. */
const MOST_CANDIDATES = 8;
/** Events told, the newest. */
const MOST_EVENTS = 300;
/** People told of as having a document. */
const MOST_HAVING = 500;
/** Seconds in which messages about shares are counted, and how many one person may have sent, in all and to one other. */
const [DAY, MAILS, MAILS_TO_ONE] = [24 * 3600, 1000, 20];
/** Members of a group who are written to when something is shared with it. */
const MOST_WRITTEN_TO = 200;

/** What happens to something as such, with nobody in particular. */
const OF_NOBODY: ReadonlySet<string> = new Set(['linked', 'unlinked', 'binned', 'putBack']);

/** A document or a collection that is shared, by the name under which it is told. */
export interface Sharable extends Shared {
  readonly id: string;
  readonly name: string;
}

/** A document as what is shared. */
export function document({ key, id, title, person }: View): Sharable {
  return { document: key, collection: '', person, id, name: title };
}

/** A collection as what is shared. */
export function collection(held: HeldCollection): Sharable {
  return { ...sharedCollection(held), id: held.id, name: held.name };
}

/** Sharing documents and collections with people who are here or are invited, writing to them of it, and what became of that. */
export class Sharing {
  /** Messages about shares that one person has sent, in all and to one other, within a day. */
  private readonly mails = new RateLimiterMemory({ keyPrefix: 'sharing', points: MAILS, duration: DAY });
  private readonly mailsToOne = new RateLimiterMemory({
    keyPrefix: 'sharing-with',
    points: MAILS_TO_ONE,
    duration: DAY,
  });

  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly groups: Groups,
    private readonly shares: Shares,
    private readonly membership: Membership,
    private readonly post: Post,
    private readonly rooms: Rooms,
    private readonly versions: Versions,
    private readonly asking: Asking,
  ) {
    groups.onBegun((begun) => this.cutWhereBegun(begun));
    membership.onJoined((person, email, transaction) => this.joined(person, email, transaction));
  }

  /** The shares of something, who has it through which of them, and what happened to that. */
  async of(what: Sharable): Promise<Told> {
    const where = { document: what.document, collection: what.collection };
    const [shares, having, rows] = await Promise.all([
      this.shares.list(what),
      this.having(what),
      this.database.models.shareEvents.findAll({
        where,
        order: [['key', 'DESC']],
        limit: MOST_EVENTS,
        raw: true,
      }),
    ]);
    const holder = await this.shares.holders(rows);
    const events = rows.map((row): SharingEvent => {
      const how = JSON.parse(row.told) as How | null;
      return {
        at: time(row.at),
        by: this.people.id(row.by),
        kind: row.kind as SharingEvent['kind'],
        holder: OF_NOBODY.has(row.kind) ? null : holder(row, row.named),
        email: row.kind === 'joined' ? row.email : '',
        role: (how?.role ?? null) as Role | null,
        history: (how?.history ?? null) as HistoryReach | null,
        until: how && Number(how.until) !== 0 ? time(how.until) : null,
      };
    });
    return { name: what.name, shares, having, events };
  }

  /** Shares something with somebody here and writes to them, or invites an address to it as a guest. */
  async with(what: Sharable, by: Signed, { email, holder, message, ...how }: ShareWithInput): Promise<void> {
    if ((email === undefined) === (holder === undefined))
      throw Trouble.field('email', 'or holder has to be given');
    const address = email?.trim().toLowerCase();
    const known = address === undefined ? undefined : (await this.people.addresses()).get(address);
    const whom = await this.shares.whom(known?.id ?? address ?? holder ?? '');
    if (whom.email !== '') {
      if (how.role === 'owner') throw Trouble.field('role', 'of an owner is only for people who are here');
      await this.membership.checkMayTakeGuests(by);
      await this.invite(what, by, whom.email, message);
    }
    await this.set(what, whom, how);
    if (whom.email === '') await this.tell(what, by, whom, how.role, message);
    else await this.written(what, whom);
  }

  /** Shares something with whoever is meant, or changes how they have it. */
  async set(what: Sharable, whom: Whom, how: ShareInput): Promise<Share> {
    const begun = how.history === undefined || how.history === 'all' ? [] : await this.now(what);
    const share = await this.shares.set(what, whom, how, begun);
    await this.cutWhereBegun(begun);
    if (what.document > 0 && whom.person > 0) await this.asking.answered(what.document, whom.person);
    return share;
  }

  private async cutWhereBegun(begun: readonly Begun[]): Promise<void> {
    for (const { document: key, first } of begun)
      await this.versions.cut(key, first, { cause: 'share', at: Date.now() });
  }

  /** The same, and writes to them where it is new to them. Nobody is invited so: throws 404. */
  async setAndTell(what: Sharable, by: Signed, whom: Whom, how: ShareInput): Promise<Share> {
    const held = (await this.shares.rows(what)).some((row) => isSame(row, whom));
    if (!held && whom.email !== '') throw new Trouble(404, 'Nobody was invited by that address');
    const share = await this.set(what, whom, how);
    if (!held) await this.tell(what, by, whom, how.role);
    return share;
  }

  /** Writes to whoever something is shared with that it is; whoever is only invited gets a new link. Throws 404 where it is not. */
  async send(what: Sharable, by: Signed, whom: Whom, message?: string): Promise<void> {
    const share = (await this.shares.rows(what)).find((row) => isSame(row, whom));
    if (!share) throw new Trouble(404, 'It is not shared with them');
    if (whom.email === '') {
      await this.checkMayWrite(by, String(whom.person || `group ${whom.groupKey}`));
      await this.tell(what, by, whom, share.role, message);
    } else {
      await this.invite(what, by, whom.email, message);
      await this.written(what, whom);
    }
    await this.database.writes.add((transaction) => this.shares.note(what, 'sent', whom, null, transaction));
  }

  /** Ends a share. Throws 404 where there is none. */
  async end(what: Sharable, whom: Whom): Promise<void> {
    if (!(await this.shares.end(what, whom))) throw new Trouble(404, 'It is not shared with them');
  }

  /** Stops sharing something with everybody but its owners. */
  async endAll(what: Sharable): Promise<void> {
    for (const row of await this.shares.rows(what))
      if (row.role !== 'owner') await this.shares.end(what, whomOf(row));
  }

  /** People and groups here whose name, a word of it or address begins so, but for those with whom it is shared. Guests look nobody up. */
  async candidates(what: Sharable, by: Signed, begun: string): Promise<Candidate[]> {
    if ((await this.membership.me(by)).guest) return [];
    const wanted = begun.trim().toLowerCase();
    const shared = new Set((await this.shares.rows(what)).map((row) => this.idOf(row)));
    const groups = await this.groups.list();
    const everybody: Candidate[] = [
      { holder: { kind: 'everybody', id: EVERYBODY, name: 'Everybody here' }, email: '' },
      ...groups.map(({ id, name }) => ({ holder: { kind: 'group' as const, id, name }, email: '' })),
      ...[...(await this.people.addresses())].map(([email, { id, name }]) => ({
        holder: { kind: 'person' as const, id, name },
        email,
      })),
    ];
    return everybody
      .filter(({ holder, email }) => {
        const name = holder.name.toLowerCase();
        const words = [name, ...name.split(/\s+/), email];
        return !shared.has(holder.id) && words.some((word) => word.startsWith(wanted));
      })
      .sort((one, other) => one.holder.name.localeCompare(other.holder.name))
      .slice(0, MOST_CANDIDATES);
  }

  private idOf({ person, groupKey, email }: Whom): string {
    return person > 0 ? this.people.id(person) : email !== '' ? email : groupKey > 0 ? '' : EVERYBODY;
  }

  /** Who has something by name or through a group, and which of the shares that reach them counts. */
  private async having({ document: key, collection: id }: Sharable): Promise<Having[]> {
    if (key === 0) return [];
    const rows = await this.database.rows<
      Stored<'shares'> & { readonly who: number; readonly begun: number }
    >(
      `SELECT shares.*, holdings.person AS who, holdings.since AS begun FROM holdings JOIN shares ON shares.key = holdings.share
       WHERE holdings.document = :key AND (shares.person > 0 OR shares."groupKey" > 0)
       ORDER BY shares.document DESC, shares.key, holdings.person LIMIT :most`,
      { key, most: MOST_HAVING },
    );
    const holder = await this.shares.holders(rows);
    const shares = await this.shares.list({ document: key, collection: id });
    const through = shares.find((share) => share.through !== null)?.through ?? null;
    return rows.flatMap((row) => {
      const person = this.people.byKey(row.who);
      if (!person) return [];
      const { id: of, name, initials, colour } = person;
      return [
        {
          person: { id: of, name, initials, colour },
          holder: holder(row),
          through: row.document === 0 ? through : null,
          role: row.role as Role,
          history: row.history as HistoryReach,
          since: row.history === 'all' ? null : time(row.begun),
          until: Number(row.until) === 0 ? null : time(row.until),
        },
      ];
    });
  }

  private async tell(what: Sharable, by: Signed, whom: Whom, role: string, message?: string): Promise<void> {
    const members = whom.groupKey > 0 ? await this.groups.members(whom.groupKey) : [whom.person];
    let isWritten = false;
    for (const member of members.slice(0, MOST_WRITTEN_TO)) {
      const person = this.people.byKey(member);
      // Something is shared all the same when too much was written: it is on their shelf.
      if (!person || (await this.waitBeforeWriting(by, person.id)) > 0) continue;
      await this.post.tellShared(what, by, person, role, message);
      isWritten = true;
    }
    if (isWritten) await this.written(what, whom);
  }

  /** Seconds until somebody may have another message about a share sent to somebody; 0 where they may now, which is counted. */
  private async waitBeforeWriting(by: Signed, to: string): Promise<number> {
    const wait = (refused: unknown): number => {
      if (refused instanceof Error) throw refused;
      return Math.ceil((refused as RateLimiterRes).msBeforeNext / 1000);
    };
    const one = await this.mailsToOne.consume(`${by.id} ${to}`).then(() => 0, wait);
    return one > 0 ? one : this.mails.consume(by.id).then(() => 0, wait);
  }

  private async checkMayWrite(by: Signed, to: string): Promise<void> {
    const wait = await this.waitBeforeWriting(by, to);
    if (wait > 0) throw new TooMany(wait);
  }

  private async invite(
    what: Sharable,
    by: Signed,
    email: string,
    message: string | undefined,
  ): Promise<void> {
    await this.checkMayWrite(by, email);
    const kind = what.document > 0 ? 'document' : 'collection';
    const word = `${by.name} shares the ${kind} “${what.name}” with you.`;
    await this.membership.invite(by, {
      email,
      guest: true,
      message: message ? `${word}\n\n${message}` : word,
    });
  }

  /** Remembers when whoever something is shared with was last written to. */
  private async written({ document: key, collection: id }: Sharable, whom: Whom): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.shares.update(
        { sent: Date.now() },
        { where: { document: key, collection: id, ...whom }, transaction },
      ),
    );
  }

  /** Whoever was invited has come: they have what was shared with their address. */
  private async joined(person: number, email: string, transaction: Transaction): Promise<void> {
    const { shares } = this.database.models;
    for (const row of await shares.findAll({ where: { email }, raw: true, transaction })) {
      await shares.update({ person, email: '' }, { where: { key: row.key }, transaction });
      const where = { document: row.document, collection: row.collection, person };
      await this.shares.note(where, 'joined', { person, groupKey: 0, email }, row, transaction);
    }
  }

  /** Where the documents of something stand now, at which a history may begin. */
  private async now(what: Sharable): Promise<Begun[]> {
    const begun: Begun[] = [];
    for (const key of await this.shares.documentsOf(what)) {
      const { seq } = await (await this.rooms.get(key)).storedHead();
      begun.push({ document: key, first: seq });
    }
    return begun;
  }
}

function isSame(one: Whom, other: Whom): boolean {
  return one.person === other.person && one.groupKey === other.groupKey && one.email === other.email;
}
