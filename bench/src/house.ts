import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import type { Browser, Page } from '@playwright/test';
import { createApp, hashed } from '@oxbow/server';
import type { App } from '@oxbow/server';

/** The built web app. */
const WEB = join(dirname(dirname(dirname(fileURLToPath(import.meta.url)))), 'web/dist');

/** A server with the web app and one person, Bench, and a browser to look at it. */
export interface House {
  readonly app: App;
  /** Starts to serve, once what is to be looked at is written; answers the address. */
  open(): Promise<string>;
  readonly browser: Browser;
}

/** Does something in a house of its own, which is gone afterwards. */
export async function inHouse<T>(act: (house: House) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-bench-'));
  const app = await createApp({ folder, web: WEB, demo: true });
  await app.facts.keep('demo', new Date().toISOString());
  await app.facts.keep('organisation', 'Bench');
  const person = { initials: 'B', colour: 0, about: '', passwordHash: hashed('tidemill') };
  await app.people.create({ id: 'bench', name: 'Bench', email: 'bench@withy.example', ...person });
  const browser = await chromium.launch({
    executablePath: process.env['CHROME_BIN'] ?? '/usr/bin/chromium',
    args: ['--no-sandbox'],
  });
  try {
    return await act({ app, browser, open: async () => `http://127.0.0.1:${await app.listen(0)}` });
  } finally {
    await browser.close();
    await app.close();
    await rm(folder, { recursive: true, force: true });
  }
}

/** A window of its own in which Bench is signed in. */
export async function signedIn(browser: Browser, address: string): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  });
  const page = await context.newPage();
  await page.goto(address);
  await page.getByRole('button', { name: 'Sign in as Bench' }).click();
  await page.getByRole('heading', { name: 'Shelf' }).waitFor();
  return page;
}
