import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { WEB, expect, test } from './oxbow';

/** Most kilobytes of script, as gzip makes them, that a screen may need before it can be used. */
const BUDGETS = [
  { screen: 'signing in', component: 'ox-sign-in', most: 250 },
  { screen: 'the shelf', component: 'ox-shelf', most: 350 },
  { screen: 'the desk', component: 'ox-desk', most: 450 },
] as const;

const scripts = new Map<string, string>();

test.beforeAll(async () => {
  for (const name of await readdir(WEB))
    if (name.endsWith('.js')) scripts.set(name, await readFile(join(WEB, name), 'utf8'));
});

/** A script and all that it imports before it runs; what is fetched when it is first asked for is not among them. */
function needed(name: string, found = new Set<string>()): Set<string> {
  if (found.has(name)) return found;
  found.add(name);
  for (const [, other] of (scripts.get(name) ?? '').matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g))
    needed(other ?? '', found);
  return found;
}

for (const { screen, component, most } of BUDGETS)
  test(`the script that ${screen} needs stays within its budget`, () => {
    const main = [...scripts.keys()].find((name) => name.startsWith('main')) ?? '';
    const own = [...scripts].find(([, text]) => text.includes(`selectors:[["${component}"]]`))?.[0] ?? '';
    const all = needed(own, needed(main));
    expect(all.size).toBeGreaterThan(3);
    const sizes = [...all].map((name) => gzipSync(scripts.get(name) ?? '').length / 1000);
    expect(Math.round(sizes.reduce((sum, size) => sum + size, 0))).toBeLessThanOrEqual(most);
  });
