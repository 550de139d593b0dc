/// <reference lib="dom" />
import type { Page } from '@playwright/test';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Random } from '@oxbow/core/testing';
import type { App } from '@oxbow/server';
import { Transform } from 'prosemirror-transform';
import { median } from './document.js';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { inHouse, signedIn } from './house.js';

const [FEW, MANY] = [2000, 20_000];
const YEAR = 365 * 24 * 3600_000;
const BATCH = 500;
const MOVES = 60;

/** Drawing and moving along the tideline of a year with many edits, against one with a tenth of them, in Chromium. */
export async function benchTideline(): Promise<Figure[]> {
  return inHouse(async ({ app, browser, open }) => {
    const few = await writeYear(app, FEW);
    const many = await writeYear(app, MANY);
    const page = await signedIn(browser, await open());
    const small = await moved(page, few);
    const large = await moved(page, many);
    return [
      less(`zooming in and moving along, ${MANY} edits / ${FEW}`, large.move / small.move, {
        goal: 1.25,
        note: `${large.move.toFixed(1)} ms and ${small.move.toFixed(1)} ms a move, script and layout; ${large.bars} and ${small.bars} bars`,
      }),
      less(`the slowest of ${MOVES} moves`, large.worst, {
        unit: 'ms',
        digits: 0,
        note: `${small.worst.toFixed(0)} ms with ${FEW} edits`,
      }),
    ];
  });
}

/** A document written in sittings all over a year, and its address. */
async function writeYear(app: App, edits: number): Promise<string> {
  const person = app.people.byId('bench');
  if (!person) throw new Error('There is nobody to write');
  const start = Date.now() - YEAR;
  const document = await app.documents.create(person, `A year of ${edits}`, null, start);
  const room = await app.rooms.get(document.key);
  const random = new Random(edits);
  let clock = start;
  for (let done = 0; done < edits; done += BATCH)
    await room.compose(({ doc, seq }) => {
      let now = doc;
      const list = Array.from({ length: BATCH }, (_, i) => {
        const tr = new Transform(now);
        if (now.content.size > 3000 && random.chance(0.6)) tr.delete(5, 25);
        else tr.insert(random.between(1, now.content.size - 1), schema.text('tide mill '));
        now = tr.doc;
        clock += random.chance(0.03) ? (YEAR / edits) * random.between(10, 56) : random.between(400, 3000);
        clock = Math.min(clock, Date.now());
        return {
          counter: done + i,
          steps: tr.steps,
          sources: [],
          writtenAt: clock,
          cause: { kind: 'writing' as const },
          at: clock,
        };
      });
      return { author: person.key, client: 'bench', base: seq, edits: list };
    });
  return `/documents/${document.id}`;
}

async function moved(page: Page, path: string): Promise<{ move: number; worst: number; bars: number }> {
  await page.goto(new URL(path, page.url()).href);
  await page.locator('ox-tideline .bar').first().waitFor();
  const bars = await page.locator('ox-tideline .bar').count();
  const times = await page.evaluate(async (moves) => {
    const svg = document.querySelector('ox-tideline > svg');
    if (!svg) return [];
    const wheel = async (deltaX: number, deltaY: number): Promise<number> => {
      const box = svg.getBoundingClientRect();
      const begin = performance.now();
      svg.dispatchEvent(
        new WheelEvent('wheel', {
          deltaX,
          deltaY,
          clientX: box.left + 400,
          clientY: box.top + 60,
          bubbles: true,
        }),
      );
      await new Promise((resolve) => setTimeout(resolve));
      svg.getBoundingClientRect();
      const time = performance.now() - begin;
      await new Promise((resolve) => requestAnimationFrame(resolve));
      return time;
    };
    for (let i = 0; i < 6; i++) await wheel(0, -100);
    const out: number[] = [];
    for (let i = 0; i < moves; i++) out.push(await wheel(i % 20 < 10 ? -60 : 60, 0));
    return out;
  }, MOVES);
  return { move: median(times), worst: Math.max(...times), bars };
}
