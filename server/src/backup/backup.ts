import { cp, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { createApp } from '../app.js';
import { Trouble } from '../trouble/trouble.js';
import { JOURNAL } from '../erasing/journal.js';

const DATABASE = 'oxbow.sqlite';
const MAIL = 'mail';
/** What the database keeps beside its file while it is in use. */
const BESIDE = ['-wal', '-shm'];

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
 * Answers where what was there lies. Throws `Trouble`, also where the server seems to run.
 */
export async function restore(
  from: string,
  folder: string,
): Promise<{ aside: string | null; again: number }> {
  if (!(await isThere(join(from, DATABASE)))) throw new Trouble(404, `There is no backup in ${from}`);
  if (await isThere(join(folder, `${DATABASE}-shm`)))
    throw new Trouble(409, 'The server seems to run', 'Stop it first; after a fall, start and stop it once.');
  const journal = await joined([from, folder]);
  const aside = (await isThere(folder)) ? `${folder}-before-${Date.now()}` : null;
  if (aside) await rename(folder, aside);
  await mkdir(folder, { recursive: true });
  for (const suffix of BESIDE) await rm(join(folder, DATABASE + suffix), { force: true });
  await cp(join(from, DATABASE), join(folder, DATABASE));
  if (await isThere(join(from, MAIL))) await cp(join(from, MAIL), join(folder, MAIL), { recursive: true });
  if (journal) await writeFile(join(folder, JOURNAL), journal, { flush: true });
  const app = await createApp({ folder, clock: false });
  const open = await app.database.models.erasures.count({ where: { state: 'running' } });
  await app.close();
  if (open > 0)
    throw new Error(`${open} erasures could not be done again; the server tries once more when it starts`);
  return { aside, again: journal ? journal.split('\n').length - 1 : 0 };
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
