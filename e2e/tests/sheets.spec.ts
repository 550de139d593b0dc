import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { violationsIn } from './axe';
import { expect, kept, makeSheets, open, share, test } from './oxbow';

/** The cell of a name, such as B3, on the page one writes on. */
function cell(page: Page, name: string) {
  const [, letters = 'A', digits = '1'] = /^([A-Z])(\d+)$/.exec(name) ?? [];
  return page.locator(`ox-grid #cell-${Number(digits) - 1}-${letters.charCodeAt(0) - 65}`);
}

/** Goes to a cell by its name. */
async function go(page: Page, name: string): Promise<void> {
  const where = page.getByRole('textbox', { name: /The cell in hand/ });
  await where.fill(name);
  await where.press('Enter');
  await expect(page.getByRole('grid')).toBeFocused();
}

/** Types rows from the cell in hand on, as one does: Tab along a row, Enter to the next. */
async function typeRows(page: Page, rows: readonly (readonly string[])[]): Promise<void> {
  for (const row of rows)
    for (const [i, text] of row.entries()) {
      await page.keyboard.type(text);
      await page.keyboard.press(i === row.length - 1 ? 'Enter' : 'Tab');
    }
}

/** Where the versions of a document are in its history, the first one first. */
async function seqsOf(page: Page, path: string): Promise<number[]> {
  const answer = await page.request.get(`/api${path}/versions`);
  const { items } = (await answer.json()) as { items: { seq: number }[] };
  return items.map(({ seq }) => seq).reverse();
}

const BUDGET = [
  ['Item', 'Hours', 'Rate', 'Cost'],
  ['Caulking', '12', '38.5', '=B2*C2'],
  ['Tar and rope', '3', '120', '=B3*C3'],
];

test('a budget is typed, summed and filled by two people at once; each undoes only their own', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await makeSheets(ines, 'Boat costs');
  await share(ines, path, 'petru', 'editor');
  await typeRows(ines, BUDGET);
  await expect(cell(ines, 'D3')).toHaveText('360');
  await kept(ines);

  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await expect(cell(petru, 'D2')).toHaveText('462');
  await go(petru, 'A4');
  await petru.keyboard.type('Total');
  await petru.keyboard.press('Enter');
  await go(petru, 'D4');
  await petru.keyboard.type('=SUM(D2:D3)');
  await petru.keyboard.press('Enter');
  await expect(cell(ines, 'D4')).toHaveText('822');
  await expect(ines.locator('ox-grid .guest')).toHaveAttribute('data-who', 'PD');

  await go(ines, 'B2');
  await ines.keyboard.type('14');
  await ines.keyboard.press('Enter');
  await expect(cell(petru, 'D4')).toHaveText('899');
  await go(ines, 'A3');
  await ines.keyboard.press('Alt+ArrowUp');
  await expect(cell(petru, 'A2')).toHaveText('Tar and rope');
  await expect(cell(petru, 'D4')).toHaveText('899');
  await petru.getByRole('grid').focus();
  await petru.keyboard.press('Control+z');
  await expect(cell(ines, 'D4')).toHaveText('');
  await ines.keyboard.press('Control+z');
  await ines.keyboard.press('Control+z');
  await expect(cell(petru, 'D2')).toHaveText('462');
});

test('a budget is filed again and again, its second version is opened, its first restored, and it is taken out as a workbook', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  const csv = (spent: string): { name: string; mimeType: string; buffer: Buffer } => ({
    name: 'regatta.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Item,Spent\r\nBunting,${spent}\r\nTea,31\r\n`),
  });
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (await chooser).setFiles(csv('40'));
  await expect(cell(page, 'B2')).toHaveText('40');
  const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
  await page.getByRole('link', { name: 'To the shelf' }).click();
  for (const spent of ['55', '70']) {
    await page.getByRole('button', { name: 'What can be done with regatta' }).click();
    const next = page.waitForEvent('filechooser');
    await page.getByRole('menuitem', { name: /next version/ }).click();
    await (await next).setFiles(csv(spent));
    await page.getByRole('dialog').getByRole('button', { name: 'Import it' }).click();
    await expect(page.getByRole('grid', { name: /with marks/ })).toContainText(spent);
    await page.goto('/');
  }
  await page.goto(`/documents/${id}`);
  await expect(cell(page, 'B2')).toHaveText('70');
  const card = page.getByRole('region', { name: 'The picked moment' });
  const seqs = await seqsOf(page, `/documents/${id}`);
  await page.goto(`/documents/${id}?earlier=${seqs[1] ?? 0}&later=${seqs[2] ?? 0}`);
  await expect(card).toContainText('B2 was “40”, is “55”');
  await expect(page.getByRole('grid', { name: /with marks/ })).toContainText('4055');
  await page.goto(`/documents/${id}?earlier=${seqs[0] ?? 0}&later=${seqs[1] ?? 0}`);
  await card.getByRole('button', { name: /^Restore/ }).click();
  await card.getByRole('button', { name: /^Put .* on top$/ }).click();
  await expect(page.getByText('is back on top')).toBeVisible();
  await expect(cell(page, 'B2')).toHaveText('40');

  await page.getByRole('button', { name: 'Export' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /\.xlsx/ }).click();
  const file = await readFile(await (await saved).path());
  await page.goto('/');
  const again = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (await again).setFiles({ name: 'again.xlsx', mimeType: 'application/zip', buffer: file });
  await expect(cell(page, 'B2')).toHaveText('40');
  await expect(page.getByRole('tab')).toHaveCount(1);
});

