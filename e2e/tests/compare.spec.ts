import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { expect, test } from '@playwright/test';

const run = promisify(execFile);
const tool = join(dirname(dirname(dirname(fileURLToPath(import.meta.url)))), 'tools/compare.mjs');

test('npm run compare says what changed between two files, exactly', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-compare-'));
  const [earlier, later] = [join(folder, 'a.md'), join(folder, 'b.html')];
  await writeFile(earlier, '# Guide\n\nTwo sacks of flour.\n\nThe gate is shut at the flood.\n');
  await writeFile(later, '<h1>Guide</h1><p>Three sacks of flour.</p>');
  const { stdout } = await run(process.execPath, [tool, earlier, later, '--format', 'json', '--repeat', '3']);
  const result = JSON.parse(stdout) as {
    changes: { kind: string; earlier: string; later: string }[];
    totals: object;
    exact: boolean;
    milliseconds: number;
  };
  expect(result.exact).toBe(true);
  expect(result.changes.map(({ kind, earlier: before, later: after }) => [kind, before, after])).toEqual([
    ['replaced', 'Two', 'Three'],
    ['removed', 'The gate is shut at the flood.', ''],
  ]);
  expect(result.totals).toEqual({ wordsAdded: 1, wordsRemoved: 8, wordsMoved: 0, formChanges: 0 });
  expect(result.milliseconds).toBeGreaterThan(0);
  await expect(run(process.execPath, [tool, earlier])).rejects.toThrow(/Usage/);
  await rm(folder, { recursive: true });
});
