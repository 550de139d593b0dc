import { expect } from '@playwright/test';
import { choose, test } from './oxbow.js';

test('a moment of the past is named by keys alone, and opened by its link as somebody else', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  await ines.getByRole('link', { name: /^Boat-day briefing/ }).click();
  await expect(ines.getByRole('textbox', { name: 'The document' })).toBeVisible();
  const address = new URL(ines.url()).pathname;
  await ines.keyboard.press('Alt+t');
  await expect(ines.locator('[data-handle="later"]')).toBeFocused();
  await ines.keyboard.press('ArrowLeft');
  const card = ines.getByRole('region', { name: 'The picked moment' });
  await ines.keyboard.press('n');
  await expect(card.getByLabel('Name')).toBeFocused();
  await ines.keyboard.type('Before the harbour master');
  await ines.keyboard.press('Enter');
  await expect(card.locator('.landmark')).toHaveText('Before the harbour master');
  const time = await card.locator('.time').textContent();
  await expect(ines.getByRole('button', { name: 'Landmark Before the harbour master' })).toBeVisible();

  const jun = await oxbow.as(browser, 'Jun Asari');
  await jun.goto(`${address}/landmarks/${encodeURIComponent('before the harbour master')}`);
  const theirs = jun.getByRole('region', { name: 'The picked moment' });
  // How long ago that is goes on while the test runs.
  await expect(theirs.locator('.time')).toContainText(time?.replace(/ \(.*/, '') ?? '-');
  await expect(theirs.locator('.landmark')).toHaveText('Before the harbour master');

  await card.getByRole('button', { name: 'Rename …' }).click();
  await card.getByLabel('Name').fill('Our own wording');
  await card.getByRole('button', { name: 'Keep the name' }).click();
  await expect(theirs.locator('.landmark')).toHaveText('Our own wording');
  await jun.goto(`${address}/landmarks/latest`);
  await expect(theirs.locator('.landmark')).toHaveText('Our own wording');
  await jun.goto(`${address}/landmarks/Never`);
  await expect(jun.getByText('No moment of this document is named “Never”')).toBeVisible();
  await card.getByRole('button', { name: 'Rename …' }).click();
  await card.getByRole('button', { name: 'Take the name off' }).click();
  await expect(ines.getByRole('button', { name: /^Landmark Our own/ })).toHaveCount(0);
});

test('the log is filtered, unfolded to single edits, and two of its rows compared', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await page.getByRole('link', { name: /^Walking the Withy/ }).click();
  await page.getByRole('button', { name: 'Log', exact: true }).click();
  const rows = page.getByRole('table', { name: 'Sittings, versions and edits' }).getByRole('row');
  await expect(rows.nth(3)).toBeVisible();
  await page.getByRole('checkbox', { name: 'Landmarks only' }).check();
  await expect(rows.nth(1)).toContainText('As agreed by the trust');
  await page.getByRole('button', { name: 'Show all' }).click();
  await choose(page, 'By whom', 'Petru Dalca');
  await expect(rows).toHaveCount(2);
  await page.getByRole('button', { name: 'Show all' }).click();
  await rows
    .nth(1)
    .getByRole('button', { name: /^Unfold/ })
    .click();
  await expect(rows.nth(1).getByRole('button', { name: /^Fold/ })).toBeVisible();
  await rows
    .nth(2)
    .getByRole('button', { name: /^Unfold/ })
    .click();
  await expect(rows.nth(3)).toContainText('an edit');
  await expect(rows.nth(3)).toContainText(/\d\d:\d\d:\d\d/);
  await rows.nth(1).getByRole('checkbox').check();
  await rows.nth(3).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Compare these two' }).click();
  await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
});
