import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { caret, expect, kept, line, make, open, share, test, text } from './oxbow';

async function type(page: Page, words: string): Promise<void> {
  await text(page).focus();
  await caret(page, 'Control+End');
  await page.keyboard.insertText(words);
}

test('what is held back stays here while others write, survives closing, and is put in when asked', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Held back');
  await share(ines, path, 'petru', 'editor');
  await ines.keyboard.type('First line.');
  await kept(ines);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await ines.getByRole('button', { name: 'Keeping …' }).click();
  await ines.getByRole('menuitemcheckbox', { name: 'Hold my writing back in this document' }).click();
  await type(ines, ' Mine alone.');
  await expect(ines.getByText(/edits? (is|are) a draft on this device/)).toBeVisible();
  expect((await new AxeBuilder({ page: ines }).analyze()).violations).toEqual([]);
  await text(petru).focus();
  await caret(petru, 'Control+Home');
  await petru.keyboard.type('Before: ');
  await expect(text(ines)).toHaveText('Before: First line. Mine alone.');
  await expect(text(petru)).toHaveText('Before: First line.');

  const context = ines.context();
  const next = await context.newPage();
  await ines.close();
  await next.goto('/');
  await expect(next.getByText('Draft held back')).toBeVisible();
  await next.goto(path);
  await expect(text(next)).toHaveText('Before: First line. Mine alone.');
  await next.reload();
  await expect(text(next)).toHaveText('Before: First line. Mine alone.');
  await text(next).press('Control+z');
  await expect(text(next)).toHaveText('Before: First line.');
  await text(next).press('Control+y');
  await expect(text(next)).toHaveText('Before: First line. Mine alone.');
  await next.getByRole('button', { name: 'Publish my draft', exact: true }).click();
  await expect(text(petru)).toHaveText('Before: First line. Mine alone.');
  await expect(next.getByText('You hold back here: what you write stays')).toBeVisible();
});

test('drafts found again later are compared, put on top, kept apart or discarded', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Found again');
  await ines.keyboard.type('The bank is high.');
  await kept(ines);
  const context = ines.context();
  const strand = async (words: string): Promise<Page> => {
    const page = await context.newPage();
    const { cut } = await line(page);
    await page.goto(path);
    await expect(text(page)).toContainText('The bank is high.');
    await cut();
    await type(page, words);
    await expect(page.getByText(/wait.* on this device/)).toBeVisible();
    await page.evaluate(async () => {
      const db = await new Promise<IDBDatabase>((done) => {
        const opening = indexedDB.open('oxbow-tide');
        opening.onsuccess = () => done(opening.result);
      });
      const boxes = db.transaction('outbox', 'readwrite').objectStore('outbox');
      const all = await new Promise<{ at: number }[]>((done) => {
        const reading = boxes.getAll();
        reading.onsuccess = () => done(reading.result as { at: number }[]);
      });
      for (const box of all) boxes.put({ ...box, at: Date.now() - 3600_000 });
      db.close();
    });
    await page.close();
    return page;
  };
  await strand(' A heron stood there.');
  const page = await context.newPage();
  await page.goto(path);
  const band = page.locator('ox-stranded');
  await expect(band).toContainText('4 words written, since the server was away');
  await expect(text(page)).toHaveText('The bank is high.');
  await band.getByRole('button', { name: 'Compare with the document' }).click();
  await expect(page.locator('.was-added')).toHaveText(/A heron stood there\./);
  await page.keyboard.press('Escape');
  await text(page).focus();
  await caret(page, 'Control+Home');
  await page.keyboard.type('Look: ');
  await kept(page);
  await band.getByRole('button', { name: 'Put it on top' }).click();
  await expect(text(page)).toHaveText('Look: The bank is high. A heron stood there.');
  await kept(page);
  await expect(band).not.toContainText('Stranded');

  await strand(' Two egrets.');
  const again = await context.newPage();
  await again.goto(path);
  await again.getByRole('button', { name: 'Discard it' }).click();
  await again.getByRole('button', { name: 'Bring it back' }).click();
  await again.getByRole('button', { name: 'Keep it as a document of its own' }).click();
  await expect(again.getByRole('button', { name: 'Found again, stranded draft' })).toBeVisible();
  await expect(text(again)).toHaveText('Look: The bank is high. A heron stood there. Two egrets.');
  await again.goto(path);
  await expect(text(again)).toHaveText('Look: The bank is high. A heron stood there.');
  await expect(again.locator('ox-stranded')).not.toContainText('draft');
});

test('undo goes on after a reload, and touches only one’s own writing', async ({ browser, oxbow }) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Undone after a reload');
  await share(ines, path, 'petru', 'editor');
  await ines.keyboard.insertText('One egret.');
  await kept(ines);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await type(petru, ' Two herons.');
  await kept(petru);
  await expect(text(ines)).toHaveText('One egret. Two herons.');
  await ines.reload();
  await expect(text(ines)).toHaveText('One egret. Two herons.');
  await text(ines).focus();
  await ines.keyboard.press('Control+z');
  for (const page of [ines, petru]) await expect(text(page)).toHaveText(' Two herons.');
  await kept(ines);
  await ines.reload();
  await expect(text(ines)).toHaveText(' Two herons.');
  await text(ines).focus();
  await ines.keyboard.press('Control+y');
  for (const page of [ines, petru]) await expect(text(page)).toHaveText('One egret. Two herons.');
});

