import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { pino } from 'pino';
import { createApp } from './app.js';
import type { App } from './app.js';

// The server as `npm start` runs it. What it may be told is in the README.
const root = resolve(dirname(fileURLToPath(import.meta.url)), '..', '..');
const folder = resolve(process.env['OXBOW_DATA'] ?? join(root, 'data'));
const port = Number(process.env['PORT'] ?? 4620);
const demo = process.env['OXBOW_DEMO'] !== 'off';
const log = pino({ level: process.env['OXBOW_LOG'] ?? 'warn' });

const app = await createApp({
  folder,
  url: process.env['OXBOW_DATABASE'],
  web: join(root, 'web', 'dist'),
  demo,
  log,
});
if (demo && app.people.all.length === 0) await fillWithDemo(app);
const open = await app.listen(port, process.env['HOST'] ?? '127.0.0.1');
console.log(`Oxbow Tide is at http://localhost:${open}`);

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    app.close().then(
      () => process.exit(0),
      (error: unknown) => {
        log.error({ err: error }, 'closing failed');
        process.exit(1);
      },
    );
  });
}

/** The demo is a package above the server, so it is found by its place and only when it is there. */
async function fillWithDemo(target: App): Promise<void> {
  const place = join(root, 'demo', 'dist', 'index.js');
  if (!existsSync(place)) return;
  console.log('Making the demo: a year of editing, about twenty seconds …');
  const { makeDemo } = (await import(pathToFileURL(place).href)) as {
    makeDemo(app: App, now: number, scale: number): Promise<boolean>;
  };
  await makeDemo(target, Date.now(), Number(process.env['OXBOW_DEMO_SCALE'] ?? 1));
}
