import type { CheckOut, Version } from '@oxbow/contract';
import type { Transaction } from 'sequelize';
import { stillGranted } from '../access/granted.js';
import type { People, Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import type { Rooms } from '../ordering/rooms.js';
import type { ToldVersions } from '../versions/told-versions.js';
import type { Versions } from '../versions/versions.js';
import type { Database } from '../store/database.js';
import type { View } from '../access/view.js';
import type { Stored } from '../store/models.js';

/** A check-out that nobody has. */
const NOBODY = { person: null, since: 0, seq: 0 };

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
    const { seq } = await (await this.rooms.get(document.key)).storedHead();
    await stillGranted(this.people, document, 'read');
    const taken = { person: person.key, since: Date.now(), seq };
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
    const { seq } = await (await this.rooms.get(document.key)).storedHead();
    const held = await this.versions.at(document.key, seq);
    await stillGranted(this.people, document, 'write');
    const giveBack = async (transaction: Transaction): Promise<void> => {
      const where = { document: document.key, person: person.key };
      const [count] = await this.database.models.checkOuts.update(NOBODY, { where, transaction });
      if (count === 0)
        throw new Trouble(409, 'Your check-out was ended meanwhile', 'Nothing was checked in.');
    };
    const how = { cause: 'checkIn', at: Date.now(), comment, major, by: person.key } as const;
    const isChanged = seq > row.seq && !held;
    const version = isChanged ? await this.versions.cut(document.key, seq, how, giveBack) : null;
    if (!isChanged) await this.database.writes.add(giveBack);
    this.people.standings.stale();
    return version && this.told.told(document, version);
  }

  /** Ends the check-out of somebody: they give it up, or an owner ends it. Throws 409 where it is not theirs any more. */
  async end(document: View, holder: Signed): Promise<void> {
    if (!(await this.change(document, holder.key, NOBODY)))
      throw new Trouble(409, `${holder.name} does not have it checked out any more`);
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
