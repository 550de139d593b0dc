import type { Transaction } from 'sequelize';
import type { Database } from '../store/database.js';

/** A stretch of a document's log that is looked up as one: edits `chunk * CHUNK + 1` to `(chunk + 1) * CHUNK`. */
export const CHUNK = 1024;
/** Chunks a document may have: a row of the index is its document's key times this and the chunk. */
const ROOM = 2 ** 20;

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

  /** Lets go of the words of a document, from a chunk on. */
  async forget(document: number, transaction: Transaction, from = 0): Promise<void> {
    await this.database.sequelize.query(
      this.sqlite
        ? 'DELETE FROM words WHERE rowid BETWEEN :low AND :high'
        : 'DELETE FROM words WHERE document = :document AND chunk >= :from',
      {
        replacements: { document, from, low: document * ROOM + from, high: document * ROOM + ROOM - 1 },
        transaction,
      },
    );
  }

  /** The chunks of a document in which a folded word came about. */
  async find(word: string, document: number): Promise<number[]> {
    const rows = await this.database.rows<{ chunk: number }>(
      this.sqlite
        ? 'SELECT rowid - :low AS chunk FROM words WHERE words MATCH :word AND rowid BETWEEN :low AND :high'
        : 'SELECT chunk FROM words WHERE words @@ (:word)::tsquery AND document = :document',
      { word: this.asked(word), document, low: document * ROOM, high: document * ROOM + ROOM - 1 },
    );
    return rows.map(({ chunk }) => chunk);
  }

  /** A query for the documents in which a folded word came about, with the word under a name. */
  holding(word: string, name: string): { sql: string; values: Record<string, string> } {
    const sql = this.sqlite
      ? `SELECT rowid / ${ROOM} FROM words WHERE words MATCH :${name}`
      : `SELECT document FROM words WHERE words @@ (:${name})::tsquery`;
    return { sql, values: { [name]: this.asked(word) } };
  }

  private asked(word: string): string {
    return this.sqlite ? `"${spelled(word)}"` : `'${word.replace(/['\\\\]/g, '$&$&')}'`;
  }
}

/** A word with every sign that FTS5 would cut at, or take for a quote, as a private one. */
function spelled(word: string): string {
  return word.replace(/[^a-z0-9\u0080-\uffff]/g, (sign) => String.fromCharCode(0xe000 + sign.charCodeAt(0)));
}
