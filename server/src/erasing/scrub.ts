import { setTimeout as pause } from 'node:timers/promises';
import { QueryTypes } from 'sequelize';
import type { Database } from '../store/database.js';

/** How often readers that hold the log of writes are waited for, and how long each time, in milliseconds. */
const [TRIES, WAIT] = [200, 50];

/**
 * Sees to it that what was overwritten or deleted is in no file of the database. SQLite overwrites what it frees (`secure_delete`), so only
 * its log of writes has to be emptied; PostgreSQL has to write its tables anew, and its own archives it cannot reach.
 */
export async function scrub(database: Database): Promise<void> {
  const { sequelize, writes } = database;
  if (keepsArchives(database)) {
    await sequelize.query('VACUUM FULL');
    return;
  }
  await writes.idle();
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
