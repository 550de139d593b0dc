import type { Role, Share } from '@oxbow/contract';
import type { Transaction } from 'sequelize';
import type { Database } from '../store/database.js';
import type { StoredDocument } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { People, Signed } from './people.js';

/** Who may do what with a document. A document always has an owner. */
export class Shares {
  constructor(
    private readonly database: Database,
    private readonly people: People,
  ) {}

  async list(document: StoredDocument): Promise<Share[]> {
    const rows = await this.database.models.shares.findAll({ where: { document: document.key }, raw: true });
    return rows.map((row) => ({ person: this.people.id(row.person), role: row.role as Role }));
  }

  /** Shares a document, or changes the role somebody has in it. Throws 409 when nobody would own it any more. */
  async set(document: StoredDocument, person: Signed, role: Role): Promise<void> {
    await this.database.writes.add(async (transaction) => {
      if (role !== 'owner') await this.keepOwner(document, person, transaction);
      await this.database.models.shares.upsert(
        { document: document.key, person: person.key, role },
        { transaction },
      );
    });
    this.people.standings.changed();
  }

  /** Ends a share. Throws 409 when nobody would own the document any more. */
  async end(document: StoredDocument, person: Signed): Promise<void> {
    await this.database.writes.add(async (transaction) => {
      await this.keepOwner(document, person, transaction);
      const where = { document: document.key, person: person.key };
      await this.database.models.shares.destroy({ where, transaction });
    });
    this.people.standings.changed();
  }

  /** Asked within the transaction that changes it, so that two owners cannot take each other out at once. */
  private async keepOwner(document: StoredDocument, person: Signed, transaction: Transaction): Promise<void> {
    const where = { document: document.key, role: 'owner' };
    const owners = await this.database.models.shares.findAll({ where, raw: true, transaction });
    if (owners.length === 1 && owners[0]?.person === person.key)
      throw new Trouble(409, 'A document needs an owner', 'Make somebody else an owner first.');
  }
}