test('a budget that was sent round comes back from two readers, and a copy of it comes home, cell by cell', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  const path = await makeSheets(page, 'Sent round');
  await typeRows(page, [
    ['Item', 'Spring', 'Summer'],
    ['Rope', '120', '80'],
    ['Paint', '60', '40'],
    ['Boats', '400', '300'],
  ]);
  await kept(page);
  const file = (name: string, ...rows: string[]) => ({
    name,
    mimeType: 'text/csv',
    buffer: Buffer.from(['Item,Spring,Summer', ...rows].join('\n')),
  });
  const { seq } = (await (await page.request.get(`/api${path}`)).json()) as { seq: number };
  const copied = await page.request.post(`/api${path}/copies`, { data: { seq, title: 'Tried out' } });
  const copy = ((await copied.json()) as { id: string }).id;

  await page.goto(`${path}?room=returned`);
  await page
    .getByLabel('Files that came back')
    .setInputFiles([
      file('Ada.csv', 'Rope,150,80', 'Sails,90,0', 'Paint,60,40', 'Boats,400,300'),
      file('Ben.csv', 'Rope,160,80', 'Paint,60,45', 'Boats,400,300'),
    ]);
  const room = page.getByRole('region', { name: 'Returned files' });
  await expect(room).toContainText('3 passages were changed.');
  await expect(room.locator('.where')).toHaveText(['B2 · Rope', 'Row 3 · Sails', 'C3 · Paint']);
  expect(await violationsIn(page)).toEqual([]);
  await room.getByRole('radio', { name: '“160” Ben' }).check();
  await room.getByRole('button', { name: 'Put it on top' }).click();
  await expect(page.getByRole('grid', { name: /with marks/ })).toContainText('Sails');
  await page.keyboard.press('Escape');
  await expect(cell(page, 'B2')).toHaveText('160');
  await expect(cell(page, 'A3')).toHaveText('Sails');
  await expect(cell(page, 'C4')).toHaveText('45');

  await page.goto(`/documents/${copy}`);
  await go(page, 'B2');
  await page.keyboard.type('170');
  await page.keyboard.press('Enter');
  await page.keyboard.type('65');
  await page.keyboard.press('Enter');
  await kept(page);
  await page.goto(`/documents/${copy}?room=home`);
  const home = page.getByRole('region', { name: 'Bring this copy home' });
  await expect(home).toContainText('One place was changed in both, differently');
  await expect(home).toContainText('B2 · Rope');
  await home.getByRole('radio', { name: 'In this copy: “170”' }).check();
  await home.getByRole('button', { name: 'Put it into Sent round' }).click();
  await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(cell(page, 'B2')).toHaveText('170');
  await expect(cell(page, 'A3')).toHaveText('Sails');
  await expect(cell(page, 'B4')).toHaveText('65');
});

