import type { Transaction } from 'sequelize';
import { QueryTypes } from 'sequelize';
import type { Database } from '../store/database.js';

/** A stretch of a document's log that is looked up as one: edits `chunk * CHUNK + 1` to `(chunk + 1) * CHUNK`. */
export const CHUNK = 1024;
/** Chunks a document may have: a row of the index is its document's key times this and the chunk. */
const ROOM = 2 ** 20;

/** A chunk of a document in which a word came about. */
export interface Found {
  readonly document: number;
  readonly chunk: number;
}

/**
 * Full-text index over words with their times: for each chunk of a log, the words that came about in it. SQLite's FTS5, or
 * PostgreSQL's own full text where that is the store; both see words as core cuts and folds them, never as they would.
 */
export class WordIndex {
  private readonly sqlite: boolean;

  constructor(private readonly database: Database) {
    this.sqlite = database.sequelize.getDialect() === 'sqlite';
  }

  /** Puts the words of a chunk in place of those it had. */
  async put(
    document: number,
    chunk: number,
    words: Iterable<string>,
    transaction: Transaction,
  ): Promise<void> {
    const { sequelize } = this.database;
    if (this.sqlite) {
      const replacements = { row: document * ROOM + chunk, words: [...words].map(spelled).join(' ') };
      await sequelize.query('DELETE FROM words WHERE rowid = :row', { replacements, transaction });
      await sequelize.query('INSERT INTO words(rowid, begun) VALUES (:row, :words)', {
        replacements,
        transaction,
      });
      return;
    }
    await sequelize.query(
      `INSERT INTO words(document, chunk, words) VALUES ($1, $2, array_to_tsvector($3::text[]))
       ON CONFLICT (document, chunk) DO UPDATE SET words = excluded.words`,
      { bind: [document, chunk, [...words]], transaction },
    );
  }

  /** The chunks in which a folded word came about, in one document or in all of some. */
  async find(word: string, documents: readonly number[]): Promise<Found[]> {
    if (documents.length === 0) return [];
    if (!this.sqlite) {
      const rows = await this.database.sequelize.query<Found>(
        'SELECT document, chunk FROM words WHERE words @@ $1::tsquery AND document = ANY($2)',
        { bind: [`'${word.replace(/['\\\\]/g, '$&$&')}'`, documents], type: QueryTypes.SELECT },
      );
      return rows;
    }
    const one = documents.length === 1 ? (documents[0] as number) : null;
    const rows = await this.database.rows<{ rowid: number }>(
      `SELECT rowid FROM words WHERE words MATCH :match${one === null ? '' : ' AND rowid BETWEEN :low AND :high'}`,
      { match: `"${spelled(word)}"`, low: (one ?? 0) * ROOM, high: (one ?? 0) * ROOM + ROOM - 1 },
    );
    const wanted = new Set(documents);
    return rows
      .map(({ rowid }) => ({ document: Math.floor(rowid / ROOM), chunk: rowid % ROOM }))
      .filter(({ document }) => wanted.has(document));
  }
}

/** A word with every sign that FTS5 would cut at, or take for a quote, as a private one. */
function spelled(word: string): string {
  return word.replace(/[^a-z0-9\u0080-\uffff]/g, (sign) => String.fromCharCode(0xe000 + sign.charCodeAt(0)));
}
