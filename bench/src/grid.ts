/// <reference lib="dom" />
import { cellAt, readBook } from '@oxbow/core/kinds/sheet';
import type { RowView } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { inHouse, signedIn } from './house.js';
import { quantile } from './served.js';

/** Steps of scrolling, pixels of each as a wheel turns them, and milliseconds that are too long for a frame. */
const [STEPS, STEP, LONG] = [240, 120, 33];
/** Frames before it is measured: what runs there was not run before. */
const FIRST = 20;
/** Milliseconds until the worker has read the sheet, too, which opening it begins. */
const SETTLED = 5000;

/** Scrolling through a large sheet, and jumping about in it, in Chromium. */
export async function benchGrid(book: Node): Promise<Figure[]> {
  return inHouse(async ({ app, browser, open }) => {
    const person = app.people.byId('bench');
    if (!person) throw new Error('There is nobody to write');
    const document = await app.documents.create(person, 'Large sheet', null, Date.now(), 'sheet');
    const room = await app.rooms.get(document.key);
    await room.compose(({ doc, seq }) => {
      const { steps } = new Transform(doc).replaceWith(0, doc.content.size, book.content);
      const edit = {
        counter: 1,
        steps,
        sources: [],
        writtenAt: Date.now(),
        cause: { kind: 'writing' as const },
      };
      return { author: person.key, client: 'bench', base: seq, edits: [edit] };
    });
    const page = await signedIn(browser, await open());
    await page.goto(`${new URL(page.url()).origin}/documents/${document.id}`);
    await page.locator('ox-grid [role=gridcell]').first().waitFor({ timeout: 120_000 });
    await page.waitForTimeout(SETTLED);
    const scrolled = async (steps: number, step: number): Promise<number[]> =>
      page.evaluate(
        async ([count = 0, by = 0]) => {
          const out: number[] = [];
          const scroller = window.document.querySelector('ox-grid .scroller') as HTMLElement;
          let last = await new Promise<number>((frame) => requestAnimationFrame(frame));
          for (let i = 1; i <= count; i++) {
            scroller.scrollTop += by;
            const now = await new Promise<number>((frame) => requestAnimationFrame(frame));
            out.push(now - last);
            last = now;
          }
          return out;
        },
        [steps, step],
      );
    const smooth = (await scrolled(STEPS + FIRST, STEP)).slice(FIRST);
    const jumps = await scrolled(60, 4000);
    const rows = readBook(book).sheets[0]?.rows ?? [];
    const cells = rows.length * (readBook(book).sheets[0]?.columns.length ?? 0);
    if (!cellAt(rows[0] as RowView, 'c0')) throw new Error('the sheet is empty');
    return [
      less(
        `frames over ${LONG} ms while a sheet of ${cells} cells is scrolled`,
        smooth.filter((one) => one > LONG).length,
        {
          unit: `of ${STEPS}`,
          digits: 0,
          goal: 0,
          note: `95th percentile ${quantile(smooth, 0.95).toFixed(0)} ms, longest ${Math.max(...smooth).toFixed(0)} ms`,
        },
      ),
      less('a frame after a jump of 4,000 pixels in it, 95th percentile', quantile(jumps, 0.95), {
        unit: 'ms',
        digits: 0,
      }),
    ];
  });
}
