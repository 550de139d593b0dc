import { setTimeout as pause } from 'node:timers/promises';
import { QueryTypes } from 'sequelize';
import type { Database } from '../store/database.js';

/** How often readers that hold the log of writes are waited for, and how long each time, in milliseconds. */
const [TRIES, WAIT] = [200, 50];

/**
 * Sees to it that what was overwritten or deleted is in no file of the database. SQLite overwrites what it frees (`secure_delete`), but
 * not what stood where a row was before a page was split, and its index of words keeps words of rows that are gone until it is merged: so
 * the index is merged, every page written anew, and the log of writes emptied. PostgreSQL has to write its tables anew, and its own
 * archives it cannot reach. Other writes wait until everything is written.
 */
export async function sweep(database: Database): Promise<void> {
  const { sequelize, writes } = database;
  if (keepsArchives(database)) {
    await writes.between(async () => void (await sequelize.query('VACUUM FULL')));
    return;
  }
  await writes.between(async () => {
    await sequelize.query(`INSERT INTO words(words) VALUES('optimize')`);
    await sequelize.query('VACUUM');
  });
  for (let tries = 0; tries < TRIES; tries++) {
    const [row] = await sequelize.query<{ busy: number }>('PRAGMA wal_checkpoint(TRUNCATE)', {
      type: QueryTypes.SELECT,
    });
    if (row?.busy === 0) return;
    await pause(WAIT);
  }
  throw new Error('The log of writes could not be emptied, since somebody reads it all the time');
}

/** Whether a database keeps a log of its writes that this server cannot empty, and perhaps copies of it elsewhere. */
export function keepsArchives({ sequelize }: Database): boolean {
  return sequelize.getDialect() !== 'sqlite';
}
