import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, kept, make, open, share, test, text } from './oxbow';

const marks = (page: Page) => page.locator('.rows [data-change]');
const count = (page: Page) => page.getByRole('status').filter({ hasText: / of \d/ });

/** Opens a document of the demo and compares its last two versions. */
async function compareLast(page: Page, title: string): Promise<void> {
  await open(page, title);
  await page.getByRole('button', { name: 'Compare …' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^The one before/ })
    .click();
  await page.getByRole('button', { name: 'Compare these two' }).click();
  await expect(marks(page).first()).toBeVisible();
}

test('one comparison is read flowing, facing and as a digest, and the address holds it', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await compareLast(page, 'Boat-day briefing');
  await expect(page.locator('del').filter({ hasText: 'flask of something hot' })).toBeVisible();
  await expect(count(page)).toHaveText(/^1 of \d+$/);

  await page.getByRole('radio', { name: 'Facing' }).click();
  const row = page.locator('.row.changed').filter({ hasText: 'throw line' });
  await expect(row.locator('.side.earlier del')).toContainText('flask of something hot');
  await expect(row.locator('.side.later ins').filter({ hasText: 'throw line' })).toBeVisible();
  const tops = await row
    .locator('.side')
    .evaluateAll((sides) => sides.map((side) => side.getBoundingClientRect().top));
  expect(tops[0]).toBe(tops[1]);

  const other = await oxbow.as(browser, 'Tobias Rahn');
  await other.goto(page.url());
  await expect(other.getByRole('radio', { name: 'Facing' })).toBeChecked();
  await expect(other.locator('.side.later ins').first()).toBeVisible();

  await page.getByRole('radio', { name: 'Digest' }).click();
  await expect(page.getByRole('heading', { name: /^\d+ changes$/ })).toBeVisible();
  await page.getByRole('radio', { name: 'By person' }).click();
  // Whoever has written in it last by now; others restore in this document too.
  await expect(page.getByRole('heading', { level: 3 }).first()).toHaveText(/Mairead Quill|Hanneke Voss/);
  await page.getByRole('button', { name: 'Show in the text' }).nth(2).click();
  await expect(page.getByRole('radio', { name: 'Flowing' })).toBeChecked();
  await expect(count(page)).toHaveText(/^3 of/);
});

test('changes are stepped through and chosen between, by keys and chips', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await compareLast(page, 'Boat-day briefing');
  const all = Number(/of (\d+)/.exec((await count(page).textContent()) ?? '')?.[1]);
  expect(all).toBeGreaterThan(3);
  await page.getByRole('document', { name: 'as it was' }).focus();
  await page.keyboard.press('k');
  await expect(count(page)).toHaveText(`${all} of ${all}`);
  await expect(page.locator('.at-hand').first()).toBeInViewport();
  await page.keyboard.press('j');
  await expect(count(page)).toHaveText(`1 of ${all}`);
  await expect(page.getByText('beginning again at the first')).toBeVisible();
  const form = page.getByRole('button', { name: /^Form \d/ });
  const formed = Number(/\d+/.exec((await form.textContent()) ?? '')?.[0]);
  await form.click();
  await expect(count(page)).toHaveText(`1 of ${all - formed}`);
  await expect(page.locator('.was-formed')).toHaveCount(0);
  await page.getByRole('button', { name: /^Text \d/ }).click();
  await expect(page.getByText('No change is left to show.')).toBeVisible();
  await page.getByRole('button', { name: `Show all ${all}` }).click();
  await page.getByRole('document', { name: 'as it was' }).focus();
  await page.keyboard.press('m');
  await expect(marks(page)).toHaveCount(0);
  await page.keyboard.press('m');
  await expect(marks(page).first()).toBeVisible();
});

test('a mark tells who, when and in which version, and leads to that moment', async ({ browser, oxbow }) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const tobias = await oxbow.as(browser, 'Tobias Rahn');
  const path = await make(ines, 'Locks');
  await share(ines, path, 'tobias', 'editor');
  await text(ines).pressSequentially('The gate is shut. ');
  await kept(ines);
  await tobias.goto(path);
  await text(tobias).press('Control+End');
  await text(tobias).pressSequentially('Go round.');
  await kept(tobias);
  const { items } = (await (await ines.request.get(`/api${path}/versions`)).json()) as { items: unknown[] };
  expect(items.length).toBeGreaterThan(0);
  const { at } = (await (await ines.request.get(`/api${path}/history`)).json()) as { at: number[] };
  await ines.goto(`${path}?earlier=0&later=${at.length}`);
  await marks(ines).filter({ hasText: 'Go round' }).first().hover();
  const note = ines.getByRole('note');
  await expect(note).toContainText('Tobias Rahn');
  await note.getByRole('button', { name: 'Go to that moment' }).last().click();
  await expect(ines.locator('ins').filter({ hasText: /./ }).first()).toBeVisible();
  await expect(ines).toHaveURL(/earlier=[1-9]/);
  await ines.goto(`${path}?earlier=0&later=${at.length}`);
  await marks(ines).first().waitFor();
  await ines.getByRole('document', { name: 'as it was' }).focus();
  await ines.keyboard.press('g');
  await expect(ines).not.toHaveURL(new RegExp(`earlier=0&later=${at.length}$`));
  await ines.goto(`${path}?earlier=1&later=1`);
  await expect(ines.getByText('nothing to compare')).toBeVisible();
});

