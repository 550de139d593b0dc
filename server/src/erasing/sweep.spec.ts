import { mkdtemp, readFile, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { WordIndex } from '../past/words.js';
import { openDatabase } from '../store/database.js';
import type { Database } from '../store/database.js';
import { sweep } from './sweep.js';

describe('sweeping files', () => {
  let folder: string;
  let database: Database;

  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'oxbow-sweep-'));
    database = await openDatabase({ folder });
  });
  afterEach(async () => {
    await database.close();
    await rm(folder, { recursive: true });
  });

  async function isLeft(text: string): Promise<boolean> {
    const files = await Promise.all((await readdir(folder)).map((name) => readFile(join(folder, name))));
    return files.some((file) => file.includes(text));
  }
  const emptied = (): Promise<unknown> => database.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');

  it('leaves nothing of rows that stood elsewhere before their pages were split', async () => {
    const { sequelize } = database;
    await sequelize.query('CREATE TABLE said (text TEXT PRIMARY KEY) WITHOUT ROWID');
    await database.writes.add(async (transaction) => {
      // In no order, since 7 is prime to 601, and of different lengths, so that rows move from page to page.
      for (let i = 0; i < 601; i++) {
        const said = i % 3 === 0 ? 'tide-mark' : 'anything';
        const replacements = { text: `${(i * 7) % 601} ${said} ${'.'.repeat((i * 37) % 200)}` };
        await sequelize.query('INSERT INTO said VALUES (:text)', { replacements, transaction });
      }
    });
    await sequelize.query("DELETE FROM said WHERE text LIKE '%tide-mark%'");
    await emptied();
    expect(await isLeft('tide-mark')).toBeTrue();
    await sweep(database);
    expect(await isLeft('tide-mark')).toBeFalse();
    expect(await database.rows('SELECT COUNT(*) AS count FROM said', {})).toEqual([{ count: 400 }]);
  });

  it('leaves no word of what the index let go of', async () => {
    const index = new WordIndex(database);
    await database.writes.add(async (transaction) => {
      for (let document = 1; document < 30; document++)
        await index.put(document, 0, document === 5 ? ['tidemark', 'kept'] : ['kept'], transaction);
    });
    await database.writes.add((transaction) => index.forget(5, transaction));
    await emptied();
    expect(await isLeft('tidemark')).toBeTrue();
    await sweep(database);
    expect(await isLeft('tidemark')).toBeFalse();
    expect(await index.find('kept', 6)).toEqual([0]);
    expect(await index.find('kept', 5)).toEqual([]);
  });
});
