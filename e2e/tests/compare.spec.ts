import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { commonRuns } from '@oxbow/core/compare';
import { Random, prose, word } from '@oxbow/core/testing';
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
  const { stdout: page } = await run(process.execPath, [tool, earlier, later, '--format', 'html']);
  expect(page).toContain('<del title="replaced">Two</del><ins title="replaced">Three</ins>');
  const { stdout: lines } = await run(process.execPath, [tool, earlier, later]);
  expect(lines).toContain('replaced\n  - Two\n  + Three');
  await expect(run(process.execPath, [tool, earlier])).rejects.toThrow(/Usage/);
  await rm(folder, { recursive: true });
});

test('keeps no fewer words than GNU diff does, one word to a line', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-compare-'));
  const random = new Random(20261125);
  for (let i = 0; i < 12; i++) {
    const earlier = prose(random, 20).split(' ');
    const later = earlier.flatMap((one) => {
      const roll = random.next();
      return roll < 0.1 ? [] : roll < 0.25 ? [word(random)] : roll < 0.35 ? [one, word(random)] : [one];
    });
    const [a, b] = [join(folder, 'a'), join(folder, 'b')];
    await writeFile(a, `${earlier.join('\n')}\n`);
    await writeFile(b, `${later.join('\n')}\n`);
    const { stdout } = await run('diff', [
      '--minimal',
      '--old-line-format=',
      '--new-line-format=',
      '--unchanged-line-format=%L',
      a,
      b,
    ]).catch((error: { stdout: string }) => error);
    const kept = stdout.split('\n').length - 1;
    const numbers = new Map([...new Set([...earlier, ...later])].map((one, n) => [one, n]));
    const items = (words: readonly string[]): Int32Array =>
      Int32Array.from(words, (one) => numbers.get(one) ?? -1);
    const own = commonRuns(items(earlier), items(later)).reduce((sum, { length }) => sum + length, 0);
    expect(own).toBe(kept);
  }
  await rm(folder, { recursive: true });
});
