import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { compare } from '@oxbow/core/compare';
import { readDocx, readOdt, writeDocx, writeDocxRedline } from '@oxbow/core/formats';
import { build } from '@oxbow/core/testing';
import type { Page } from '@playwright/test';
import { expect, open, test, text } from './oxbow';

const { bold, doc, h, li, p, ul } = build;
const about = {
  title: 'Rope list',
  author: 'Tamsin Reve',
  at: '2026-11-20T10:00:00.000Z',
  picture: () => null,
};
const before = doc(h(1, 'Rope list'), p('Two coils of hemp.'), ul(li(p('the thin one')), li(p('spare'))));
const after = doc(h(1, 'Rope list'), p('Three coils of ', bold('hemp'), '.'), ul(li(p('the thin one'))));
const redline = (): Uint8Array =>
  writeDocxRedline(
    compare(before, after),
    (_change, _side, from, to) => [{ author: 'Tamsin Reve', at: '2026-11-20T10:00:00.000Z', from, to }],
    about,
  );

/** A file as it is dragged into the page. */
async function dragged(page: Page, name: string, bytes: Uint8Array) {
  return page.evaluateHandle(
    ({ name, base64 }) => {
      const transfer = new DataTransfer();
      const data = Uint8Array.from(atob(base64), (unit) => unit.charCodeAt(0));
      transfer.items.add(new File([data], name));
      return transfer;
    },
    { name, base64: Buffer.from(bytes).toString('base64') },
  );
}

test('a .docx is dragged onto the shelf, onto a document and onto a comparison, and taken away as a redline', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  const dataTransfer = await dragged(page, 'rope_list.docx', writeDocx(before, about));
  await page.locator('main').dispatchEvent('drop', { dataTransfer });
  await expect(text(page).getByRole('listitem')).toHaveText(['the thin one', 'spare']);

  await page.getByRole('link', { name: 'To the shelf' }).click();
  const row = page.getByRole('listitem').filter({ hasText: 'Rope list' });
  await row.dispatchEvent('drop', { dataTransfer: await dragged(page, 'rope list.docx', redline()) });
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('The file says it is by Tamsin Reve');
  await expect(dialog).toContainText(/It holds \d+ tracked changes by Tamsin Reve/);
  expect((await new AxeBuilder({ page }).include('ox-filing-dialog').analyze()).violations).toEqual([]);
  await dialog.getByRole('radio', { name: 'Both' }).click();
  await dialog.getByLabel('A word about where it comes from').fill('Tamsin read it on the train');
  await dialog.getByRole('button', { name: 'Import it' }).click();
  const card = page.getByRole('region', { name: 'The picked moment' });
  await expect(card).toContainText('Tamsin read it on the train');
  await expect(card).toContainText(/tracked changes by Tamsin Reve/);
  await expect(page.locator('ins').filter({ hasText: 'Three' })).toBeVisible();

  for (const [ending, read] of [
    ['docx', readDocx],
    ['odt', readOdt],
  ] as const) {
    const saved = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Print or save this comparison' }).click();
    await page.getByRole('menuitem', { name: `Save it with tracked changes (.${ending})` }).click();
    const download = await saved;
    expect(download.suggestedFilename()).toBe(`Rope list compared.${ending}`);
    const reading = read(readFileSync(await download.path()));
    expect(reading.doc.toJSON()).toEqual(after.toJSON());
    expect(reading.before?.toJSON()).toEqual(before.toJSON());
    expect(new Set(reading.tracked.map(({ author }) => author))).toEqual(new Set(['Hanneke Voss']));
  }

  const third = doc(h(1, 'Rope list'), p('Four coils of hemp.'));
  await page
    .locator('main')
    .dispatchEvent('drop', { dataTransfer: await dragged(page, 'more.docx', writeDocx(third, about)) });
  await expect(card).toContainText('A file from outside');
  await expect(page.locator('ins').filter({ hasText: 'Four' })).toBeVisible();
  await card.getByRole('button', { name: 'File it as the next version' }).click();
  await dialog.getByRole('button', { name: 'Import it' }).click();
  await expect(card).toContainText('From the file more.docx by Tamsin Reve');
  await expect(page.getByLabel('The document as it was')).toContainText('Four coils');
});

test('a broken word-processor file is refused in words, and nothing is made of it', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  const dataTransfer = await dragged(page, 'broken.odt', redline().subarray(0, 400));
  await page.locator('main').dispatchEvent('drop', { dataTransfer });
  await expect(page.getByRole('alert')).toContainText('This file is damaged');
  await open(page, 'Boat-day briefing');
});
