import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { pino } from 'pino';
import { createApp } from './app.js';
import { finishRestore } from './backup/backup.js';
import type { App } from './app.js';
import { demoOf, settingsOf } from './settings.js';

// The server as `npm start` runs it. What it may be told is in the README.
const root = resolve(dirname(fileURLToPath(import.meta.url)), '..', '..');
const settings = settingsOf(process.env, root);
const { demo, isLocal } = demoOf(settings);
const log = pino({ level: settings.OXBOW_LOG });

const folder = resolve(settings.OXBOW_DATA);
await finishRestore(folder);
const app = await createApp({
  folder,
  url: settings.OXBOW_DATABASE,
  web: join(root, 'web', 'dist'),
  demo,
  isLocal,
  proxy: settings.OXBOW_PROXY,
  mailing: { smtp: settings.OXBOW_SMTP, from: settings.OXBOW_FROM },
  ...(settings.OXBOW_URL === undefined ? {} : { site: () => settings.OXBOW_URL ?? '' }),
  log,
});
if (demo && app.people.all.length === 0) await fillWithDemo(app);
const open = await app.listen(settings.PORT, settings.HOST);
console.log(`Oxbow Tide is at http://localhost:${open}`);
const code = await app.membership.codeForSetUp();
if (code) console.log(`Nobody has moved in yet. Open it and set it up with the code ${code}`);

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
  await makeDemo(target, Date.now(), settings.OXBOW_DEMO_SCALE);
}
