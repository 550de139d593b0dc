import { expect, kept, make, test, text } from './oxbow';

test('the server is killed while somebody types: nothing kept is lost, nothing is doubled, the rest arrives', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  const path = await make(page, 'High water');
  const words = Array.from({ length: 40 }, (_, i) => `w${i} `);
  const typing = (async () => {
    for (const word of words) await text(page).pressSequentially(word, { delay: 25 });
  })();
  await page.waitForTimeout(1500);
  await oxbow.stop('SIGKILL');
  await expect(page.getByText('Away from the server')).toBeVisible();
  await page.waitForTimeout(800);
  await oxbow.start();
  await typing;
  await kept(page);
  const whole = words.join('').trim();
  await expect(text(page)).toHaveText(whole);
  const stored = await page.request.get(`/api/documents/${path.split('/').at(-1) ?? ''}`);
  const { seq } = (await stored.json()) as { seq: number };
  const content = await page.request.get(`/api${path}/versions/@${seq}?format=text`);
  expect((await content.text()).trim()).toBe(whole);
});

test('what a closed window had not sent is sent by the next one', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  const path = await make(page, 'Low water');
  await text(page).pressSequentially('kept. ');
  await kept(page);
  await oxbow.stop('SIGKILL');
  await expect(page.getByText('Away from the server')).toBeVisible();
  await text(page).pressSequentially('and this was not.');
  await expect(page.getByText(/wait.* on this device/)).toBeVisible();
  const next = await page.context().newPage();
  await page.close();
  await oxbow.start();
  await next.goto(path);
  await expect(text(next)).toHaveText('kept. and this was not.');
});
