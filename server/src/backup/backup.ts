import { cp, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { createApp } from '../app.js';
import { openDatabase } from '../store/database.js';
import { Trouble } from '../trouble/trouble.js';
import { JOURNAL } from '../erasing/journal.js';
import { revoke } from './revoking.js';

const DATABASE = 'oxbow.sqlite';
const MAIL = 'mail';
/** What stands behind a folder's name while a backup is being put in its place, and when it only has to be renamed. */
const [MAKING, READY] = ['-restoring', '-restored'];

/**
 * Copies the data of a folder to another, which must be new or empty, also while its server runs: the database as it is at one moment
 * (SQLite's VACUUM INTO), messages, and the journal of erasures. Throws `Trouble`.
 */
export async function backUp(folder: string, to: string): Promise<void> {
  if (!(await isThere(join(folder, DATABASE)))) throw new Trouble(404, `There is no data in ${folder}`);
  await mkdir(to, { recursive: true });
  if ((await readdir(to)).length > 0)
    throw new Trouble(409, `${to} is not empty`, 'A backup goes into a folder of its own.');
  await intoFile(join(folder, DATABASE), join(to, DATABASE));
  if (await isThere(join(folder, MAIL))) await cp(join(folder, MAIL), join(to, MAIL), { recursive: true });
  if (await isThere(join(folder, JOURNAL))) await cp(join(folder, JOURNAL), join(to, JOURNAL));
}

/**
 * Puts a backup back in place of the data of a folder, which is set aside, and does again what was erased since, before anybody is let in.
 * What ended since stays ended: see `revoke`. All of it is made ready beside the folder, and put in its place in the end; stopped on the
 * way, the data is as it was, or the next start finishes it (`finishRestore`). Returns where what was there lies. Throws `Trouble`, also
 * where the server seems to run.
 */
export async function restore(
  from: string,
  folder: string,
): Promise<{ aside: string | null; again: number; revoked: boolean }> {
  if (!(await isThere(join(from, DATABASE)))) throw new Trouble(404, `There is no backup in ${from}`);
  if (await isThere(join(folder, `${DATABASE}-shm`)))
    throw new Trouble(409, 'The server seems to run', 'Stop it first; after a fall, start and stop it once.');
  await finishRestore(folder);
  const journal = await joined([from, folder]);
  const made = `${folder}${MAKING}`;
  await rm(made, { recursive: true, force: true });
  await mkdir(made, { recursive: true });
  await cp(join(from, DATABASE), join(made, DATABASE));
  if (await isThere(join(from, MAIL))) await cp(join(from, MAIL), join(made, MAIL), { recursive: true });
  if (journal) await writeFile(join(made, JOURNAL), journal, { flush: true });
  const isPresent = await isThere(join(folder, DATABASE));
  for (const one of isPresent ? [made, folder] : [made]) await (await openDatabase({ folder: one })).close();
  const revoked = await revoke(join(made, DATABASE), isPresent ? join(folder, DATABASE) : null);
  const app = await createApp({ folder: made, clock: false });
  const open = await app.database.models.erasures.count({ where: { state: 'running' } });
  await app.close();
  if (open > 0)
    throw new Error(`${open} erasures could not be done again; nothing was put in place of the data`);
  const ready = `${folder}${READY}`;
  await rename(made, ready);
  const aside = (await isThere(folder)) ? `${folder}-before-${Date.now()}` : null;
  if (aside) await rename(folder, aside);
  await finishRestore(folder);
  return { aside, again: journal ? journal.split('\n').length - 1 : 0, revoked };
}

/** Puts data that was made ready in its place, where putting a backup back was stopped between the two. To be called before data is opened. */
export async function finishRestore(folder: string): Promise<void> {
  const ready = `${folder}${READY}`;
  if (!(await isThere(ready))) return;
  if (await isThere(folder)) await rm(ready, { recursive: true, force: true });
  else await rename(ready, folder);
}

/** The lines of the journals of some folders, each once. */
async function joined(folders: readonly string[]): Promise<string> {
  const lines = new Set<string>();
  for (const folder of folders) {
    const path = join(folder, JOURNAL);
    if (!(await isThere(path))) continue;
    for (const line of (await readFile(path, 'utf8')).split('\n')) if (line !== '') lines.add(line);
  }
  return [...lines].map((line) => `${line}\n`).join('');
}

/** Copies a database that may be in use as it is at one moment. */
async function intoFile(file: string, to: string): Promise<void> {
  const database = await new Promise<sqlite3.Database>((resolve, reject) => {
    const opened: sqlite3.Database = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) =>
      error ? reject(error) : resolve(opened),
    );
  });
  try {
    await new Promise<void>((resolve, reject) =>
      database.run('VACUUM INTO ?', [to], (error: Error | null) => (error ? reject(error) : resolve())),
    );
  } finally {
    await new Promise<void>((resolve) => database.close(() => resolve()));
  }
}

function isThere(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    (error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return false;
      throw error;
    },
  );
}
