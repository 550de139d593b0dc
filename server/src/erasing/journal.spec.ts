import { appendFile, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Entry } from './journal.js';
import { JOURNAL, Journal } from './journal.js';

describe('the journal of erasures', () => {
  let folder: string;
  const entry = (id: string): Entry => ({
    id,
    kind: 'erasure',
    reason: 'Not ours',
    by: 'ines',
    agreed: '',
    document: 'guide',
    at: 1,
    sets: {},
    words: [],
    messages: [],
    images: [],
  });

  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'oxbow-'));
  });
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('keeps every entry that was whole, wherever a full disk or a fall cut one short', async () => {
    const text = `${JSON.stringify(entry('cut'))}\n`;
    for (let length = 1; length < text.length - 1; length += 7) {
      await rm(join(folder, JOURNAL), { force: true });
      const journal = new Journal(folder);
      await journal.note(entry('before'));
      await appendFile(join(folder, JOURNAL), text.slice(0, length));
      expect((await journal.read()).map(({ id }) => id)).toEqual(['before']);
      await journal.note(entry('after'));
      expect((await journal.read()).map(({ id }) => id)).toEqual(['before', 'after']);
    }
    expect((await readFile(join(folder, JOURNAL), 'utf8')).endsWith('\n')).toBeTrue();
  });
});
