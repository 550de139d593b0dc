import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { caret, expect, kept, make, share, test, text } from './oxbow';

const pane = (page: Page) => page.getByRole('region', { name: 'Carry forward' });
const past = (page: Page) => page.getByRole('textbox', { name: 'The page as it was' });

/** Types three paragraphs, removes the second, and leaves it at that. */
async function lose(page: Page): Promise<void> {
  for (const [i, line] of ['First the wheel.', 'Then the sluice.', 'At last the pond.'].entries()) {
    if (i > 0) await page.keyboard.press('Enter');
    await page.keyboard.type(line);
  }
  await kept(page);
  await text(page).getByText('Then the sluice.').click({ clickCount: 3 });
  await page.keyboard.press('Delete');
  await page.keyboard.press('Backspace');
  await expect(text(page)).not.toContainText('sluice');
  await kept(page);
}

/** Puts the moment before the last edits beside the page. */
async function beside(page: Page): Promise<void> {
  await page.keyboard.press('Alt+t');
  await expect(page.locator('[data-handle="later"]')).toBeFocused();
  const seq = await page.evaluate(() => Number(new URL(location.href).searchParams.get('later')));
  for (let back = 1; back < seq; back++) {
    await page.goto(`${new URL(page.url()).pathname}?earlier=${seq - back}&later=${seq - back}&room=carry`);
    await expect(past(page)).toContainText('First the wheel.');
    if ((await past(page).textContent())?.includes('Then the sluice.At last the pond.')) return;
  }
  throw new Error('no moment holds the lost paragraph');
}

test('a lost paragraph is carried to where it stood, while others write, and keeps who wrote it', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Guide to the mill');
  await share(ines, path, 'petru', 'editor');
  await lose(ines);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await expect(text(petru)).toContainText('pond');
  await beside(petru);
  await pane(petru).getByRole('button', { name: 'Next missing' }).click();
  await expect(pane(petru).getByRole('status')).toContainText('“Then the sluice.” is gone');
  await expect(petru.locator('.place-mark')).toHaveText('here: “Then the sluice.”');
  expect((await new AxeBuilder({ page: petru }).analyze()).violations).toEqual([]);
  await text(ines).press('Control+Home');
  await text(ines).pressSequentially('Look: ');
  await expect(text(petru)).toContainText('Look: First');
  await pane(petru).getByRole('button', { name: 'Carry it to where it stood' }).click();
  for (const page of [ines, petru])
    await expect(text(page).locator('p')).toHaveText([
      'Look: First the wheel.',
      'Then the sluice.',
      'At last the pond.',
    ]);
  await kept(petru);
  await expect(pane(petru).getByRole('status')).toContainText('still stands');
  const id = path.split('/').at(-1) ?? '';
  const ledger = (await (await ines.request.get(`/api/documents/${id}/ledger`)).json()) as {
    entries: { by: string; writer: string }[];
  };
  expect(ledger.entries.some(({ by, writer }) => by === 'petru' && writer === 'ines')).toBe(true);
  await petru.getByRole('button', { name: 'Take it back' }).click();
  for (const page of [ines, petru])
    await expect(text(page).locator('p')).toHaveText([/First the wheel/, 'At last the pond.']);
});

test('text is picked by keyboard alone and carried to the caret, or copied and pasted with its writers', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  const path = await make(page, 'Sluice and pond');
  await lose(page);
  await beside(page);
  await expect(async () => {
    await past(page).focus();
    await caret(page, 'Control+Home', 'ArrowDown', 'Shift+End');
    await expect(pane(page).getByRole('status')).toContainText('is gone', { timeout: 1000 });
  }).toPass();
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Enter');
  await expect(text(page).locator('p')).toHaveText([
    'First the wheel.',
    'Then the sluice.',
    'At last the pond.',
  ]);
  await text(page).focus();
  await caret(page, 'Control+End');
  await page.keyboard.press('Control+v');
  await expect(text(page).locator('p').last()).toHaveText('At last the pond.Then the sluice.');
  await kept(page);
  const id = path.split('/').at(-1) ?? '';
  const history = (await (await page.request.get(`/api/documents/${id}/history`)).json()) as {
    events: { cause: { kind: string } }[];
  };
  expect(history.events.filter(({ cause }) => cause.kind === 'carry').length).toBe(2);
  await past(page).focus();
  await page.keyboard.type('nothing is written here');
  await expect(past(page)).not.toContainText('nothing');
});

test('a removed passage is put back in one step', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await make(page, 'Put back');
  await page.keyboard.type('The pool behind the dam can be seen from the footpath.');
  await kept(page);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await expect(text(page)).toHaveText('');
  await kept(page);
  await page.getByRole('button', { name: 'Removed' }).click();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(text(page)).toHaveText('The pool behind the dam can be seen from the footpath.');
  await page.getByRole('button', { name: 'Take it out again' }).click();
  await expect(text(page)).toHaveText('');
});

test('the two pages scroll in step, and a passage is dragged from one to the other', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  const lines = Array.from({ length: 60 }, (_, i) => `<p>Line ${i} of the log.</p>`);
  const file = (parts: readonly string[]) => ({
    name: 'log.html',
    mimeType: 'text/html',
    buffer: Buffer.from(parts.join('')),
  });
  const headers = { Origin: oxbow.address };
  const imported = await page.request.post('/api/documents/import', {
    multipart: { file: file(lines), title: 'The gate through the year' },
    headers,
  });
  const { id, seq } = (await imported.json()) as { id: string; seq: number };
  await page.request.post(`/api/documents/${id}/files`, {
    multipart: { file: file(lines.filter((_, i) => i !== 40)) },
    headers,
  });
  await page.goto(`/documents/${id}?earlier=${seq}&later=${seq}&room=carry`);
  await expect(past(page)).toContainText('Line 59');
  const top = (scroller: string): Promise<number> => page.locator(scroller).evaluate((one) => one.scrollTop);
  await page.locator('.past').evaluate((one) => one.scrollTo({ top: 900 }));
  await expect.poll(() => top('.desk')).toBeGreaterThan(500);
  await pane(page).getByRole('button', { name: 'Next missing' }).click();
  await expect(pane(page).getByRole('status')).toContainText('“Line 40 of the log.” is gone');
  // What is gone is marked as it becomes known, which takes a selection that was only just made.
  await expect(async () => {
    await past(page).getByText('Line 40 of the log.').click({ clickCount: 3 });
    expect(await page.evaluate(() => getSelection()?.toString())).toContain('Line 40');
  }).toPass();
  // As a hand does it: what is picked up hangs at the pointer before it is carried across.
  await past(page).getByText('Line 40 of the log.').hover();
  await page.mouse.down();
  const { x, y } = (await text(page).getByText('Line 42 of the log.').boundingBox()) ?? { x: 0, y: 0 };
  await page.mouse.move(x + 2, y + 10, { steps: 12 });
  await page.waitForTimeout(100);
  await page.mouse.up();
  await expect(text(page)).toContainText('Line 40 of the log.');
  await kept(page);
  const history = (await (await page.request.get(`/api/documents/${id}/history`)).json()) as {
    events: { cause: { kind: string } }[];
  };
  expect(history.events.at(-1)?.cause.kind).toBe('carry');
});