test('what vanished from the demo’s budget is seen, followed over time, and carried back', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  await open(page, 'Volunteer rota and budget');
  const { pathname } = new URL(page.url());
  const versions = (await (await page.request.get(`/api${pathname}/versions`)).json()) as {
    items: { number: number; seq: number; cause: string }[];
  };
  const restored = versions.items.find(({ cause }) => cause === 'restore');
  const [after, before] = versions.items.filter(({ seq }) => seq < (restored?.seq ?? 0));
  await page.goto(`${pathname}?earlier=${before?.seq ?? 0}&later=${after?.seq ?? 0}`);
  const table = page.getByRole('grid', { name: /with marks/ });
  await expect(table.locator('.cell.was-removed').first()).toBeVisible();
  await expect(page.locator('.summary')).toContainText('3 rows');
  await page.getByRole('radio', { name: 'Facing' }).click();
  await expect(page.getByRole('grid')).toHaveCount(2);
  await page.getByRole('radio', { name: 'Digest' }).click();
  await expect(page.getByText(/Row \d+ removed/).first()).toBeVisible();

  await page.goto(pathname);
  await page.getByRole('tab', { name: 'Budget' }).click();
  await go(page, 'C2');
  await page.keyboard.press('Alt+l');
  await expect(page.getByRole('heading', { name: /C2 over time/ })).toBeVisible();
  await expect(page.locator('ox-cell-over-time table')).toBeVisible();

  await page.goto(pathname);
  await page.getByRole('tab', { name: 'Budget' }).click();
  await go(page, 'A2');
  const name = 'Oars and rowlocks';
  await expect(cell(page, 'A2')).toHaveText(name);
  await page.getByRole('button', { name: 'Rows and columns' }).click();
  await page.getByRole('menuitem', { name: 'Remove row' }).click();
  await expect(cell(page, 'A2')).not.toHaveText(name);
  await kept(page);
  await page.goto(
    `${pathname}?room=carry&earlier=${(after?.seq ?? 0) - 1}&later=${versions.items[0]?.seq ?? 0}`,
  );
  await page.locator('ox-pick-page td', { hasText: name }).click();
  await page.getByRole('button', { name: 'Pick more' }).click();
  await page.getByRole('button', { name: /Carry it to where it stood/ }).click();
  await expect(page.getByText('Carried forward, with its writers.')).toBeVisible();
  await page.getByRole('button', { name: 'Back to the page' }).click();
  await page.keyboard.press('Escape');
  await expect(cell(page, 'A2')).toHaveText(name);
});

test('a sheet is written, sorted, frozen, named and found in by keys alone, and heard cell by cell', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await makeSheets(page, 'By keys');
  await typeRows(page, [
    ['Oar', '4'],
    ['Bailer', '9'],
    ['Rope', '2'],
  ]);
  const heard = async (): Promise<string | null> => {
    const id = await page.getByRole('grid').getAttribute('aria-activedescendant');
    return page.locator(`#${id ?? ''}`).getAttribute('aria-label');
  };
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('ArrowRight');
  await expect.poll(heard).toBe('B1, 4');
  const act = async (name: string): Promise<void> => {
    await page.keyboard.press('Control+/');
    await page.getByRole('combobox').fill(name);
    await page.keyboard.press('Enter');
  };
  await act('Sort, largest first');
  await expect(cell(page, 'A1')).toHaveText('Bailer');
  await act('Add a sheet');
  await expect(page.getByRole('tab', { name: 'Sheet 2' })).toHaveAttribute('aria-selected', 'true');
  await act('Rename the sheet');
  await expect(page.getByRole('textbox', { name: 'Name of the sheet' })).toBeFocused();
  await page.keyboard.type('Stores');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('tab', { name: 'Stores' })).toBeVisible();
  await page.getByRole('grid').focus();
  await page.keyboard.press('Control+f');
  await expect(page.getByRole('searchbox', { name: 'Find in the cells' })).toBeFocused();
  await page.keyboard.type('rope');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('tab', { name: 'Sheet 1' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Escape');
  await expect.poll(heard).toContain('Rope');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('grid')).not.toBeFocused();
});

for (const width of [1280, 420])
  test(`axe finds nothing wrong with sheets, ${width} wide`, async ({ browser, oxbow }) => {
    const page = await oxbow.as(browser, 'Hanneke Voss');
    await page.setViewportSize({ width, height: 800 });
    await open(page, 'Volunteer rota and budget');
    await expect(page.getByRole('gridcell').first()).toBeVisible();
    expect(await violationsIn(page)).toEqual([]);
    const { pathname } = new URL(page.url());
    await page.goto(`${pathname}?earlier=3&later=60`);
    await expect(page.getByRole('grid', { name: /with marks/ })).toBeVisible();
    for (const reading of ['Flowing', 'Facing', 'Digest']) {
      await page.getByRole('radio', { name: reading }).click();
      await expect(page.getByRole('radio', { name: reading })).toBeChecked();
      expect(await violationsIn(page)).toEqual([]);
    }
    await page.goto(`${pathname}?room=carry&earlier=3&later=60`);
    await expect(page.locator('ox-pick-page td').first()).toBeVisible();
    expect(await violationsIn(page)).toEqual([]);
  });
