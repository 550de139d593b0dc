import AxeBuilder from '@axe-core/playwright';
import { expect, test, text } from './oxbow';

test('help says what can be done here and what our words mean; any act, version and document is found by typing', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await page.getByRole('button', { name: 'What is this: Shelf' }).click();
  const help = page.getByRole('dialog');
  await expect(help.getByText('All documents that you have')).toBeInViewport();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await help.getByRole('button', { name: 'Close' }).click();
  await expect(help).toHaveCount(0);

  // By keys alone: from the shelf to a document, to a landmark of it, and to a room.
  await page.keyboard.press('Control+/');
  await expect(help.getByRole('combobox')).toBeFocused();
  await page.keyboard.type('walking withy');
  await expect(page.getByRole('option', { name: /Walking the Withy/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(text(page)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Landmark As agreed by the trust' })).toBeVisible();
  await page.keyboard.press('Control+/');
  await expect(help.getByRole('combobox')).toBeFocused();
  await page.keyboard.type('as agreed');
  await expect(page.getByRole('option', { name: /As agreed by the trust/ })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'The picked moment' })).toContainText(
    'As agreed by the trust',
  );
  // What was over the page is gone, and what had the focus beneath it too.
  await expect(help).toHaveCount(0);
  await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).toBe('BODY');
  await page.keyboard.press('?');
  await expect(help.getByRole('button', { name: 'Back to now' })).toBeVisible();
  await help.getByRole('button', { name: 'Back to now' }).click();
  await expect(help).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'The picked moment' })).toHaveCount(0);
  await page.keyboard.press('Control+/');
  await expect(help.getByRole('combobox')).toBeFocused();
  await page.keyboard.type('passages that have left');
  await expect(page.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Removed passages' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();

  await page.goto('/no/such/place');
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();
});

test('a first visit is shown the six questions, each where it is answered, once and again from help', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  const first = page.getByRole('region', { name: 'What this is for' });
  await expect(first.getByRole('listitem')).toHaveCount(6);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await first.getByRole('button', { name: 'Show me round' }).click();
  const card = page.getByRole('region', { name: 'Shown round' });
  const next = card.getByRole('button', { name: 'Next' });
  await expect(page.getByRole('region', { name: 'Removed passages' })).toBeVisible();
  await next.click();
  await expect(card).toContainText('What happened since I last looked?');
  await expect(text(page)).toBeVisible();
  await next.click();
  await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
  await next.click();
  await expect(page.getByRole('region', { name: 'The picked moment' })).toContainText(
    'As agreed by the trust',
  );
  await next.click();
  await expect(page.getByRole('region', { name: 'Contributors' })).toBeVisible();
  await next.click();
  await expect(card).toContainText('6 of 6');
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  const kept = page.waitForResponse((answer) => answer.url().endsWith('/api/me/preferences') && answer.ok());
  await card.getByRole('button', { name: 'Done' }).click();
  await kept;
  await expect(card).toHaveCount(0);
  await page.goto('/');
  await expect(page.locator('ox-shelf-row').first()).toBeVisible();
  await expect(first).toHaveCount(0);
  await page.keyboard.press('?');
  await page.getByRole('dialog').getByRole('button', { name: 'Show me round' }).click();
  await expect(card).toContainText('1 of 6');
});
