import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import AxeBuilder from '@axe-core/playwright';
import { expect, kept, make, test, text } from './oxbow';

test('a reading link is put on a page of another site, in a frame that its owner allows', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  await make(ines, 'Opening hours');
  await text(ines).pressSequentially('The mill is open at every tide. ');
  await kept(ines);
  let address = '';
  const site = createServer((_request, response) => {
    const html = `<!doctype html><title>The trust</title><h1>The trust</h1>
      <a href="${address}">Read it</a><iframe title="Hours" src="${address}"></iframe>`;
    response.setHeader('Content-Type', 'text/html').end(html);
  });
  await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve));
  const origin = `http://127.0.0.1:${(site.address() as AddressInfo).port}`;
  try {
    await ines.getByRole('link', { name: 'Share …' }).click();
    await ines.getByRole('button', { name: 'Make a reading link …' }).click();
    await ines.getByLabel('Sites that may show it in a frame').fill(origin);
    await ines.getByRole('button', { name: 'Make the link' }).click();
    const link = ines.getByRole('link', { name: /\/read\// });
    address = (await link.getAttribute('href')) ?? '';
    expect((await new AxeBuilder({ page: ines }).analyze()).violations).toEqual([]);

    const context = await browser.newContext();
    const stranger = await context.newPage();
    await stranger.goto(origin);
    await expect(stranger.frameLocator('iframe').getByText('The mill is open at every tide.')).toBeVisible();
    await stranger.getByRole('link', { name: 'Read it' }).click();
    await expect(stranger).toHaveTitle('Opening hours');
    await expect(stranger.getByText('The mill is open at every tide.')).toBeVisible();
    expect((await new AxeBuilder({ page: stranger }).analyze()).violations).toEqual([]);

    await ines.getByRole('button', { name: 'Replace the link …' }).click();
    await ines.getByLabel('Password, if it is to have one').fill('reed and sluice');
    await ines.getByRole('button', { name: 'Make the link' }).click();
    await expect(ines.getByText('for whoever knows the password')).toBeVisible();
    await stranger.reload();
    await expect(stranger.getByRole('heading', { name: 'This page is not shared any more' })).toBeVisible();
    address = (await link.getAttribute('href')) ?? '';
    await stranger.goto(address);
    expect((await new AxeBuilder({ page: stranger }).analyze()).violations).toEqual([]);
    await stranger.getByLabel('Password').fill('wrong one');
    await stranger.keyboard.press('Enter');
    await expect(stranger.getByText('This is not the password of this page')).toBeVisible();
    await stranger.getByLabel('Password').fill('reed and sluice');
    await stranger.keyboard.press('Enter');
    await expect(stranger.getByText('The mill is open at every tide.')).toBeVisible();

    // Without leave no other site shows it.
    await ines.getByRole('button', { name: 'Replace the link …' }).click();
    await ines.getByRole('button', { name: 'Make the link' }).click();
    await expect(ines.getByText('for anybody who has the link; in no frame')).toBeVisible();
    address = (await link.getAttribute('href')) ?? '';
    await stranger.goto(origin);
    await expect(stranger.frameLocator('iframe').getByText('The mill is open')).toHaveCount(0);
    await stranger.getByRole('link', { name: 'Read it' }).click();
    await expect(stranger.getByText('The mill is open at every tide.')).toBeVisible();
  } finally {
    site.close();
  }
});

test('whoever is sent the address of a document that is not theirs asks for it, and is let in from the notice', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const address = await make(ines, 'Plans for the quay');
  await text(ines).pressSequentially('A quay of oak. ');
  await kept(ines);
  const jun = await oxbow.as(browser, 'Jun Asari');
  await jun.goto(address);
  await expect(jun.getByRole('heading', { name: 'You do not have this document' })).toBeVisible();
  expect(new URL(jun.url()).pathname).toBe(new URL(address, oxbow.address).pathname);
  expect((await new AxeBuilder({ page: jun }).analyze()).violations).toEqual([]);
  await jun.getByLabel('A word to go with it').fill('I count the birds there.');
  await jun.getByRole('button', { name: 'Ask for access' }).click();
  await expect(jun.getByRole('status')).toContainText('its owners know that you ask');

  await ines.goto('/');
  await ines.getByRole('button', { name: /notice/ }).click();
  const notice = ines.getByRole('listitem').filter({ hasText: 'asks you to share it' });
  await expect(notice).toContainText('Jun Asari');
  await expect(notice).toContainText('I count the birds there.');
  await notice.getByRole('button', { name: 'Share it to read' }).click();
  await expect(text(jun)).toContainText('A quay of oak.');
});
