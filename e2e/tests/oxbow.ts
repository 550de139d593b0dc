import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { test as base, expect } from '@playwright/test';
import type { Browser, Cookie, Page, WebSocketRoute } from '@playwright/test';

/** The repository's folder. */
export const ROOT = dirname(dirname(dirname(fileURLToPath(import.meta.url))));

/** A server process of the tests' own, with the demo on a small scale, in a folder of its own. */
export class Oxbow {
  private child: ChildProcess | null = null;
  private readonly sessions = new Map<string, Cookie[]>();
  port = 0;

  /** What the server has printed. */
  said = '';

  /** With `demo` off, on an empty folder that nobody has moved into. */
  constructor(
    readonly folder: string,
    private readonly demo: 'on' | 'off' = 'on',
  ) {}

  get address(): string {
    return `http://localhost:${this.port}`;
  }

  /** Starts it on a copy of the demo that was made once before all tests; see setup.ts. */
  async startOnDemo(): Promise<void> {
    await cp(process.env['OXBOW_MADE_DEMO'] ?? '', this.folder, { recursive: true });
    await this.start();
  }

  async start(): Promise<void> {
    const child = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
      env: {
        ...process.env,
        PORT: String(this.port),
        OXBOW_DATA: this.folder,
        OXBOW_DEMO: this.demo,
        OXBOW_DEMO_SCALE: '0.06',
        UV_THREADPOOL_SIZE: '8',
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    this.port = await new Promise<number>((resolve, reject) => {
      const ready = this.demo === 'on' ? /localhost:(\d+)/ : /localhost:(\d+)[^]*code \S+/;
      child.stdout.on('data', (data: Buffer) => {
        this.said += data.toString();
        const port = ready.exec(this.said)?.[1];
        if (port) resolve(Number(port));
      });
      child.once('exit', (code) => reject(new Error(`The server ended with ${String(code)}: ${this.said}`)));
    });
  }

  /** Ends the process by its own id; SIGKILL leaves it no time for anything. */
  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }

  /** Opens a window of its own and signs somebody in, who stays so for the next window as long as nobody signs them out. */
  async as(browser: Browser, name: string, colorScheme: 'light' | 'dark' = 'light'): Promise<Page> {
    const context = await browser.newContext({ baseURL: this.address, colorScheme });
    await context.addCookies(this.sessions.get(name) ?? []);
    const page = await context.newPage();
    await page.goto('/');
    const shelf = page.getByRole('heading', { name: 'Shelf' });
    const signIn = page.getByRole('button', { name: `Sign in as ${name}` });
    await expect(shelf.or(signIn)).toBeVisible();
    if (await signIn.isVisible()) await signIn.click();
    await expect(shelf).toBeVisible();
    this.sessions.set(name, await context.cookies());
    return page;
  }
}

/** Letters that are printed of what was to be seen when a test failed. */
const SEEN = 3000;

/** Prints what is to be seen in a window, for whoever has only the output of a failed run. */
async function tell(page: Page): Promise<void> {
  const seen = await page.locator('body').ariaSnapshot({ timeout: 10_000 });
  console.log(`Left open at ${page.url()}\n${seen.slice(0, SEEN)}`);
}

/** Tests get a running server, and make sure that it and their windows are gone afterwards: open ones slow down all others. */
export const test = base.extend<{ windows: undefined }, { oxbow: Oxbow }>({
  windows: [
    async ({ browser }, use, info) => {
      await use(undefined);
      const pages = browser.contexts().flatMap((context) => context.pages());
      if (info.status !== info.expectedStatus)
        for (const page of pages)
          await tell(page).catch((error: unknown) =>
            console.log(`Nothing to be seen at ${page.url()}:`, error),
          );
      for (const context of browser.contexts()) await context.close();
    },
    { auto: true },
  ],
  oxbow: [
    async ({ browserName }, use) => {
      expect(browserName).toBe('chromium');
      const folder = await mkdtemp(join(tmpdir(), 'oxbow-e2e-'));
      const oxbow = new Oxbow(folder);
      await oxbow.startOnDemo();
      await use(oxbow);
      await oxbow.stop();
      await rm(folder, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});

/** Opens a document from the shelf and waits for its page. */
export async function open(page: Page, title: string): Promise<void> {
  await page.locator('a.title').getByText(title, { exact: true }).click();
  await expect(text(page).or(page.getByRole('grid')).or(slide(page))).toBeVisible();
}

/** What stands on the shelf below the name of a collection, that collection's documents first. */
export function below(page: Page, collection: string) {
  return page
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: collection, exact: true }) })
    .locator('xpath=following-sibling::li');
}

