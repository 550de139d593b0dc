/// <reference lib="dom" />
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Random, sentence } from '@oxbow/core/testing';
import type { App } from '@oxbow/server';
import { Transform } from 'prosemirror-transform';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { inHouse, signedIn } from './house.js';
import { quantile } from './served.js';

const [FEW, MANY] = [500, 50_000];
const DOCUMENTS = 5000;
const KEYS = 240;
/** Milliseconds between two keys, as a fast hand has them. */
const BETWEEN = 45;
const PARAGRAPH = 100;
const WEIGH = fileURLToPath(new URL('../../tools/weigh.mjs', import.meta.url));

/** Writing on the desk and looking along the shelf, in Chromium: from a key to the frame that shows it, and what a screen costs. */
export async function benchDesk(): Promise<Figure[]> {
  return inHouse(async ({ app, browser, open }) => {
    const paths = { small: await write(app, FEW), large: await write(app, MANY) };
    const address = await open();
    const small = await keyed(await signedIn(browser, address), `${address}${paths.small}`);
    const large = await keyed(await signedIn(browser, address), `${address}${paths.large}`);
    const [p99, usual] = [quantile(large.keys, 0.99), quantile(small.keys, 0.99)];
    await fill(app, DOCUMENTS - 2);
    const shelf = await looked(await signedIn(browser, address), address);
    return [
      less(`from a key to its frame, ${MANY} words, 99th percentile`, p99, {
        unit: 'ms',
        digits: 0,
        goal: 33,
        note: `median ${quantile(large.keys, 0.5).toFixed(0)} ms; the tideline open`,
      }),
      less(`the same, ${MANY} words / ${FEW}`, p99 / usual, {
        goal: 1.5,
        note: `${p99.toFixed(0)} and ${usual.toFixed(0)} ms`,
      }),
      less(
        `frames while ${DOCUMENTS} documents are scrolled, 95th percentile`,
        quantile(shelf.frames, 0.95),
        {
          unit: 'ms',
          digits: 0,
          goal: 33,
          note: `${shelf.rows} rows are drawn at a time`,
        },
      ),
      less('first contentful paint of the shelf', shelf.paint, { unit: 'ms', digits: 0 }),
      less('first contentful paint of the desk', large.paint, { unit: 'ms', digits: 0 }),
      ...weights(),
    ];
  });
}

/** A document of so many words, in paragraphs, and its address. */
async function write(app: App, words: number): Promise<string> {
  const person = app.people.byId('bench');
  if (!person) throw new Error('There is nobody to write');
  const document = await app.documents.create(person, `${words} words`, null);
  const room = await app.rooms.get(document.key);
  const random = new Random(words);
  await room.compose(({ doc, seq }) => {
    let now = doc;
    const edits = Array.from({ length: Math.ceil(words / PARAGRAPH) }, (_, i) => {
      let text = '';
      while (text.split(' ').length < PARAGRAPH) text += `${sentence(random)} `;
      const tr = new Transform(now);
      tr.insert(now.content.size, schema.node('paragraph', null, [schema.text(text.trim())]));
      now = tr.doc;
      return {
        counter: i,
        steps: tr.steps,
        sources: [],
        writtenAt: Date.now(),
        cause: { kind: 'writing' as const },
      };
    });
    return { author: person.key, client: 'bench', base: seq, edits };
  });
  return `/documents/${document.id}`;
}

async function fill(app: App, count: number): Promise<void> {
  const person = app.people.byId('bench');
  if (!person) throw new Error('There is nobody to write');
  for (let i = 0; i < count; i++) await app.documents.create(person, `Document ${i + 1}`, null);
}

/** When a screen first showed something, in milliseconds. */
function paintOf(page: Page): Promise<number> {
  return page.evaluate(
    () => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? Number.NaN,
  );
}

/** The script that each screen needs before it can be used; what is counted, and how: tools/weigh.mjs. */
function weights(): Figure[] {
  const { stdout } = spawnSync(process.execPath, [WEIGH], { encoding: 'utf8' });
  const all = JSON.parse(stdout) as { screen: string; kilobytes: number; most: number }[];
  return all.map(({ screen, kilobytes, most }) =>
    less(`script that ${screen} needs, compressed`, kilobytes, { unit: 'kB', digits: 0, goal: most }),
  );
}

/** Types in the middle of a document, and measures each key up to the frame after it was drawn. */
async function keyed(page: Page, path: string): Promise<{ keys: number[]; paint: number }> {
  await page.goto(path);
  await page.locator('.page-text p').first().waitFor();
  await page.locator('ox-tideline .bar').first().waitFor();
  const paint = await paintOf(page);
  const paragraphs = page.locator('.page-text > p');
  await paragraphs.nth(Math.floor((await paragraphs.count()) / 2)).click();
  await page.evaluate(() => {
    const times: number[] = [];
    (window as unknown as { times: number[] }).times = times;
    addEventListener(
      'keydown',
      ({ timeStamp }) =>
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => times.push(performance.now() - timeStamp);
          port2.postMessage(null);
        }),
      { capture: true },
    );
  });
  for (let i = 0; i < KEYS; i++) {
    await page.keyboard.press(i % 6 === 5 ? 'Space' : 'abcdefgh'.charAt(i % 8));
    await page.waitForTimeout(BETWEEN);
  }
  const keys = await page.evaluate(() => (window as unknown as { times: number[] }).times);
  await page.context().close();
  // The first keys are those of code that was not run before.
  return { keys: keys.slice(20), paint };
}

/** Scrolls the shelf from top to bottom, and measures each frame. */
async function looked(
  page: Page,
  address: string,
): Promise<{ frames: number[]; rows: number; paint: number }> {
  await page.goto(address);
  await page.locator('ox-shelf-row').first().waitFor();
  const paint = await paintOf(page);
  const frames = await page.evaluate(async () => {
    const out: number[] = [];
    const bottom = document.documentElement.scrollHeight;
    let last = await new Promise<number>((frame) => requestAnimationFrame(frame));
    for (let i = 1; i <= 120; i++) {
      scrollTo(0, (bottom * i) / 120);
      const now = await new Promise<number>((frame) => requestAnimationFrame(frame));
      out.push(now - last);
      last = now;
    }
    return out;
  });
  const rows = await page.locator('ox-shelf-row').count();
  await page.context().close();
  return { frames, rows, paint };
}
