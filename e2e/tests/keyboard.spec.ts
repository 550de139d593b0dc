import type { Locator, Page } from '@playwright/test';
import { caret, expect, kept, share, test, text } from './oxbow';

/** Goes on with the tab key until something has the focus. */
async function reach(page: Page, goal: Locator): Promise<void> {
  await expect(goal.first()).toBeVisible();
  for (let i = 0; i < 90; i++) {
    if (await goal.first().evaluate((one) => one === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error('The tab key does not come there');
}

/** Does an act by typing its name into the list of commands. */
async function command(page: Page, name: string): Promise<void> {
  await page.keyboard.press('Control+/');
  await expect(page.getByRole('combobox', { name: 'An act, a room, a version' })).toBeFocused();
  await page.keyboard.type(name);
  await expect(page.getByRole('option').first()).toContainText(name.replace(/ …$/, ''));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option')).toHaveCount(0);
}

test('the six questions are answered by keyboard alone', async ({ browser, oxbow }) => {
  // No press of a mouse from here on in this window.
  const page = await (await browser.newContext({ baseURL: oxbow.address })).newPage();
  await page.goto('/');
  await reach(page, page.getByRole('button', { name: 'Sign in as Hanneke Voss' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  await command(page, 'New document');
  await expect(page.getByLabel('Title of the new document')).toBeFocused();
  await page.keyboard.type('Lock keeper’s notes');
  await page.keyboard.press('Enter');
  await expect(text(page)).toBeFocused();
  await page.keyboard.type('The upper gate sticks at spring tides.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Call Tobias before the boats come.');
  await kept(page);
  const path = new URL(page.url()).pathname;
  await share(page, path, 'petru', 'editor');

  await test.step('which one did we agree on', async () => {
    await command(page, 'Name this moment');
    await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
    await page.keyboard.type('As agreed at the gate');
    await page.keyboard.press('Enter');
    await expect(page.getByText(/named “As agreed at the gate”/)).toBeVisible();
    await command(page, 'Back to now');
  });

  await test.step('something I need is gone', async () => {
    await expect(text(page)).toBeVisible();
    await reach(page, text(page));
    await caret(page, 'Control+End', 'Shift+Home', 'Delete');
    await kept(page);
    await expect(text(page)).not.toContainText('Call Tobias');
    await command(page, 'Removed');
    const passage = page.getByRole('listitem').filter({ hasText: 'Call Tobias before the boats come.' });
    await expect(passage).toBeVisible();
    await reach(page, passage.getByRole('button', { name: /^Put/ }));
    await page.keyboard.press('Enter');
    await expect(page.getByText('The passage is back where it stood.')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(text(page)).toContainText('Call Tobias before the boats come.');
  });

  await test.step('what happened since I last looked', async () => {
    await command(page, 'To the shelf');
    await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
    const petru = await oxbow.as(browser, 'Petru Dalca');
    await petru.goto(path);
    await text(petru).press('Control+Home');
    await text(petru).pressSequentially('Low water is at six. ');
    await kept(petru);
    await petru.close();
    await command(page, 'Lock keeper’s notes');
    await expect(page.locator('ox-fresh')).toContainText('Petru Dalca');
    await reach(page, page.getByRole('button', { name: 'Walk through it' }));
    await page.keyboard.press('Enter');
    await expect(page.getByRole('insertion').or(page.locator('ins')).first()).toContainText('Low water');
    await page.keyboard.press('Escape');
  });

  await test.step('how do these two differ', async () => {
    await page.goto(path);
    await expect(text(page)).toBeVisible();
    await page.keyboard.press('Alt+t');
    await expect(page.getByRole('slider', { name: 'Later' })).toBeFocused();
    await page.keyboard.press('Shift+Home');
    await expect(page.getByRole('status').filter({ hasText: /\d of \d/ })).toBeVisible();
    await page.keyboard.press('j');
    await expect(page.getByRole('status').filter({ hasText: /\d of \d/ })).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('whose work is this, and when was it done', async () => {
    await page.goto(path);
    await expect(text(page)).toBeVisible();
    await command(page, 'Contributors');
    const table = page.getByRole('table');
    await expect(table).toContainText('Hanneke Voss');
    await expect(table).toContainText('Petru Dalca');
    await page.keyboard.press('Escape');
  });

  await test.step('that should never have been in here', async () => {
    await expect(text(page)).toBeVisible();
    await reach(page, text(page));
    await caret(page, 'Control+Home', 'Control+Home', 'Shift+Control+ArrowRight', 'Shift+Control+ArrowRight');
    await command(page, 'Erase the selection');
    await expect(page.getByLabel('What would be erased')).toContainText('Low water');
    await reach(page, page.getByLabel(/Why it is erased/));
    await page.keyboard.type('Measured wrong');
    await reach(page, page.getByRole('button', { name: 'Erase it for good' }));
    await page.keyboard.press('Enter');
    await expect(page.getByRole('article', { name: /Erasure of/ })).toContainText('found nowhere');
  });

  await test.step('and the landmark is still where it was agreed', async () => {
    await page.goto(path);
    await expect(text(page)).toBeVisible();
    await command(page, 'As agreed at the gate');
    const moment = page.getByRole('region', { name: 'The picked moment' });
    await expect(moment).toContainText('As agreed at the gate');
  });
});
