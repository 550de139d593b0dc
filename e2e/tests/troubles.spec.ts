import type { WebSocketRoute } from '@playwright/test';
import { expect, kept, make, test, text } from './oxbow';

test('a server that has trouble at the start signs nobody out, and forgets nobody', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  let asked = 0;
  await page.route('**/api/session', (route) => {
    asked++;
    return route.fulfill({ status: 503, body: 'busy' });
  });
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  expect(asked).toBeGreaterThan(0);
  // Where nobody is known on the device, it is said, and asked until the server answers.
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await expect(page.getByRole('alert')).toContainText('It is tried again');
  await page.unroute('**/api/session');
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
});

test('what is typed while the server answers with errors waits, is said to wait, and is kept when it recovers', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  let isBroken = false;
  const problem = { type: 'about:blank', title: 'Something went wrong', status: 500 };
  await page.routeWebSocket(/\/live\//, (socket: WebSocketRoute) => {
    const server = socket.connectToServer();
    socket.onMessage((message) => {
      const [, id] = /^42(\d+)\["(?:edits|join)"/.exec(String(message)) ?? [];
      if (isBroken && id !== undefined) socket.send(`43${id}${JSON.stringify([{ ok: false, problem }])}`);
      else server.send(message);
    });
    server.onMessage((message) => socket.send(message));
  });
  await page.reload();
  await make(page, 'In rough water');
  await text(page).pressSequentially('Before. ');
  await kept(page);
  isBroken = true;
  await text(page).pressSequentially('During. ');
  await expect(page.getByText('The server has trouble')).toBeVisible();
  await expect(page.getByText(/waits? on this device/)).toBeVisible();
  await text(page).pressSequentially('Still during.');
  await expect(text(page)).toHaveText('Before. During. Still during.');
  isBroken = false;
  await kept(page);
  await page.reload();
  await expect(text(page)).toHaveText('Before. During. Still during.');
});

test('a tab whose person changed in another one notices, and shows nothing of the first any more', async ({
  browser,
  oxbow,
}) => {
  const context = await browser.newContext({ baseURL: oxbow.address });
  const [one, two] = [await context.newPage(), await context.newPage()];
  await one.goto('/');
  await one.getByRole('button', { name: 'Sign in as Ines Okell' }).click();
  await expect(one.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  const path = await make(one, 'Only mine');
  await two.goto('/sign-in');
  await expect(two.getByRole('button', { name: 'Sign in as Tobias Rahn' })).toBeVisible();
  await two.getByRole('button', { name: 'Sign in as Tobias Rahn' }).click();
  await expect(two.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  await expect(text(one)).toHaveCount(0);
  expect(new URL(one.url()).pathname).toBe(new URL(path, oxbow.address).pathname);
  await expect(one.getByText('Only mine')).toHaveCount(0);
});
