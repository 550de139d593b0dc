import { expect, kept, make, open, share, test, text } from './oxbow';

test('a wrong password is said, nothing typed is lost, and the right one leads where one was going', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Behind the door');
  const page = await (await browser.newContext({ baseURL: oxbow.address })).newPage();
  await page.goto(path);
  await expect(page.getByRole('heading', { name: 'With your own address' })).toBeVisible();
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByText('Please give your whole address, such as')).toBeVisible();
  await page.getByLabel('Email address').fill('ines@withy.example');
  await page.getByLabel('Password').fill('tidewheel');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText(/password|match/);
  await expect(page.getByLabel('Email address')).toHaveValue('ines@withy.example');
  await page.getByLabel('Password').fill('tidemill');
  await page.keyboard.press('Enter');
  await expect(text(page)).toBeVisible();
  expect(new URL(page.url()).pathname).toBe(path);
});

test('a session that ends while somebody writes loses nothing: what waited is kept when they are back', async ({
  browser,
  oxbow,
}) => {
  const page = await (await browser.newContext({ baseURL: oxbow.address })).newPage();
  await page.goto('/');
  await page.getByRole('button', { name: 'Sign in as Jun Asari' }).click();
  const path = await make(page, 'Half a sentence');
  await page.keyboard.type('The herons are ');
  await kept(page);
  // Ended from elsewhere, as an administrator or another window would.
  const elsewhere = await (await browser.newContext({ baseURL: oxbow.address })).newPage();
  await elsewhere.goto('/');
  await elsewhere.getByRole('button', { name: 'Sign in as Jun Asari' }).click();
  await expect(elsewhere.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  await elsewhere.goto('/account');
  await page.keyboard.type('back.');
  await elsewhere.getByRole('button', { name: 'Sign out everywhere else' }).click();
  await expect(page.getByText('Your session has ended.')).toBeVisible();
  await page.getByRole('button', { name: 'Sign in as Jun Asari' }).click();
  await expect(text(page)).toHaveText('The herons are back.');
  expect(new URL(page.url()).pathname).toBe(path);
  await kept(page);
});

test('a viewer reads, looks back and compares, and is offered nothing they may not do', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'For reading');
  await ines.keyboard.type('As it is.');
  await kept(ines);
  await share(ines, path, 'petru', 'viewer');
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  const page = petru.getByRole('document', { name: 'The document' }).or(text(petru));
  await expect(page).toContainText('As it is.');
  await expect(page).toHaveAttribute('contenteditable', 'false');
  for (const name of ['Undo', 'Bold', 'Keep a version now', 'Keeping …', 'Share …', 'Carry forward …'])
    await expect(petru.getByRole('button', { name, exact: true })).toHaveCount(0);
  await ines.keyboard.type(' And more.');
  await expect(page).toContainText('And more.');
  await petru.keyboard.press('Alt+t');
  const card = petru.getByRole('region', { name: 'The picked moment' });
  await expect(card).toBeVisible();
  for (const name of [/^Restore/, /^Name/, /^Discard/, /^Take back/])
    await expect(card.getByRole('button', { name })).toHaveCount(0);
});

test('with a finger a moment is picked on the tideline, looked at, and left again, on a narrow screen', async ({
  browser,
  oxbow,
}) => {
  const signedIn = await oxbow.as(browser, 'Ines Okell');
  const context = await browser.newContext({
    baseURL: oxbow.address,
    hasTouch: true,
    isMobile: true,
    viewport: { width: 420, height: 800 },
    storageState: await signedIn.context().storageState(),
  });
  const page = await context.newPage();
  await page.goto('/');
  await open(page, 'Boat-day briefing');
  await page.locator('ox-tideline > svg .bar').first().tap();
  await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
  const covered = await page.evaluate(() => {
    const buttons = Array.from(document.querySelectorAll('ox-tideline button')).map((one) =>
      one.getBoundingClientRect(),
    );
    return buttons.filter((one, i) =>
      buttons
        .slice(i + 1)
        .some((other) => other.left < one.right - 1 && other.top === one.top && other.right > one.right),
    ).length;
  });
  expect(covered).toBe(0);
  const wider = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
  expect(wider).toBeLessThanOrEqual(0);
  await page
    .getByRole('region', { name: 'The picked moment' })
    .getByRole('button', { name: 'Back to now' })
    .tap();
  await expect(text(page)).toBeVisible();
});