/** The page one writes on. */
export function text(page: Page) {
  return page.getByRole('textbox', { name: 'The document' });
}

/** Makes a document, opens it, and answers its address. */
export async function make(page: Page, title: string): Promise<string> {
  await page.getByRole('button', { name: 'New document' }).click();
  await page.getByLabel('Title of the new document').fill(title);
  await page.getByRole('button', { name: 'Make the document' }).click();
  await expect(text(page)).toBeVisible();
  return new URL(page.url()).pathname;
}

/** Makes a document of sheets, opens it, and answers its address. */
export async function makeSheets(page: Page, title: string): Promise<string> {
  await makeOf(page, 'Sheets', title);
  await expect(page.getByRole('gridcell').first()).toBeVisible();
  return new URL(page.url()).pathname;
}

/** Makes a document of slides, opens it, and answers its address. */
export async function makeSlides(page: Page, title: string): Promise<string> {
  await makeOf(page, 'Slides', title);
  await expect(slide(page)).toBeFocused();
  return new URL(page.url()).pathname;
}

async function makeOf(page: Page, kind: string, title: string): Promise<void> {
  await page.getByRole('button', { name: 'New document' }).click();
  await page.getByLabel('Title of the new document').fill(title);
  await page.getByRole('radio', { name: kind }).click();
  await page.getByRole('button', { name: 'Make the document' }).click();
}

/** The slide in hand of the deck one writes in. */
export function slide(page: Page) {
  return page.getByRole('textbox', { name: 'The slide in hand' });
}

/** Waits until nothing waits to be kept: looked at when what was just done has been drawn. */
export async function kept(page: Page): Promise<void> {
  await page.evaluate(
    () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))),
  );
  await expect(page.getByText(/every edit (is )?kept/)).toBeVisible();
}

/** A window's line to the live channel, which can be cut and mended. Ask for it before the window opens a document. */
export async function line(page: Page): Promise<{ cut: () => Promise<void>; mend: () => Promise<void> }> {
  let down = false;
  const open = new Set<WebSocketRoute>();
  await page.routeWebSocket(/\/live\//, (socket) => {
    if (down) return void socket.close();
    socket.connectToServer();
    open.add(socket);
  });
  return {
    cut: async () => {
      down = true;
      await Promise.all([...open].map((socket) => socket.close()));
      open.clear();
      await expect(page.getByText('Away from the server')).toBeVisible();
    },
    mend: async () => {
      down = false;
      await expect(page.getByText('Away from the server')).toHaveCount(0, { timeout: 20_000 });
    },
  };
}

/** Moves the caret by keys, and waits until the editor has heard of it: no hand is as fast as these tests. */
export async function caret(page: Page, ...keys: string[]): Promise<void> {
  for (const key of keys) {
    await page.keyboard.press(key);
    await page.waitForTimeout(60);
  }
}

/** Chooses one of what a bar or a form has to choose from. */
export async function choose(page: Page, label: string, name: string): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name, exact: true }).click();
  await expect(page.getByRole('option')).toHaveCount(0);
}

/** Gives somebody a role in a document. */
export async function share(page: Page, path: string, person: string, role: string): Promise<void> {
  const id = path.split('/').at(-1) ?? '';
  const response = await page.request.put(`/api/documents/${id}/shares/${person}`, {
    data: { role },
    headers: { Origin: new URL(page.url()).origin },
  });
  expect(response.ok()).toBe(true);
}

export { expect };
