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
