import type { Page } from '@playwright/test';
import { expect, kept, make, open, test, text } from './oxbow';

/** How many sheets a window is printed on. */
async function sheetsOf(page: Page): Promise<number> {
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
  return pdf.match(/\/Type\s*\/Page\b/g)?.length ?? 0;
}

test('a page is printed whole, on as many sheets as it takes, and nothing that only acts', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await make(page, 'On paper');
  for (let i = 0; i < 70; i++) await page.keyboard.type(`Line ${i}\n`);
  await kept(page);
  await page.emulateMedia({ media: 'print' });
  expect(await sheetsOf(page)).toBeGreaterThan(1);
  expect(await sheetsOf(page)).toBeLessThan(5);
  await expect(text(page)).toBeVisible();
  await expect(page.getByRole('button')).toHaveCount(0);
});

test('every room is printed whole', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await open(page, 'Volunteer rota and budget');
  const { pathname } = new URL(page.url());
  const rooms: [address: string, way?: string][] = [
    ['/'],
    ['/arrivals'],
    ['/people'],
    ['/bin'],
    ['/account'],
    [`${pathname}/sharing`],
    [`${pathname}/keeping`],
    [pathname, 'Find in time'],
    [pathname, 'Removed'],
    [pathname, 'Contributors'],
    [`${pathname}/moments/9`],
  ];
  for (const [address, way] of rooms) {
    await page.emulateMedia({ media: 'screen' });
    await page.goto(address);
    await expect(page.getByRole('heading').first()).toBeVisible();
    if (way) await page.getByRole('button', { name: way, exact: true }).click();
    await expect(page.getByRole('progressbar')).toHaveCount(0);
    await page.emulateMedia({ media: 'print' });
    const wrong = await page.evaluate(() => {
      const shown = Array.from(document.querySelectorAll<HTMLElement>('ox-app *')).filter((one) =>
        one.checkVisibility(),
      );
      const cut = shown.filter((one) => {
        const { overflowY } = getComputedStyle(one);
        return /auto|scroll|clip|hidden/.test(overflowY) && one.scrollHeight > one.clientHeight + 40;
      });
      const acts = shown.filter((one) => one.matches('button'));
      return [...cut, ...acts].map((one) => `${one.tagName} ${one.className}`.trim());
    });
    expect([address, way, ...wrong]).toEqual([address, way]);
  }
});

test('a list that is made as one scrolls is printed to its last row: the shelf, and the log under a document', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await page.setViewportSize({ width: 1280, height: 330 });
  await open(page, 'Walking the Withy tide mill');
  await page.getByRole('button', { name: 'Log', exact: true }).click();
  const rows = page.getByRole('table', { name: 'Sittings, versions and edits' }).locator('tbody tr');
  await expect(rows.first()).toBeVisible();
  const inWindow = await rows.count();
  await page.evaluate(() => dispatchEvent(new Event('beforeprint')));
  await page.emulateMedia({ media: 'print' });
  await expect.poll(() => rows.count()).toBeGreaterThan(inWindow);
  await expect(rows.last()).toContainText('The blank beginning');
  await page.emulateMedia({ media: 'screen' });
  await page.evaluate(() => dispatchEvent(new Event('afterprint')));

  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Walking the Withy tide mill', exact: true })).toBeVisible();
  const documents = Number(/\d+/.exec((await page.locator('.count').first().textContent()) ?? '')?.[0]);
  await page.evaluate(() => dispatchEvent(new Event('beforeprint')));
  await expect.poll(() => page.locator('li.document').count()).toBe(documents);
});
