import type { Transaction } from 'sequelize';
import type { Database } from '../store/database.js';

/** How long somebody who owned a document still counts as its owner where a second one has to agree, in milliseconds. */
const STILL_COUNTS = 30 * 24 * 3600_000;

/**
 * Who owns each document, and who did until lately: whoever is removed as an owner still has to agree for a time, so that agreement cannot be
 * had by removing them first. However they own it: by name, through a group, or through the document's collection.
 */
export class Ownership {
  constructor(private readonly database: Database) {}

  /** Notes who owns some documents now, as part of a transaction. To be called whenever that may have changed. */
  async record(documents: readonly number[], transaction: Transaction, now = Date.now()): Promise<void> {
    if (documents.length === 0) return;
    const replacements = { documents: [...documents], now };
    await this.database.sequelize.query(
      `INSERT INTO ownership (document, person, ended) SELECT document, person, 0 FROM holdings
       WHERE role = 'owner' AND document IN (:documents) ON CONFLICT (document, person) DO UPDATE SET ended = 0`,
      { replacements, transaction },
    );
    await this.database.sequelize.query(
      `UPDATE ownership SET ended = :now WHERE ended = 0 AND document IN (:documents) AND NOT EXISTS
         (SELECT 1 FROM holdings WHERE holdings.document = ownership.document
            AND holdings.person = ownership.person AND role = 'owner')`,
      { replacements, transaction },
    );
  }

  /** Everybody who owns a document or did until lately, as part of a transaction. */
  async lately(document: number, transaction: Transaction, now = Date.now()): Promise<number[]> {
    await this.record([document], transaction, now);
    const rows = await this.database.models.ownership.findAll({
      where: { document },
      raw: true,
      transaction,
    });
    return rows
      .filter(({ ended }) => Number(ended) === 0 || Number(ended) > now - STILL_COUNTS)
      .map(({ person }) => person);
  }
}
