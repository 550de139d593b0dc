import AxeBuilder from '@axe-core/playwright';
import { readFile } from 'node:fs/promises';
import { below, expect, kept, make, open, test, text } from './oxbow';

test('a file becomes a document, another its next version, and both can be copied out', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await chooser
  ).setFiles({
    name: 'tide-tables.md',
    mimeType: 'text/markdown',
    buffer: Buffer.from('# Tide tables\n\n- springs\n- neaps\n'),
  });
  await expect(text(page).getByRole('listitem')).toHaveText(['springs', 'neaps']);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  const row = page.getByRole('listitem').filter({ hasText: 'Tide tables' });
  const data = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    transfer.items.add(
      new File(
        ['<h1>Tide tables</h1><ul><li>springs and equinox</li><li>neaps</li></ul><script>alert(1)</script>'],
        'tables.html',
      ),
    );
    return transfer;
  });
  await row.dispatchEvent('drop', { dataTransfer: data });
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Import tables.html as the next version of Tide tables');
  await dialog.getByRole('button', { name: 'Import it' }).click();
  await expect(page.getByLabel('The document as it was')).toContainText('and equinox');
  const card = page.getByRole('region', { name: 'The picked moment' });
  await expect(card).toContainText('From the file tables.html');
  await card.getByRole('button', { name: 'Export or copy' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'As Markdown (.md)' }).click();
  expect((await saved).suggestedFilename()).toBe('Tide tables version 3.md');
});

test('a file that cannot be read is said to be so, and nothing is made of it', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  await expect(page.getByRole('link', { name: 'Boat-day briefing', exact: true })).toBeVisible();
  const count = await page.locator('ox-shelf-row').count();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await chooser
  ).setFiles({ name: 'picture.md', mimeType: 'text/markdown', buffer: Buffer.from([0x89, 0x50, 0, 0x47]) });
  await expect(page.getByRole('alert')).toContainText('This file is not text');
  expect(await page.locator('ox-shelf-row').count()).toBe(count);
});

test('collections are made, renamed and filled, and another window follows', async ({ browser, oxbow }) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const watching = await oxbow.as(browser, 'Ines Okell');
  await ines.getByRole('button', { name: 'New collection' }).click();
  await ines.getByLabel('Name of the new collection').fill('Harbour');
  await ines.getByRole('button', { name: 'Make the collection' }).click();
  await ines.getByRole('button', { name: 'What can be done with Walking the Withy' }).click();
  await ines.getByRole('menuitem', { name: 'Move to a collection' }).click();
  await ines.getByRole('menuitem', { name: 'Harbour' }).click();
  await expect(
    below(watching, 'Harbour')
      .first()
      .getByRole('link', { name: 'Walking the Withy tide mill', exact: true }),
  ).toBeVisible();
  await ines.getByRole('button', { name: 'Rename the collection Harbour' }).click();
  await ines.getByLabel('Name of the collection').fill('Boats and harbour');
  await ines.keyboard.press('Enter');
  await expect(watching.getByRole('heading', { name: 'Boats and harbour' })).toBeVisible();
  await ines.getByRole('button', { name: 'What can be done with Walking the Withy' }).click();
  await ines.getByRole('menuitem', { name: 'Move to a collection' }).click();
  await ines.getByRole('menuitem', { name: 'Visitors' }).click();
  await expect(below(watching, 'Visitors').first()).toContainText('Walking the Withy');
});

test('the words "last changed" lead into the history, and a reload comes back to the same place', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Jun Asari');
  await page.getByRole('link', { name: /look at that in the history of Minutes of the trust/ }).click();
  const card = page.getByRole('region', { name: 'The picked moment' });
  await expect(card).toContainText(/[A-Z]\w+ [A-Z]\w+/);
  await expect(page.locator('.at-hand').first()).toBeInViewport();
  await page.getByRole('button', { name: 'Zoom in' }).click();
  await page.getByRole('button', { name: 'Log', exact: true }).click();
  const range = await page.locator('.range').textContent();
  const address = page.url();
  await page.reload();
  await expect(card).toContainText(/[A-Z]\w+ [A-Z]\w+/);
  expect(page.url()).toBe(address);
  await expect(page.getByRole('table', { name: 'Sittings, versions and edits' })).toBeVisible();
  await expect(page.locator('.range')).toHaveText(range ?? '');
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();
});

test('a new title shows everywhere, and a version is kept when somebody asks', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await make(page, 'Draft');
  await page.getByRole('button', { name: 'Draft' }).click();
  await page.getByLabel('Title').fill('Spring programme');
  await page.keyboard.press('Enter');
  await text(page).pressSequentially('April');
  await page.getByRole('button', { name: 'Keep a version now' }).click();
  await page.getByLabel('Comment on this version').fill('first month');
  await page.getByRole('checkbox', { name: 'Major' }).check();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Kept as version 2 (1.0)')).toBeVisible();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await open(page, 'Spring programme');
});

test('a whole history is saved as one file, and brought in again as it was', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Mairead Quill');
  await make(page, 'Kept whole');
  await text(page).pressSequentially('The gate opens at the ebb.');
  await kept(page);
  await page.getByRole('button', { name: 'Keep a version now' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Kept as version 2')).toBeVisible();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'What can be done with Kept whole' }).click();
  await page.getByRole('menuitem', { name: 'Save its whole history' }).click();
  const download = await saved;
  expect(download.suggestedFilename()).toBe('Kept whole history.zip');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await chooser
  ).setFiles({
    name: 'whole.zip',
    mimeType: 'application/zip',
    buffer: await readFile(await download.path()),
  });
  await expect(text(page)).toContainText('The gate opens at the ebb.');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  const rows = page.getByRole('listitem').filter({ hasText: 'Kept whole' });
  await expect(rows).toHaveCount(2);
  await expect(rows.filter({ hasText: 'Version 2' })).toHaveCount(2);
});

test('the shelf is narrowed, ordered and marked, and stays so in its address and for its reader', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Petru Dalca');
  const titles = page.locator('ox-shelf-row .title');
  await expect(titles.first()).toBeVisible();
  const all = await titles.count();
  await page.getByLabel('Words in the title').fill('mill');
  // Other tests make documents on the same shelf.
  await expect(titles.filter({ hasNotText: /mill/i })).toHaveCount(0);
  await expect(titles.filter({ hasText: 'Walking the Withy tide mill' })).toHaveCount(1);
  await expect(page).toHaveURL(/title=mill/);
  await page.getByRole('button', { name: 'Favourite: Walking the Withy tide mill' }).click();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(titles).toHaveCount(all);
  await page.getByRole('radio', { name: 'Favourites' }).click();
  await expect(titles).toHaveText(['Walking the Withy tide mill']);
  await page.getByRole('button', { name: 'Dense' }).click();
  await expect(page.locator('ox-shelf-row.dense')).toHaveCount(1);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.reload();
  await expect(page.locator('ox-shelf-row.dense .title')).toHaveText(['Walking the Withy tide mill']);
  await page.getByRole('combobox', { name: 'Written in by' }).click();
  await page.getByRole('option', { name: 'By Jun Asari' }).click();
  await page.getByRole('radio', { name: 'All' }).click();
  await expect(titles.filter({ hasText: 'Saltmarsh field notes' })).toHaveCount(1);
  await expect(titles.filter({ hasText: 'Minutes of the trust' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Roomy' }).click();
  await page.getByRole('button', { name: 'Favourite: Walking the Withy tide mill' }).click();
});
