import type { CheckOut, Version } from '@oxbow/contract';
import type { People, Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import type { Rooms } from '../ordering/rooms.js';
import type { ToldVersions } from '../versions/told-versions.js';
import type { Versions } from '../versions/versions.js';
import type { Database } from '../store/database.js';
import type { View } from '../access/view.js';
import type { Stored } from '../store/models.js';

/**
 * Documents that are written in by one person at a time: whoever has one checked out. Terms are those of OASIS CMIS 1.1,
 * section 2.1.13 (checkOut, cancelCheckOut, checkIn with a comment, major or minor); the private working copy is the
 * holder's draft on their device.
 */
export class CheckOuts {
  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
    private readonly versions: Versions,
    private readonly told: ToldVersions,
    private readonly people: People,
  ) {}

  /** How it stands with a document; null where none is asked for. */
  async of(document: View): Promise<CheckOut | null> {
    const row = await this.row(document);
    if (!row) return null;
    return row.person === null
      ? { by: null, since: null }
      : {
          by: this.people.id(row.person),
          since: new Date(Math.max(Number(row.since), document.since ?? 0)).toISOString(),
        };
  }

  /** Asks for check-out from now on, or no longer; that ends one under way. */
  async ask(document: Pick<View, 'key'>, asked: boolean): Promise<void> {
    const { checkOuts } = this.database.models;
    const none = { document: document.key, person: null, since: 0, seq: 0 };
    await this.database.writes.add(async (transaction) => {
      if (asked) await checkOuts.bulkCreate([none], { ignoreDuplicates: true, transaction });
      else await checkOuts.destroy({ where: { document: document.key }, transaction });
    });
    this.people.standings.stale();
  }

  /** Checks a document out. Throws 409 where somebody has it, or none is asked for. */
  async out(document: View, person: Signed): Promise<void> {
    const room = await this.rooms.get(document.key);
    await room.settled();
    const taken = { person: person.key, since: Date.now(), seq: room.head.seq };
    if (await this.change(document, null, taken)) return;
    const row = await this.row(document);
    if (row?.person === person.key) return;
    const holder = row?.person ? this.people.id(row.person) : null;
    throw holder
      ? new Trouble(409, `${this.people.byId(holder)?.name ?? holder} has it checked out`)
      : new Trouble(409, 'This document is not checked out to be written in');
  }

  /** Checks it in: what was changed since it was checked out becomes a version; an unchanged document is simply given back. */
  async in(
    document: View,
    person: Signed,
    { comment, major }: { comment?: string; major?: boolean },
  ): Promise<Version | null> {
    const row = await this.row(document);
    if (row?.person !== person.key) throw new Trouble(409, 'You do not have this document checked out');
    const room = await this.rooms.get(document.key);
    await room.settled();
    const { seq } = room.head;
    const held = await this.versions.at(document.key, seq);
    const how = { cause: 'checkIn', at: Date.now(), comment, major, by: person.key } as const;
    const version = seq > row.seq && !held ? await this.versions.cut(document.key, seq, how) : null;
    await this.change(document, person.key, { person: null, since: 0, seq: 0 });
    return version && this.told.told(document, version);
  }

  /** Ends a check-out: whoever has it gives it up, or an owner ends it. */
  async end(document: View): Promise<void> {
    const row = await this.row(document);
    if (row?.person) await this.change(document, row.person, { person: null, since: 0, seq: 0 });
  }

  /** Changes who has it, if it is still had by whom it was. */
  private async change(
    document: View,
    from: number | null,
    to: { person: number | null; since: number; seq: number },
  ): Promise<boolean> {
    const where = { document: document.key, person: from };
    const [count] = await this.database.writes.add((transaction) =>
      this.database.models.checkOuts.update(to, { where, transaction }),
    );
    this.people.standings.stale();
    return count > 0;
  }

  private row(document: View): Promise<Stored<'checkOuts'> | null> {
    return this.database.models.checkOuts.findByPk(document.key, { raw: true });
  }
}
