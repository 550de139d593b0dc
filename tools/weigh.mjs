import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { root } from './steps.mjs';

// Says how much script each screen needs before it can be used, in kilobytes as gzip makes them, as JSON; fails beyond a budget. What is
// fetched when it is first asked for is not counted: dialogs, rooms, what reads a paste.

const BUDGETS = [
  { screen: 'signing in', component: 'ox-sign-in', most: 250 },
  { screen: 'the shelf', component: 'ox-shelf', most: 350 },
  { screen: 'the desk', component: 'ox-desk', most: 450 },
];

const WEB = join(root, 'web/dist');
const scripts = new Map(
  readdirSync(WEB)
    .filter((name) => name.endsWith('.js'))
    .map((name) => [name, readFileSync(join(WEB, name), 'utf8')]),
);

/** A script and all that it imports before it runs. */
function needed(name, found = new Set()) {
  if (found.has(name)) return found;
  found.add(name);
  for (const [, other] of (scripts.get(name) ?? '').matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g))
    needed(other, found);
  return found;
}

function named(what, test) {
  const [name] = [...scripts].find(test) ?? [];
  if (!name) throw new Error(`There is no script of ${what} in ${WEB}`);
  return name;
}

const main = named('the app', ([name]) => name.startsWith('main'));
const weights = BUDGETS.map(({ screen, component, most }) => {
  const own = named(screen, ([, text]) => text.includes(`selectors:[["${component}"]]`));
  const sizes = [...needed(own, needed(main))].map((name) => gzipSync(scripts.get(name) ?? '').length);
  return { screen, kilobytes: Math.round(sizes.reduce((sum, size) => sum + size, 0) / 1000), most };
});
console.log(JSON.stringify(weights, null, 1));
process.exitCode = weights.every(({ kilobytes, most }) => kilobytes <= most) ? 0 : 1;