test('a document is checked out, written in by one, checked in with a comment, given back, and taken from who forgot it', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'One at a time');
  await share(ines, path, 'petru', 'editor');
  await ines.keyboard.type('Agreed text.');
  await kept(ines);
  await ines.getByRole('button', { name: 'Keeping …' }).click();
  await ines.getByRole('menuitemcheckbox', { name: /Ask for check-out/ }).click();
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await expect(text(petru)).toHaveAttribute('contenteditable', 'false');
  await petru.getByRole('button', { name: 'Check it out' }).click();
  await expect(text(petru)).toHaveAttribute('contenteditable', 'true');
  await expect(ines.getByText('Petru Dalca has this document checked out')).toBeVisible();
  await expect(text(ines)).toHaveAttribute('contenteditable', 'false');
  await type(petru, ' And more.');
  await expect(petru.getByText(/edits? (is|are) on this device until you check in/)).toBeVisible();
  expect((await new AxeBuilder({ page: petru }).analyze()).violations).toEqual([]);
  await expect(text(ines)).toHaveText('Agreed text.');
  await petru.goto('/');
  await expect(petru.getByText('checked out by Petru Dalca')).toBeVisible();
  await petru.getByRole('link', { name: 'Go on, or check it in' }).click();
  await expect(text(petru)).toHaveText('Agreed text. And more.');
  await petru.getByRole('button', { name: 'Check in …' }).click();
  await petru.getByLabel('Comment on this check-in').fill('Added more');
  await petru.getByLabel('Major').check();
  await petru.getByRole('button', { name: 'Check it in' }).click();
  await expect(petru.getByText(/Checked in as version \d+ \(1\.0\)/)).toBeVisible();
  await expect(text(ines)).toHaveText('Agreed text. And more.');

  await petru.getByRole('button', { name: 'Check it out' }).click();
  await expect(text(petru)).toHaveAttribute('contenteditable', 'true');
  await petru.getByRole('link', { name: 'To the shelf' }).first().click();
  await expect(ines.getByText('nobody has it checked out')).toBeVisible();

  await open(petru, 'One at a time');
  await petru.getByRole('button', { name: 'Check it out' }).click();
  await expect(text(petru)).toHaveAttribute('contenteditable', 'true');
  await type(petru, ' Forgotten.');
  await expect(petru.getByText('on this device until you check in')).toBeVisible();
  await ines.getByRole('button', { name: 'End the check-out …' }).click();
  await ines.getByRole('button', { name: 'End the check-out', exact: true }).click();
  await expect(petru.locator('ox-stranded')).toContainText('Stranded draft');
  await expect(text(petru)).toHaveText('Agreed text. And more.');

  await petru.getByRole('button', { name: 'Check it out' }).click();
  await petru.getByRole('button', { name: 'Put it on top' }).click();
  await expect(text(petru)).toHaveText('Agreed text. And more. Forgotten.');
  await petru.getByRole('button', { name: 'Give it up …' }).click();
  await petru.getByRole('button', { name: 'Give it up', exact: true }).click();
  await expect(text(petru)).toHaveText('Agreed text. And more.');
  await expect(ines.getByText('nobody has it checked out')).toBeVisible();
  const { seq } = (await (await ines.request.get(`/api${path}`)).json()) as { seq: number };
  const content = await ines.request.get(`/api${path}/versions/@${seq}?format=text`);
  expect((await content.text()).trim()).toBe('Agreed text. And more.');
});

test('two people share one browser: each finds only their own drafts, and chooses at signing out what stays', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await page.addInitScript(storeSlowly);
  await page.goto('/');
  const path = await make(page, 'Shared browser');
  await share(page, path, 'petru', 'editor');
  await page.getByRole('button', { name: 'Keeping …' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Hold my writing back in this document' }).click();
  await text(page).focus();
  await page.keyboard.type('Not for Petru.');
  await expect(page.getByText(/edits? (is|are) a draft on this device/)).toBeVisible();
  const next = async (name: string): Promise<void> => {
    await page.getByRole('button', { name: `Sign in as ${name}` }).click();
    await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  };
  await page.goto('/');
  await expect(page.getByText('Draft held back')).toBeVisible();
  await page.getByRole('button', { name: 'Ines Okell' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.getByRole('button', { name: 'Keep and sign out' }).click();
  await next('Petru Dalca');
  await expect(page.getByText('Draft held back')).toHaveCount(0);
  await page.goto(path);
  await expect(text(page)).toHaveText('');
  await page.goto('/');
  await page.getByRole('button', { name: 'Petru Dalca' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await next('Ines Okell');
  await page.goto(path);
  await expect(text(page)).toHaveText('Not for Petru.');
});

/** A device whose database takes its time: each transaction that stores something lasts longer than a word is typed in. */
function storeSlowly(): void {
  const put = Object.getOwnPropertyDescriptor(IDBObjectStore.prototype, 'put')
    ?.value as IDBObjectStore['put'];
  IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args) {
    const end = Date.now() + 500;
    const stay = (): void => {
      if (Date.now() < end) this.count().onsuccess = stay;
    };
    stay();
    return put.apply(this, args);
  };
}
