import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Oxbow, expect, kept, make, test, text } from './oxbow';

test.use({ serviceWorkers: 'allow' });

test('a document that was open opens again without the server, takes writing, and brings it home', async ({
  browser,
}) => {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-away-'));
  const oxbow = new Oxbow(folder);
  await oxbow.startOnDemo();
  const page = await oxbow.as(browser, 'Ines Okell');
  const path = await make(page, 'Written on the water');
  await text(page).pressSequentially('The ferry leaves at the ebb.');
  await kept(page);
  // The app itself is on the device, and so is the document.
  const onDevice = () =>
    page.evaluate(async () => {
      const { active } = await navigator.serviceWorker.ready;
      const known = await new Promise((told) => {
        const opening = indexedDB.open('oxbow-tide');
        opening.onsuccess = () => {
          const all = opening.result.transaction('copies').objectStore('copies').getAll();
          all.onsuccess = () => {
            opening.result.close();
            told(JSON.stringify(all.result));
          };
        };
      });
      return `${active?.state ?? 'none'} ${String(known)}`;
    });
  await expect.poll(onDevice).toMatch(/activated .*The ferry leaves at the ebb\./);
  await page.reload();
  await expect(text(page)).toContainText('at the ebb.');
  await kept(page);

  await oxbow.stop();
  await page.reload();
  await expect(text(page)).toHaveText('The ferry leaves at the ebb.');
  await text(page).press('Control+End');
  await text(page).pressSequentially(' Nobody else knows yet.');
  await expect(page.getByText('Away from the server')).toBeVisible();
  await page.reload();
  await expect(text(page)).toHaveText('The ferry leaves at the ebb. Nobody else knows yet.');
  await page.goto(oxbow.address);
  await expect(page.getByRole('alert')).toContainText('What you had open on this device opens');
  await page.getByRole('link', { name: 'Written on the water', exact: true }).click();
  await expect(text(page)).toContainText('Nobody else knows yet.');

  await oxbow.start();
  await kept(page);
  await expect(page.getByText('Away from the server')).toHaveCount(0);
  const other = await oxbow.as(browser, 'Ines Okell');
  await other.goto(path);
  await expect(text(other)).toHaveText('The ferry leaves at the ebb. Nobody else knows yet.');

  await oxbow.stop();
  await page.context().close();
  await other.context().close();
  await rm(folder, { recursive: true, force: true });
});
