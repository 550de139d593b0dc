import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { HistoryReach, Role } from '@oxbow/contract';
import { may, mayWithCollection } from './policy.js';
import type { Action, CollectionAction } from './policy.js';

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

describe('docs/access.md', () => {
  const roles: Role[] = ['owner', 'editor', 'commenter', 'viewer'];

  it('says of each role what the policy says', () => {
    const rows = tableUnder('Roles');
    expect(rows.length).toBe(11);
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
});
