import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { bin, buildWhenNeeded, installWhenNeeded, root, run } from './steps.mjs';

// `npm test`: lint, types, units on Node, units in Chromium, end-to-end in Chromium. Ends with "N passed, N failed".
installWhenNeeded();
const chromium = packaged('chromium', [
  process.env.CHROME_BIN,
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
]);
packaged('pandoc', ['/usr/bin/pandoc', '/usr/local/bin/pandoc']);
packaged('python3-openpyxl', ['/usr/lib/python3/dist-packages/openpyxl/__init__.py']);
const counts = { passed: 0, failed: 0 };
/** How long one part may take before it is ended and what it said is shown: what hangs fails, and says where. */
const PATIENCE = 62 * 60_000;

/** Runs one part and adds up what its output says; a part that fails without saying so counts as one failure. */
async function part(name, command, args, { cwd = root, env = {} } = {}, read = () => null) {
  console.log(`== ${name} ==`);
  const since = Date.now();
  const { output, status } = await outcome(command, args, {
    cwd,
    env: { ...process.env, CHROME_BIN: chromium, NG_CLI_ANALYTICS: 'false', ...env },
  });
  const found = read(output) ?? { passed: status === 0 ? 1 : 0, failed: 0 };
  const failed = status === 0 ? found.failed : Math.max(1, found.failed);
  counts.passed += found.passed;
  counts.failed += failed;
  // What passed only when it was tried again is told too.
  if (failed > 0 || found.again > 0) console.log(output.slice(-20_000));
  const seconds = Math.round((Date.now() - since) / 1000);
  console.log(`${name}: ${found.passed} passed, ${failed} failed, in ${seconds} s`);
}

/** Runs a command and answers what it said and its exit status. */
function outcome(command, args, options) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, options);
    const said = [];
    const ending = setTimeout(() => {
      said.push(`\nEnded after ${PATIENCE / 60_000} minutes without an end of its own.\n`);
      child.kill();
      child.stdout.destroy();
      child.stderr.destroy();
    }, PATIENCE);
    child.stdout.setEncoding('utf8').on('data', (data) => said.push(data));
    child.stderr.setEncoding('utf8').on('data', (data) => said.push(data));
    child.once('error', reject);
    child.once('close', (status) => {
      clearTimeout(ending);
      resolve({ output: said.join(''), status });
    });
  });
}

const jasmine = (output) => {
  const [, specs, failures] = /(\d+) specs?, (\d+) failures?/.exec(output) ?? [];
  return specs === undefined ? null : { passed: Number(specs) - Number(failures), failed: Number(failures) };
};
const karma = (output) => {
  const [, done, all, rest] = [...output.matchAll(/Executed (\d+) of (\d+)([^\n\r]*)/g)].at(-1) ?? [];
  if (done === undefined) return null;
  const failed = Number(/\((\d+) FAILED\)/.exec(rest)?.[1] ?? 0) + Number(all) - Number(done);
  return { passed: Number(all) - failed, failed };
};
const playwright = (output) => {
  const count = (what) => Number(new RegExp(`(\\d+) ${what}`).exec(output)?.[1] ?? 0);
  return { passed: count('passed') + count('flaky'), failed: count('failed'), again: count('flaky') };
};

buildWhenNeeded();
const units = part('units on Node', bin('jasmine'), ['--config=jasmine.json', '--parallel=2'], {}, jasmine);
await part('lint', bin('eslint'), ['.', '--max-warnings', '0']);
await part('format', bin('prettier'), ['--check', '.']);
await part('units in Chromium', bin('ng'), ['test'], { cwd: join(root, 'web') }, karma);
await units;
await part('end to end', bin('playwright'), ['test'], { cwd: join(root, 'e2e') }, playwright);
console.log(`\n${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed === 0 ? 0 : 1);

/** The path of a program: the first of these places that has it, or of the system's packages, which are asked for it. */
function packaged(name, places) {
  const held = places.find((place) => place && existsSync(place));
  if (held) return held;
  console.log(`Installing ${name} from the packages of the system …`);
  run('apt-get', ['update'], { mayFail: true });
  run('apt-get', ['install', '-y', '--no-install-recommends', name]);
  return `/usr/bin/${name}`;
}
