import AxeBuilder from '@axe-core/playwright';
import { expect, test } from './oxbow';

test('somebody signs out elsewhere from here, and is told why a password is too easily guessed', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  const other = await (
    await browser.newContext({ baseURL: oxbow.address, userAgent: 'Elsewhere/1.0' })
  ).newPage();
  await other.goto('/');
  await other.getByRole('button', { name: 'Sign in as Hanneke Voss' }).click();
  await expect(other.getByRole('heading', { name: 'Shelf' })).toBeVisible();

  await page.getByRole('button', { name: 'Hanneke Voss' }).click();
  await page.getByRole('menuitem', { name: 'Your account' }).click();
  await expect(page.getByText('this window')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id }) => id)).toEqual([]);

  await page.getByRole('button', { name: 'Sign out of Elsewhere' }).click();
  await expect(page.getByText('Elsewhere')).toHaveCount(0);
  await expect(other.getByRole('heading', { name: 'With your own address' })).toBeVisible();
  await expect(other.getByText('Your session has ended.')).toBeVisible();

  await page.getByLabel('Current password').fill('tidemill');
  await page.getByLabel('New password').fill('hanneke voss');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This is too easily guessed.')).toBeVisible();
  await page.getByLabel('Current password').fill('tidewheel');
  await page.getByRole('button', { name: 'Change password' }).click();
  await expect(page.getByText('That is not your password')).toBeVisible();
  await expect(page.getByText('this window')).toBeVisible();
});
