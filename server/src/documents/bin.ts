import type { BinnedDocument } from '@oxbow/contract';
import type { Transaction } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import { time } from '../access/shares.js';
import type { Shared, Shares } from '../access/shares.js';
import type { View } from '../access/view.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Deletion } from './deletion.js';

const DAY = 24 * 3600_000;
const NOBODY = { person: 0, groupKey: 0, email: '' };

/**
 * The bin: a document in it is nobody's to see, and is found there by its owners, who put it back or delete it for good. After a time it is
 * deleted by itself.
 */
export class Bin {
  /** `days` answers after how many days a document is deleted. */
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly shares: Shares,
    private readonly deletion: Deletion,
    private readonly second: {
      needed(document: number, person: number, transaction: Transaction): Promise<number[]>;
    },
    private readonly days: () => Promise<number>,
  ) {}

  async put(view: View): Promise<void> {
    const having = await this.people.standings.having(view.key);
    await this.mark(view.key, view.person, Date.now(), 'binned');
    await this.people.standings.changed({ documents: [view.key], people: having, collections: false });
  }

  /** The documents in the bin that somebody owns, those last put there first. */
  async list(person: Signed): Promise<BinnedDocument[]> {
    const rows = await this.owned(person);
    const days = await this.days();
    return Promise.all(
      rows.map(async ({ key, id, title, binned }): Promise<BinnedDocument> => {
        const having = await this.database.rows<{ person: number }>(
          'SELECT person FROM holdings WHERE document = :key AND person <> :person',
          { key, person: person.key },
        );
        const goes = { at: time(Number(binned) + days * DAY), people: having.length };
        return { id, title, binned: time(binned), goes };
      }),
    );
  }

  /** Puts a document back; whoever had it has it again. Throws 404. */
  async putBack(person: Signed, id: string): Promise<void> {
    const { key } = await this.found(person, id);
    await this.mark(key, person.key, 0, 'putBack');
    const people = await this.people.standings.having(key);
    await this.people.standings.changed({ documents: [key], people, collections: false });
  }

  /**
   * Deletes a document in the bin for good. Throws 404; and 409 where the organisation wants two owners for erasing and another owns it
   * too: then it goes by itself, and until then they can put it back.
   */
  async delete(person: Signed, id: string): Promise<void> {
    const { key } = await this.found(person, id);
    const others = await this.database.writes.add((transaction) =>
      this.second.needed(key, person.key, transaction),
    );
    if (others.length > 0)
      throw new Trouble(
        409,
        'Another owner has to have the time to put it back',
        'It is deleted by itself when its days in the bin are over.',
      );
    await this.deletion.doom(key);
    this.people.standings.stale();
    await this.deletion.of(key);
  }

  /** Deletes what was in the bin long enough by `now`, and what a process that ended was deleting. */
  async deleteDue(now: number): Promise<void> {
    const before = now - (await this.days()) * DAY;
    const rows = await this.database.rows<{ key: number }>(
      'SELECT key FROM documents WHERE binned > 0 AND binned <= :before',
      { before },
    );
    for (const { key } of rows) await this.deletion.doom(key);
    this.people.standings.stale();
    await this.deletion.finish();
  }

  private async owned(
    person: Signed,
  ): Promise<Pick<Stored<'documents'>, 'key' | 'id' | 'title' | 'binned'>[]> {
    return this.database.rows(
      `SELECT documents.key, documents.id, documents.title, documents.binned FROM holdings
       JOIN documents ON documents.key = holdings.document
       WHERE holdings.person = :person AND holdings.role = 'owner' AND documents.binned > 0
       ORDER BY documents.binned DESC`,
      { person: person.key },
    );
  }

  private async found(person: Signed, id: string): Promise<{ readonly key: number }> {
    const row = (await this.owned(person)).find((one) => one.id === id);
    if (!row) throw new Trouble(404, 'There is no such document in your bin');
    return row;
  }

  private async mark(
    document: number,
    person: number,
    binned: number,
    kind: 'binned' | 'putBack',
  ): Promise<void> {
    const shared: Shared = { document, collection: '', person };
    await this.database.writes.add(async (transaction) => {
      await this.database.models.documents.update({ binned }, { where: { key: document }, transaction });
      await this.shares.note(shared, kind, NOBODY, null, transaction);
    });
  }
}
