import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { QueryTypes, Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';
import { SequelizeStorage, Umzug } from 'umzug';
import { durableConnections } from './connection.js';
import { Epochs } from './epochs.js';
import { migrations } from './migrations.js';
import { defineModels } from './models.js';
import type { Models } from './models.js';
import { WriteQueue } from './writes.js';

/** The database of one server process: models to read with, and the one queue to write through. */
export interface Database {
  readonly sequelize: Sequelize;
  readonly models: Models;
  readonly writes: WriteQueue;
  /** Which of what was derived from documents still holds. */
  readonly epochs: Epochs;
  /** Runs one statement that changes data, durable when it resolves. `?` stands for each value in turn. Only for `writes`. */
  run(sql: string, values: readonly unknown[]): Promise<void>;
  /** Rows of a plain query, for the paths where the models' own cost for each row and column is felt. */
  rows<T extends object>(sql: string, values: Values): Promise<T[]>;
  close(): Promise<void>;
}

/** What stands for the names in a plain query; a list stands for its items. */
export type Values = Record<string, number | string | readonly (number | string)[]>;

/** Where to keep data: a folder for SQLite, or a PostgreSQL address. */
export interface DatabaseOptions {
  readonly folder: string;
  readonly url?: string;
}

/**
 * Brings the tables up to date, all in one transaction: killed on the way, the data is as it was before. `sequelize` has one connection, so
 * that all that migrations do is within it; `isOwn` says that it is for this alone.
 */
async function migrate(sequelize: Sequelize, isOwn: boolean): Promise<void> {
  const umzug = new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  try {
    if ((await umzug.pending()).length === 0) return;
    await sequelize.query(isOwn ? 'BEGIN' : 'BEGIN IMMEDIATE');
    try {
      await umzug.up();
      await sequelize.query('COMMIT');
    } catch (error) {
      await sequelize.query('ROLLBACK');
      throw error;
    }
  } finally {
    if (isOwn) await sequelize.close();
  }
}

/** Opens the database, bringing its tables up to date first. */
export async function openDatabase({ folder, url }: DatabaseOptions): Promise<Database> {
  mkdirSync(folder, { recursive: true });
  // SQLite's own passing files hold documents' text too.
  process.env['SQLITE_TMPDIR'] ??= folder;
  const connections = durableConnections();
  const storage = join(folder, 'oxbow.sqlite');
  const sequelize = url
    ? new Sequelize(url, { logging: false })
    : new Sequelize({
        dialect: 'sqlite',
        storage,
        dialectModule: { ...sqlite3, Database: connections.Database },
        logging: false,
      });
  await migrate(
    url ? new Sequelize(url, { logging: false, pool: { max: 1 } }) : sequelize,
    url !== undefined,
  );
  const writes = new WriteQueue(sequelize);
  return {
    sequelize,
    models: defineModels(sequelize),
    writes,
    epochs: new Epochs(),
    rows: <T extends object>(sql: string, values: Values) =>
      sequelize.query<T>(sql, { type: QueryTypes.SELECT, replacements: values }),
    async run(sql, values) {
      if (!url) return connections.run(storage, sql, values);
      let i = 0;
      await sequelize.query(
        sql.replace(/\?/g, () => `$${++i}`),
        { bind: [...values] },
      );
    },
    async close() {
      await writes.idle();
      await sequelize.close();
      await connections.end();
    },
  };
}
