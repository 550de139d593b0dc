import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { HistoryReach, Role } from '@oxbow/contract';
import { may, mayWithCollection } from './policy.js';
import type { Action, CollectionAction } from './policy.js';
import type { Whom } from './shares.js';
import { TestServer } from '../testing/server.js';

/** The rows of a table under a heading, by column. */
function tableUnder(heading: string, nth = 0): Record<string, string>[] {
  const text = readFileSync(join(import.meta.dirname, '../../../docs/access.md'), 'utf8');
  const [, after = ''] = text.split(`\n## ${heading}\n`);
  const lines = after.split('\n');
  const starts = lines.flatMap((line, i) =>
    line.startsWith('|') && !lines[i - 1]?.startsWith('|') ? [i] : [],
  );
  const start = starts[nth] ?? lines.length;
  const cells = (line: string): string[] =>
    line
      .slice(1, -1)
      .split('|')
      .map((cell) => cell.trim());
  const names = cells(lines[start] ?? '');
  const rows: Record<string, string>[] = [];
  for (let i = start + 2; lines[i]?.startsWith('|'); i++)
    rows.push(Object.fromEntries(cells(lines[i] ?? '').map((cell, column) => [names[column] ?? '', cell])));
  return rows;
}

/** With whom something is shared, by what the table calls it. */
const WITH: Readonly<Record<string, (crew: number, person: number) => Whom>> = {
  'a person by name': (_crew, person) => ({ person, groupKey: 0, email: '' }),
  'a group': (crew) => ({ person: 0, groupKey: crew, email: '' }),
  'everybody here': () => ({ person: 0, groupKey: 0, email: '' }),
};

describe('docs/access.md', () => {
  const roles: Role[] = ['owner', 'editor', 'commenter', 'viewer'];

  it('says of each role what the policy says', () => {
    const rows = tableUnder('Roles');
    expect(rows.length).toBe(13);
    for (const row of rows)
      for (const role of roles)
        expect(may({ role, history: 'all' }, row['action'] as Action))
          .withContext(`${role}, ${row['action']}`)
          .toBe(row[role] === 'yes');
  });

  it('says of each role what it may do with a collection', () => {
    const rows = tableUnder('Through what', 1);
    expect(rows.map((row) => row['action'])).toEqual(['see', 'fill', 'manage']);
    for (const row of rows)
      for (const role of roles)
        expect(mayWithCollection(role, row['action'] as CollectionAction))
          .withContext(`${role}, ${row['action']}`)
          .toBe(row[role] === 'yes');
  });

  it('says what each reach into the history leaves out', () => {
    const actions = tableUnder('Roles').map((row) => row['action'] as Action);
    const rows = tableUnder('History');
    expect(rows.map((row) => row['history'])).toEqual(['all', 'since', 'none']);
    for (const row of rows) {
      const out = (row['actions it leaves out'] ?? '').split(', ').filter(Boolean);
      for (const action of actions)
        for (const role of roles)
          expect(may({ role, history: row['history'] as HistoryReach }, action))
            .withContext(`${role}, ${action}, ${row['history']}`)
            .toBe(may({ role, history: 'all' }, action) && !out.includes(action));
    }
  });

  it('says which of two shares that reach somebody is the nearer', async () => {
    const rows = tableUnder('Through what');
    expect(rows.map((row) => row['nearest first'])).toEqual(['1', '2', '3', '4', '5', '6']);
    const server = await TestServer.start();
    try {
      const { app, people } = server;
      await app.groups.create({ name: 'Crew', people: ['tobias'] });
      const crew = (await app.database.models.groups.findOne({ raw: true }))?.key ?? 0;
      const board = await app.collections.create(people.ines, 'Board');
      for (const [i, nearer] of rows.entries())
        for (const farther of rows.slice(i + 1)) {
          const view = await app.documents.create(people.ines, 'Guide', board.id);
          const share = async (row: Record<string, string>, role: Role): Promise<void> => {
            const isOwn = row['the share is of'] === 'the document';
            const what = { document: isOwn ? view.key : 0, collection: isOwn ? '' : board.id };
            const whom = WITH[row['with'] ?? '']?.(crew, people.tobias.key);
            if (!whom) throw new Error(`Nobody is called ${row['with']}`);
            await app.shares.set({ ...what, person: people.ines.key }, whom, { role }, []);
          };
          await share(farther, 'editor');
          await share(nearer, 'viewer');
          const standing = await app.people.standings.read(view.id, people.tobias.key);
          expect(standing?.role)
            .withContext(`${nearer['nearest first']} and ${farther['nearest first']}`)
            .toBe('viewer');
          for (const row of await app.shares.rows({ document: 0, collection: board.id }))
            if (row.role !== 'owner')
              await app.shares.end({ document: 0, collection: board.id, person: people.ines.key }, row);
        }
    } finally {
      await server.stop();
    }
  });

  it('says what a reading link answers, held, asking for a password, over, and none', async () => {
    const rows = tableUnder('Reading links');
    const said = (link: string): string =>
      rows.find((row) => row['the link']?.startsWith(link))?.['shows'] ?? '';
    const server = await TestServer.start();
    try {
      const ines = await server.as('ines');
      const { id } = (await ines.post('/api/documents', { title: 'Guide', kind: 'text' })).body;
      const status = async (link: { address: string }): Promise<number> =>
        (await fetch(`http://127.0.0.1:${server.port}${new URL(link.address).pathname}`)).status;
      const open = (await ines.post(`/api/documents/${id}/links`, { shows: 'now' })).body;
      expect([await status(open), said('of what is there now')]).toEqual([200, 'the document as it is now']);
      const kept = (
        await ines.post(`/api/documents/${id}/links`, { shows: 'now', password: 'reed and sluice' })
      ).body;
      expect([await status(kept), said('with a password').startsWith('a field for it')]).toEqual([401, true]);
      expect(said('ended')).toContain(`(${await status(open)})`);
      await ines.call('DELETE', `/api/documents/${id}`);
      expect(said('ended')).toContain(`(${await status(kept)})`);
      expect(said('that never was')).toContain(
        `(${await status({ address: `http://x/read/${'x'.repeat(32)}` })})`,
      );
    } finally {
      await server.stop();
    }
  });
});
