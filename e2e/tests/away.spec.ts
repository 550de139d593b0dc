import { chromium } from '@playwright/test';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { caret, expect, kept, line, make, share, test, text } from './oxbow';

test('two people write 200 edits each, one of them away from the server, and both read the same again', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Away and back');
  await share(ines, path, 'petru', 'editor');
  await ines.keyboard.type('Left. Right.');
  await kept(ines);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  const { cut, mend } = await line(petru);
  await petru.goto(path);
  await expect(text(petru)).toHaveText('Left. Right.');
  await cut();
  // Every pause of more than half a second begins another edit; the clock is moved instead of waiting.
  const write = async (page: typeof ines, at: 'Home' | 'End', sign: string): Promise<void> => {
    await text(page).focus();
    await caret(page, `Control+${at}`);
    await page.evaluate(() => {
      const real = Date.now.bind(Date);
      let ahead = 0;
      Date.now = () => real() + (ahead += 1000);
    });
    for (let i = 0; i < 200; i++) await page.keyboard.type(sign);
  };
  await write(petru, 'End', 'p');
  await write(ines, 'Home', 'i');
  await expect(petru.getByText('200 edits wait on this device')).toBeVisible();
  await kept(ines);
  await mend();
  await kept(petru);
  const whole = `${'i'.repeat(200)}Left. Right.${'p'.repeat(200)}`;
  for (const page of [ines, petru]) await expect(text(page)).toHaveText(whole);
  const { seq } = (await (await ines.request.get(`/api${path}`)).json()) as { seq: number };
  expect(seq).toBeGreaterThanOrEqual(400);
});

test('the browser is killed in the middle of a sentence: what was typed is there when it is opened again', async ({
  oxbow,
}) => {
  const profile = await mkdtemp(join(tmpdir(), 'oxbow-browser-'));
  const launch = () =>
    chromium.launchPersistentContext(profile, {
      executablePath: process.env['CHROME_BIN'] ?? '/usr/bin/chromium',
      baseURL: oxbow.address,
      args: ['--no-sandbox', '--disable-gpu', '--remote-debugging-port=0'],
    });
  const first = await launch();
  const page = await first.newPage();
  await page.goto('/');
  await page.getByRole('button', { name: 'Sign in as Ines Okell' }).click();
  const path = await make(page, 'Killed');
  await page.keyboard.type('This much was kept. ');
  await kept(page);
  const { cut } = await line(page);
  await page.reload();
  await expect(text(page)).toHaveText('This much was kept. ');
  await cut();
  await text(page).focus();
  await caret(page, 'Control+End');
  await page.keyboard.type('And this in the middle of a sen');
  await expect(page.getByText(/waits? on this device/)).toBeVisible();
  await page.waitForTimeout(300);
  const session = await first.browser()?.newBrowserCDPSession();
  const gone = new Promise((done) => first.once('close', done));
  await session?.send('Browser.crash').catch(() => undefined);
  await gone;

  const second = await launch();
  const again = await second.newPage();
  await again.goto(path);
  // A browser that is killed may not have written its cookies yet; the draft is the person's all the same.
  const signIn = again.getByRole('button', { name: 'Sign in as Ines Okell' });
  await expect(signIn.or(text(again))).toBeVisible();
  if (await signIn.isVisible()) await signIn.click();
  await expect(text(again)).toHaveText('This much was kept. And this in the middle of a sen');
  await kept(again);
  const { seq } = (await (await again.request.get(`/api${path}`)).json()) as { seq: number };
  const content = await again.request.get(`/api${path}/versions/@${seq}?format=text`);
  expect((await content.text()).trim()).toBe('This much was kept. And this in the middle of a sen');
  await second.close();
  await rm(profile, { recursive: true, force: true });
});
