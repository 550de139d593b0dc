import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The repository's folder. */
export const root = dirname(dirname(fileURLToPath(import.meta.url)));

const npm = process.platform === 'win32' ? 'npm.cmd' : 'npm';

/** Runs a command to its end in the repository; ends this process with its code when it fails. */
export function run(command, args, { cwd = root, env = {}, mayFail = false } = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  if (error) throw error;
  if (status !== 0 && !mayFail) process.exit(status ?? 1);
  return status ?? 1;
}

/** Starts a command and leaves it running. */
export function start(command, args, { cwd = root, env = {} } = {}) {
  return spawn(command, args, { cwd, stdio: 'inherit', env: { ...process.env, ...env } });
}

/** A tool from the installed packages. */
export function bin(name) {
  return join(root, 'node_modules', '.bin', name);
}

/** Installs the packages when they are absent or the lock file changed since. */
export function installWhenNeeded() {
  const lock = digest([join(root, 'package-lock.json')]);
  const stamp = join(root, 'node_modules', '.oxbow-installed');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing packages; compiling SQLite takes about two minutes the first time …');
  run(npm, [existsSync(join(root, 'package-lock.json')) ? 'ci' : 'install', '--no-audit', '--no-fund']);
  writeFileSync(stamp, lock);
}

/** Builds everything whose sources changed since the last build. */
export function buildWhenNeeded({ web = true } = {}) {
  const types = ['core', 'contract', 'server', 'demo', 'bench'];
  once(
    'types',
    types.map((name) => join(root, name, 'src')),
    () => {
      for (const name of types) sweep(join(root, name, 'src'), join(root, name, 'dist'));
      run(bin('tsc'), ['-b']);
    },
  );
  if (web) {
    const sources = ['core', 'contract'].map((name) => join(root, name, 'src'));
    once(
      'web',
      [...sources, join(root, 'web', 'src'), join(root, 'web', 'public'), join(root, 'web', 'angular.json')],
      () => {
        console.log('Building the web app …');
        run(bin('ng'), ['build'], { cwd: join(root, 'web'), env: { NG_CLI_ANALYTICS: 'false' } });
      },
    );
  }
}

function once(name, places, build) {
  const stamp = join(root, 'node_modules', `.oxbow-built-${name}`);
  const now = digest([...places, join(root, 'package-lock.json')]);
  if (
    existsSync(stamp) &&
    readFileSync(stamp, 'utf8') === now &&
    existsSync(join(root, name === 'web' ? 'web/dist/index.html' : 'server/dist/main.js'))
  )
    return;
  build();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, now);
}

/** Removes what was built from sources that are no longer there. */
function sweep(sources, built) {
  if (!existsSync(built)) return;
  for (const { name, parentPath } of readdirSync(built, { recursive: true, withFileTypes: true })) {
    const source = join(
      sources,
      relative(built, parentPath),
      name.replace(/(\.d)?\.(ts|js)(\.map)?$/, '.ts'),
    );
    if (source.endsWith('.ts') && !existsSync(source)) rmSync(join(parentPath, name));
  }
}

/** A digest of files and folders by name and content. */
function digest(places) {
  const hash = createHash('sha256');
  const visit = (place) => {
    if (!existsSync(place)) return;
    const stat = statSync(place);
    if (stat.isDirectory()) for (const name of readdirSync(place).sort()) visit(join(place, name));
    else hash.update(`${place.slice(root.length)} ${stat.size}\n`).update(readFileSync(place));
  };
  for (const place of places) visit(place);
  return hash.digest('hex');
}
