import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ROOT, expect, test } from './oxbow';

test('the script that each screen needs stays within its budget', () => {
  const { status, stdout } = spawnSync(process.execPath, [join(ROOT, 'tools/weigh.mjs')], {
    encoding: 'utf8',
  });
  const weights = JSON.parse(stdout) as { screen: string; kilobytes: number; most: number }[];
  expect(weights.filter(({ kilobytes, most }) => kilobytes > most)).toEqual([]);
  expect(weights.map(({ screen }) => screen)).toEqual(['signing in', 'the shelf', 'the desk']);
  expect(status).toBe(0);
});
