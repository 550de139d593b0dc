import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { caret, expect, kept, line, make, share, test, text } from './oxbow';

const NUMBER = 'GB29 NWBK 6016 1331 9268 19';

async function fine(page: Page): Promise<void> {
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
}

test('an account number that somebody typed into a shared template is erased by keyboard, and known to be gone', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Ordering template');
  await share(ines, path, 'petru', 'editor');
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await text(petru).pressSequentially('Pay to ');
  await text(petru).pressSequentially(NUMBER);
  await kept(petru);
  await expect(text(ines)).toContainText(NUMBER);
  await ines.getByRole('button', { name: 'Keep a version now' }).click();
  await ines.getByLabel('Comment on this version').fill(`as it came, ${NUMBER}`);
  await ines.keyboard.press('Enter');
  await expect(ines.getByText(/Kept as version 2/)).toBeVisible();

  // From here on without a mouse.
  await text(ines).focus();
  await ines.keyboard.press('Control+End');
  for (let i = 0; i < NUMBER.length; i++) await ines.keyboard.press('Shift+ArrowLeft');
  await kept(ines);
  await ines.keyboard.press('Control+/');
  await expect(ines.getByRole('combobox')).toBeFocused();
  await ines.keyboard.type('Erase the selection');
  await ines.keyboard.press('Enter');
  const found = ines.getByLabel('What would be erased');
  await expect(found).toBeFocused();
  await expect(found).toContainText(NUMBER);
  await expect(found).toContainText('in version 2');
  await expect(found).toContainText('a comment');
  await fine(ines);
  await ines.keyboard.press('Tab');
  await expect(ines.getByLabel(/Why it is erased/)).toBeFocused();
  await ines.keyboard.type('A private account number');
  await ines.keyboard.press('Tab');
  await ines.keyboard.press('Enter');
  const erasure = ines.getByRole('article', { name: /Erasure of/ });
  await expect(erasure).toContainText('found nowhere');
  await expect(erasure).toContainText('Why: A private account number');
  await fine(ines);

  const bar = text(petru).getByRole('img', { name: `erased by an owner, ${NUMBER.length} letters` });
  await expect(bar).toBeVisible();
  await expect(text(petru)).not.toContainText('NWBK');
  await text(petru).press('Control+End');
  await text(petru).pressSequentially(' soon');
  await kept(petru);
  await ines.goto(path);
  await expect(text(ines)).toContainText('soon');
  const inside = await ines.evaluate(async (document) => {
    const all = [
      `/api${document}/versions/2`,
      `/api${document}/versions`,
      `/api${document}/versions/2/comments`,
    ];
    const texts = await Promise.all(all.map(async (one) => (await fetch(one)).text()));
    return texts.join();
  }, path);
  expect(inside).not.toContain('NWBK');
});

test('somebody who was away while text was erased comes back with what they wrote, and without a letter of it', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Ferry account');
  await share(ines, path, 'petru', 'editor');
  await text(ines).pressSequentially(`Pay ${NUMBER} soon.`);
  await kept(ines);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  const { cut, mend } = await line(petru);
  await petru.goto(path);
  await expect(text(petru)).toContainText(NUMBER);
  await cut();
  // Away: what is to be erased is copied to the end, and something of one's own is written on both sides of it.
  await text(petru).focus();
  await caret(petru, 'Control+Home', ...Array.from({ length: 4 }, () => 'ArrowRight'));
  for (let i = 0; i < NUMBER.length; i++) await petru.keyboard.press('Shift+ArrowRight');
  await caret(petru, 'Control+c', 'Control+End');
  await petru.keyboard.type(' Again: ');
  await caret(petru, 'Control+v');
  await petru.keyboard.type(' by hand.');
  await expect(text(petru)).toContainText(`Again: ${NUMBER} by hand.`);

  await ines.goto(`${path}/keeping?find=${encodeURIComponent(NUMBER)}`);
  await ines.getByRole('button', { name: 'See everything that holds it' }).click();
  await ines.getByLabel(/Why it is erased/).fill('A private account number');
  await ines.getByRole('button', { name: 'Erase it for good' }).click();
  await expect(ines.getByRole('article', { name: /Erasure of/ })).toContainText('found nowhere');
  await expect(text(petru)).toContainText(NUMBER);

  await mend();
  await expect(text(petru)).not.toContainText('NWBK');
  await kept(petru);
  await ines.goto(path);
  for (const page of [ines, petru]) {
    await expect(text(page)).toContainText('Again: ');
    await expect(text(page)).toContainText(' by hand.');
    await expect(text(page)).not.toContainText('NWBK');
  }
  expect((await text(petru).innerText()).trim()).toBe((await text(ines).innerText()).trim());
  const onDevice = (): Promise<string> =>
    petru.evaluate(
      () =>
        new Promise<string>((told) => {
          const opening = indexedDB.open('oxbow-tide');
          opening.onsuccess = () => {
            const names = Array.from(opening.result.objectStoreNames);
            const open = opening.result.transaction(names);
            const all = names.map((name) => open.objectStore(name).getAll());
            open.oncomplete = () => {
              opening.result.close();
              told(
                JSON.stringify([
                  all.map(({ result }) => result as unknown),
                  { ...localStorage, ...sessionStorage },
                ]),
              );
            };
          };
        }),
    );
  await expect.poll(onDevice).toContain('by hand');
  expect(await onDevice()).not.toContain('NWBK');
});

test('a version is discarded from its moment and put back, and a rule is looked at before it is set', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Rota of the week');
  for (const day of ['Monday', 'Tuesday', 'Wednesday', 'Thursday']) {
    await text(ines).press('Control+a');
    await text(ines).pressSequentially(day);
    await kept(ines);
    await ines.getByRole('button', { name: 'Keep a version now' }).click();
    await ines.getByRole('button', { name: 'Keep it' }).click();
    await expect(ines.getByText(/Kept as version \d/)).toBeVisible();
    await ines.getByRole('button', { name: 'Dismiss' }).first().click();
  }
  const seq = await ines.evaluate(
    async (document) => (await (await fetch(`/api${document}/versions/3`)).json()) as { seq: number },
    path,
  );
  await ines.goto(`${path}/moments/${seq.seq}`);
  const card = ines.getByRole('region', { name: 'The picked moment' });
  await expect(card).toContainText('Version 3');
  await card.getByRole('button', { name: 'Discard' }).click();
  await ines.getByRole('menuitem', { name: 'Discard this version' }).click();
  await expect(ines.getByText(/Version 3 is discarded/)).toBeVisible();

  await ines.getByRole('button', { name: 'Keeping …' }).click();
  await ines.getByRole('menuitem', { name: 'Keeping and erasing …' }).click();
  await ines.getByRole('button', { name: 'Put back' }).click();
  await expect(ines.getByText('Version 3 stands where it stood.')).toBeVisible();

  await ines.getByRole('button', { name: 'Change the rule …' }).click();
  await ines.getByLabel('Keep the last so many versions').check();
  await ines.getByLabel('Versions to keep').fill('1');
  await ines.getByRole('button', { name: 'See what would go' }).click();
  await expect(ines.getByText('Please give a whole number, 2 to 50000')).toBeVisible();
  await ines.getByLabel('Versions to keep').fill('2');
  await ines.getByRole('button', { name: 'See what would go' }).click();
  await expect(ines.getByText('2 versions would go')).toBeVisible();
  await fine(ines);
  await ines.getByRole('button', { name: 'Set this rule' }).click();
  await expect(ines.getByText('The last 2 versions are kept')).toBeVisible();
  await ines.setViewportSize({ width: 420, height: 800 });
  await fine(ines);
});
