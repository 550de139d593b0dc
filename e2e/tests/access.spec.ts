import type { Page } from '@playwright/test';
import { expect, open, test, text } from './oxbow';
import { violationsIn } from './axe';

for (const scheme of ['light', 'dark'] as const) {
  const violations = (page: Page): Promise<string[]> => violationsIn(page, scheme);

  test(`axe finds nothing wrong with any room, ${scheme}`, async ({ browser, oxbow }) => {
    const page = await (await browser.newContext({ baseURL: oxbow.address, colorScheme: scheme })).newPage();
    await page.goto('/');
    await expect(page.getByRole('button', { name: 'Sign in as Ines Okell' })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.getByRole('button', { name: 'Sign in as Ines Okell' }).click();
    await expect(page.getByRole('link', { name: 'Boat-day briefing', exact: true })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await open(page, 'Boat-day briefing');
    expect(await violations(page)).toEqual([]);
    await page.keyboard.press('Alt+t');
    await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    for (const reading of ['Facing', 'Digest']) {
      await page.getByRole('radio', { name: reading }).click();
      await expect(page.getByRole('radio', { name: reading })).toBeChecked();
      expect(await violations(page)).toEqual([]);
    }
    await page.getByRole('button', { name: 'Choose what to compare' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Log', exact: true }).click();
    await expect(page.getByRole('table', { name: 'Sittings, versions and edits' })).toBeVisible();
    expect(await violations(page)).toEqual([]);
  });

  test(`axe finds nothing wrong with the rooms around a document, wide and narrow, ${scheme}`, async ({
    browser,
    oxbow,
  }) => {
    const page = await oxbow.as(browser, 'Ines Okell', scheme);
    await open(page, 'Volunteer rota and budget');
    const { pathname } = new URL(page.url());
    const rooms: [address: string, heading: RegExp][] = [
      ['/', /Shelf/],
      ['/arrivals', /Arrivals/],
      ['/people', /People/],
      ['/bin', /Bin/],
      ['/account', /account and settings/],
      [`${pathname}/sharing`, /Shar/],
      ['/collections/visitors/sharing', /Shar/],
      [`${pathname}/keeping`, /Keeping and erasing/],
      ['/collections/visitors/keeping', /Keeping and erasing/],
      ['/documents/nowhere/no-access', /./],
      ['/nowhere-at-all', /./],
    ];
    for (const width of [1280, 420]) {
      await page.setViewportSize({ width, height: 800 });
      for (const [address, heading] of rooms) {
        await page.goto(address);
        await expect(page.getByRole('heading', { level: 1 })).toContainText(heading);
        await expect(page.getByRole('progressbar')).toHaveCount(0);
        expect([width, address, ...(await violations(page))]).toEqual([width, address]);
        const wider = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
        expect([width, address, wider > 0]).toEqual([width, address, false]);
      }
      await page.goto(pathname);
      await expect(page.getByRole('gridcell').first()).toBeVisible();
      expect([width, ...(await violations(page))]).toEqual([width]);
      await page.goto(`${pathname}/moments/20`);
      await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
      expect([width, ...(await violations(page))]).toEqual([width]);
    }
  });

  test(`axe finds nothing wrong with looking back, ${scheme}`, async ({ browser, oxbow }) => {
    const page = await oxbow.as(browser, 'Ines Okell', scheme);
    await page.getByLabel('Find words in every version').fill('printer');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('link', { name: 'Summer leaflet' })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.getByRole('link', { name: 'Summer leaflet' }).click();
    await page.getByRole('button', { name: 'Rename …' }).click();
    await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
    expect(await violations(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await expect(text(page)).toBeVisible();
    await page.keyboard.press('Alt+w');
    await expect(page.locator('.ledgered').first()).toBeVisible();
    expect(await violations(page)).toEqual([]);
    for (const [way, ready] of [
      ['Find in time', 'Words to find in time'],
      ['Removed', 'Words in removed and present text'],
      ['Contributors', 'Range'],
      ['Play back', 'How far'],
    ] as const) {
      await page.getByRole('button', { name: way, exact: true }).click();
      await expect(page.getByLabel(ready)).toBeVisible();
      await expect(page.getByRole('progressbar')).toHaveCount(0);
      expect(await violations(page)).toEqual([]);
    }
    await page.getByRole('button', { name: 'Removed', exact: true }).click();
    await page.getByRole('button', { name: 'Its life' }).first().click();
    await expect(
      page.getByRole('region', { name: 'Passage life' }).getByRole('listitem').first(),
    ).toBeVisible();
    expect(await violations(page)).toEqual([]);
  });
}

test('the walk through the past needs no mouse', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Mairead Quill');
  await open(page, 'Boat-day briefing');
  await text(page).focus();
  await page.keyboard.press('Alt+t');
  const later = page.getByRole('slider', { name: 'Later' });
  await expect(later).toBeFocused();
  const first = await later.getAttribute('aria-valuetext');
  await page.keyboard.press('ArrowLeft');
  await expect(later).not.toHaveAttribute('aria-valuetext', first ?? '');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('status').filter({ hasText: 'of' })).toContainText('1 of');
  await expect(async () => {
    await page.keyboard.press('j');
    await expect(page.getByRole('status').filter({ hasText: 'of' })).toContainText('2 of', { timeout: 300 });
  }).toPass();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('Next change');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();
});
