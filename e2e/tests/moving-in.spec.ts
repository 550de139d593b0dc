import { mkdtemp, readFile, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import type { Browser, Page } from '@playwright/test';
import { Oxbow, expect, kept, make, share, test, text } from './oxbow';

const GOOD = 'quorum ladle sphinx tug';

/** The last link that was sent by mail. */
async function lastLink(folder: string): Promise<string> {
  const box = join(folder, 'mail', 'outbox');
  const names = (await readdir(box)).sort();
  const mail = await readFile(join(box, names.at(-1) ?? ''), 'utf8');
  const text = mail.replace(/=\r?\n/g, '').replace(/=3D/g, '=');
  return /http:\/\/\S+\/(?:join|reset)\/[\w-]+/.exec(text)?.[0] ?? '';
}

async function windowOf(browser: Browser, address: string): Promise<Page> {
  return (await browser.newContext({ baseURL: address, viewport: { width: 1280, height: 800 } })).newPage();
}

async function fine(page: Page): Promise<void> {
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
}

test('an empty server is moved into, and two people write in one document, without the demo', async ({
  browser,
}) => {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-e2e-empty-'));
  const oxbow = new Oxbow(folder, 'off');
  await oxbow.start();
  try {
    const ruth = await windowOf(browser, oxbow.address);
    await ruth.goto('/');
    await expect(ruth.getByRole('heading', { name: 'Welcome to Oxbow Tide' })).toBeVisible();
    await fine(ruth);
    await ruth.getByRole('button', { name: 'Set up' }).click();
    await expect(ruth.getByText('Please give the code that the server printed when it began')).toBeVisible();
    await ruth.getByLabel('Code').fill('AAAA-AAAA-AAAA');
    await ruth.getByLabel('Name of the organisation').fill('The Reed Press');
    await ruth.getByLabel('Email address').fill('ruth@reed.example');
    await ruth.getByLabel('Your name').fill('Ruth Amsel');
    await expect(ruth.getByLabel('Initials')).toHaveValue('RA');
    await ruth.getByLabel('Green').check();
    await ruth.getByLabel('Password').fill(GOOD);
    await ruth.keyboard.press('Enter');
    await expect(ruth.getByText('This is not the one that the server printed')).toBeVisible();
    await ruth.getByLabel('Code').fill(/code (\S+)/.exec(oxbow.said)?.[1] ?? '');
    await ruth.keyboard.press('Enter');
    await expect(ruth.getByRole('heading', { name: 'Shelf' })).toBeVisible();

    await ruth.getByRole('button', { name: 'Ruth Amsel' }).click();
    await ruth.getByRole('menuitem', { name: 'People' }).click();
    await ruth.getByLabel('Their email address').fill('noor@reed.example');
    await ruth.getByRole('button', { name: 'Send the invitation' }).click();
    await expect(ruth.getByText('noor@reed.example is invited')).toBeVisible();
    await fine(ruth);

    const link = await lastLink(folder);
    const noor = await windowOf(browser, oxbow.address);
    await noor.goto(link);
    await expect(noor.getByText('Ruth Amsel invites you, noor@reed.example')).toBeVisible();
    await fine(noor);
    await noor.getByLabel('Your name').fill('Noor Vane');
    await noor.getByLabel('Password').fill('noorvane');
    await noor.keyboard.press('Enter');
    await expect(noor.getByText(/This is too easily guessed/)).toBeVisible();
    await noor.getByLabel('Password').fill(GOOD);
    await noor.keyboard.press('Enter');
    await expect(noor.getByRole('heading', { name: 'Shelf' })).toBeVisible();

    await ruth.getByRole('link', { name: 'To the shelf' }).click();
    const address = await make(ruth, 'First leaflet');
    const people = (await (await ruth.request.get('/api/members')).json()) as {
      people: { id: string; name: string }[];
    };
    const id = people.people.find(({ name }) => name === 'Noor Vane')?.id ?? '';
    await share(ruth, address, id, 'editor');
    await noor.getByRole('link', { name: 'First leaflet', exact: true }).click();
    await text(ruth).pressSequentially('The reeds are cut in winter.');
    await expect(text(noor)).toContainText('The reeds are cut in winter.');
    await text(noor).click();
    await noor.keyboard.press('Control+End');
    await noor.keyboard.type(' By hand.');
    await kept(noor);
    await expect(text(ruth)).toContainText('The reeds are cut in winter. By hand.');

    const again = await windowOf(browser, oxbow.address);
    await again.goto(link);
    await expect(again.getByRole('alert')).toContainText('This link does not hold');
    await again.goto('/sign-in');
    await expect(again.getByRole('heading', { name: 'The Reed Press' })).toBeVisible();
    await again.getByRole('link', { name: 'Forgot your password?' }).click();
    // The page before has a field of the same name.
    await expect(again.getByRole('heading', { name: 'A new password' })).toBeVisible();
    await again.getByLabel('Email address').fill('noor@reed.example');
    await again.keyboard.press('Enter');
    await expect(again.getByRole('status')).toContainText('a link to a new password is on its way');
    await expect.poll(() => lastLink(folder)).toContain('/reset/');
    await again.goto(await lastLink(folder));
    await fine(again);
    await again.getByLabel('New password').fill('heron amble quartz dune');
    await again.keyboard.press('Enter');
    await expect(again.getByRole('status')).toContainText('Your password is changed');
    await expect(noor.getByRole('heading', { name: 'Oxbow Tide' })).toBeVisible();

    await again.getByRole('link', { name: 'To signing in' }).click();
    await again.getByLabel('Email address').fill('noor@reed.example');
    await again.getByLabel('Password').fill('heron amble quartz dune');
    await again.keyboard.press('Enter');
    await expect(again.getByRole('heading', { name: 'Shelf' })).toBeVisible();
    await ruth.goto('/people');
    await ruth.getByRole('button', { name: 'Disable Noor Vane …' }).click();
    await ruth.getByRole('button', { name: 'Disable Noor Vane', exact: true }).click();
    await expect(ruth.getByText('Noor Vane may not sign in any more')).toBeVisible();
    await again.goto('/');
    await expect(again.getByRole('button', { name: 'Sign in' })).toBeVisible();
  } finally {
    await oxbow.stop();
    await rm(folder, { recursive: true, force: true });
  }
});
