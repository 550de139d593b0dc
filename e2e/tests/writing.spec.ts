import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { expect, kept, make, test, text } from './oxbow';

test('writing is undone by a button, links are changed by a key, and words are found and replaced', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await make(page, 'Writing tools');
  const tools = page.getByRole('toolbar', { name: 'Writing tools' });
  await expect(tools.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await text(page).pressSequentially('The tide turns the mill. ');
  await kept(page);
  await text(page).pressSequentially('No tide, no mill.');
  await kept(page);
  await tools.getByRole('button', { name: 'Undo' }).click();
  await expect(text(page)).not.toContainText('No tide');
  await tools.getByRole('button', { name: 'Redo' }).click();
  await expect(text(page)).toContainText('No tide, no mill.');

  await page.keyboard.press('Control+f');
  const find = page.getByRole('search', { name: 'Find and replace' });
  await find.getByLabel('Find on this page').fill('mill');
  await expect(find.getByRole('status')).toHaveText('2 found');
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await find.getByLabel('Replace with').fill('wheel');
  await find.getByRole('button', { name: 'Replace all' }).click();
  await expect(text(page)).toContainText('The tide turns the wheel. No tide, no wheel.');
  await page.keyboard.press('Escape');
  await expect(find).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(text(page)).toContainText('turns the mill');

  await text(page)
    .getByText('The tide turns')
    .dblclick({ position: { x: 8, y: 8 } });
  await page.keyboard.press('Control+k');
  await page.getByLabel('Address').fill('withymill.example');
  await page.keyboard.press('Enter');
  const link = text(page).getByRole('link');
  await expect(link).toHaveAttribute('href', 'https://withymill.example');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Control+k');
  await expect(page.getByLabel('Address')).toHaveValue('https://withymill.example');
  await page.getByLabel('Address').fill('');
  await page.keyboard.press('Enter');
  await expect(link).toHaveCount(0);
});

test('a page gets headings, a table, a footnote and a set-up, shows its outline, and is taken away as a file and found so again', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await make(page, 'Set up in full');
  await page.getByRole('button', { name: 'Minutes' }).click();
  await expect(text(page).getByRole('heading', { name: 'Next meeting' })).toBeVisible();
  await expect(page.getByText('Or begin with')).toHaveCount(0);

  // A footnote is written at the end, and Enter leads back to its sign.
  await text(page).getByText('Date, place, and who was there').click();
  await page.keyboard.press('End');
  const tools = page.getByRole('toolbar', { name: 'Writing tools' });
  const insert = tools.getByRole('button', { name: 'Insert', exact: true });
  await insert.click();
  await page.getByRole('menuitem', { name: 'Footnote' }).click();
  await page.keyboard.type('By the old datum.');
  await page.keyboard.press('Enter');
  await page.keyboard.type(' at the hut');
  await expect(text(page).locator('sup[data-number="1"]')).toHaveCount(1);
  await expect(text(page).locator('p[data-footnote][data-number="1"]')).toHaveText('By the old datum.');
  await expect(text(page)).toContainText('who was there at the hut');

  // A column that is made wider keeps every other cell as it is.
  await text(page).locator('td').first().click();
  await page.keyboard.type('Tobias');
  await tools.getByRole('button', { name: 'Rows and columns' }).click();
  await page.getByRole('menuitem', { name: 'Wider column' }).click();
  await expect(text(page).locator('td').first()).toHaveAttribute('data-colwidth', '180');
  await tools.getByRole('button', { name: 'Rows and columns' }).click();
  await page.getByRole('menuitem', { name: 'Row above' }).click();
  await expect(text(page).locator('tr')).toHaveCount(5);

  await insert.click();
  await page.getByRole('menuitem', { name: 'Page set-up' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'Landscape' }).check();
  await dialog.getByLabel('top').fill('200');
  await expect(dialog.getByRole('button', { name: 'Set up the page' })).toBeDisabled();
  await dialog.getByLabel('top').fill('30');
  await dialog.getByRole('button', { name: 'Add page numbers' }).click();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await dialog.getByRole('button', { name: 'Set up the page' }).click();
  await expect(text(page)).toContainText(
    'Page: A4, landscape; margins 30, 25, 25, 25 mm; footer: {page} of {pages}',
  );
  await kept(page);

  await page.keyboard.press('Alt+o');
  const outline = page.getByRole('navigation', { name: 'Outline' });
  await expect(outline.getByRole('button')).toHaveCount(4);
  await outline.getByRole('button', { name: /^What was decided/ }).click();
  await page.keyboard.press('End');
  await page.keyboard.type(' today');
  await expect(outline.getByRole('button', { name: /^What was decided today/ })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.keyboard.press('Alt+o');
  await kept(page);

  // What goes out as a word-processor file comes in again as it was.
  await page.getByRole('button', { name: 'Export' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: /\.docx/ }).click(),
  ]);
  const filed = await page.request.post('/api/documents/import', {
    headers: { Origin: new URL(page.url()).origin },
    multipart: {
      file: {
        name: 'again.docx',
        mimeType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
        buffer: await readFile(await download.path()),
      },
    },
  });
  const { id } = (await filed.json()) as { id: string };
  await page.goto(`/documents/${id}`);
  await expect(text(page).locator('sup[data-number="1"]')).toHaveCount(1);
  await expect(text(page)).toContainText('Page: A4, landscape; margins 30, 25, 25, 25 mm');

  // Taking the sign out takes its footnote with it; undo brings both back.
  await text(page).getByText('at the hut').click();
  await text(page).locator('sup[data-note]').click();
  await expect(text(page)).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Backspace');
  await expect(text(page).locator('[data-footnote]')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(text(page).locator('[data-footnote]')).toHaveText('By the old datum.');
});

test('an image is placed, captioned and sized, and undone', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await make(page, 'With a picture');
  await text(page).pressSequentially('The wheel. ');
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  );
  await page
    .getByLabel('Image to insert')
    .setInputFiles({ name: 'wheel.png', mimeType: 'image/png', buffer: png });
  const image = text(page).locator('img[data-image]');
  await expect(image).toHaveAttribute('alt', 'wheel');
  await image.click();
  const tools = page.getByRole('toolbar', { name: 'Writing tools' });
  await tools.getByRole('button', { name: 'This image' }).click();
  await page.getByRole('menuitem', { name: 'At the right, text beside it' }).click();
  await expect(text(page).locator('.figure[data-place="end"]')).toHaveCount(1);
  await tools.getByRole('button', { name: 'This image' }).click();
  await page.getByRole('menuitem', { name: 'Size and caption' }).click();
  const form = page.getByRole('form', { name: 'This image' });
  await form.getByLabel('Caption').fill('The wheel in 1911');
  await form.getByLabel('What it shows').fill('An undershot wheel');
  await form.getByLabel('Width').fill('120');
  await page.keyboard.press('Enter');
  await expect(text(page).locator('.caption')).toHaveText('The wheel in 1911');
  await expect(image).toHaveAttribute('alt', 'An undershot wheel');
  await expect(image).toHaveAttribute('width', '120');
  await kept(page);
  await page.reload();
  await expect(text(page).locator('.caption')).toHaveText('The wheel in 1911');
});