test('a file from outside is compared with a version, and so is another document', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await open(page, 'Boat-day briefing');
  const file = {
    name: 'harbour.md',
    mimeType: 'text/markdown',
    buffer: Buffer.from('# Boat-day briefing\n\nSix places a boat, no more.\n'),
  };
  await page.getByRole('button', { name: 'Compare …' }).click();
  await page.getByLabel('A file from outside').setInputFiles(file);
  await expect(page.getByRole('region', { name: 'The picked moment' })).toContainText('harbour.md');
  await expect(page.locator('ins').filter({ hasText: 'no more' }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();
  const dropped = await page.evaluateHandle(() => {
    const data = new DataTransfer();
    data.items.add(new File(['# Boat-day briefing\n\nDropped here.\n'], 'dropped.md'));
    return data;
  });
  await page.locator('main').dispatchEvent('drop', { dataTransfer: dropped });
  await expect(page.getByRole('region', { name: 'The picked moment' })).toContainText('dropped.md');
  await expect(page.locator('ins').filter({ hasText: 'Dropped here' }).first()).toBeVisible();
  await page.getByRole('button', { name: /^Choose what to compare/ }).click();
  await page.getByLabel('A file from outside').setInputFiles({ ...file, name: 'picture.png' });
  await expect(page.getByRole('alert')).toContainText('can be read');
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();

  await page.getByRole('button', { name: 'Compare …' }).click();
  await page.getByRole('combobox', { name: 'Of which document' }).click();
  await page.getByRole('option', { name: 'Minutes of the trust' }).click();
  await page.getByRole('button', { name: 'Compare these two' }).click();
  await expect(page.getByText(/^Minutes of the trust: Version/).first()).toBeVisible();
  await expect(marks(page).first()).toBeVisible();
});

test('a comparison is taken away as one web page', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await compareLast(page, 'Boat-day briefing');
  await page.getByRole('button', { name: 'Print or save this comparison' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save it as a web page' }).click();
  const download = await waiting;
  expect(download.suggestedFilename()).toBe('Boat-day briefing compared.html');
  const saved = await readFile(await download.path(), 'utf8');
  expect(saved).toContain('throw line</ins>');
  expect(saved).toMatch(/Mairead Quill|Hanneke Voss/);
  const sheet = await page.context().newPage();
  for (const [html, sheets] of [
    [saved, 1],
    [saved.replace('</header>', '</header><p>Before it</p><hr data-page-break>'), 2],
  ] as const) {
    await sheet.setContent(html);
    const pdf = (await sheet.pdf({ preferCSSPageSize: true })).toString('latin1');
    expect(pdf.match(/\/Type\s*\/Page\b/g)?.length).toBe(sheets);
    expect(pdf).toMatch(/\/MediaBox\s*\[0 0 59[45][.\d]* 84[12]/);
  }
  await sheet.close();
  const served = await page.request.get(
    `/api${new URL(page.url()).pathname}/compare?earlier=1&later=2&format=html`,
  );
  expect(served.headers()['content-type']).toContain('text/html');
  expect(await served.text()).toContain('<ins');
});

test('files that came back from readers are decided passage by passage, and go on top', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await make(page, 'Sent round');
  await text(page).pressSequentially('The gate is shut at noon.\nBring boots.');
  await kept(page);
  await page.getByRole('button', { name: 'Compare …' }).click();
  await page.getByRole('button', { name: 'Returned files …' }).click();
  const file = (name: string, lines: string[]) => ({
    name,
    mimeType: 'text/markdown',
    buffer: Buffer.from(lines.join('\n\n')),
  });
  await page
    .getByLabel('Files that came back')
    .setInputFiles([
      file('Ada.md', ['The gate is shut at ten.', 'Bring warm boots.']),
      file('Ben.md', ['The gate is shut at nine.', 'Bring warm boots.']),
    ]);
  const room = page.getByRole('region', { name: 'Returned files' });
  await expect(room).toContainText('2 passages were changed.');
  await expect(room.getByRole('radio', { name: '“warm” Ada, Ben' })).toBeVisible();
  const done = room.getByRole('button', { name: 'Put it on top' });
  await expect(done).toBeDisabled();
  for (const width of [420, 1280]) {
    await page.setViewportSize({ width, height: 800 });
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth > innerWidth)).toBe(false);
  }
  await room.getByRole('radio', { name: '“nine” Ben' }).check();
  const download = page.waitForEvent('download');
  await room.getByRole('button', { name: 'Export as a redline' }).click();
  await page.getByRole('menuitem', { name: 'As .html' }).click();
  const stream = await (await download).createReadStream();
  let redline = '';
  for await (const part of stream) redline += String(part);
  expect(redline).toContain('Ada, Ben');
  await done.click();
  await expect(marks(page).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(text(page)).toContainText('The gate is shut at nine.Bring warm boots.');
});
