import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { caret, expect, kept, make, share, test, text } from './oxbow';

const bar = (page: Page) => page.getByRole('region', { name: 'Assembling' });
const outcome = (page: Page) => page.getByRole('document', { name: 'What comes of it' });

/** A document of three lines, of which the second was rewritten and the third added; answers its path and its two moments. */
async function changed(page: Page, title: string): Promise<{ path: string; earlier: number; later: number }> {
  const path = await make(page, title);
  const head = async (): Promise<number> => {
    await kept(page);
    const answer = await page.request.get(`/api${path}`);
    return ((await answer.json()) as { seq: number }).seq;
  };
  await page.keyboard.type('The gate opens at nine.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Bring boots.');
  const earlier = await head();
  await caret(page, 'Control+Home', 'End');
  await page.keyboard.press('Backspace');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Backspace');
  await page.keyboard.type('ten.');
  await caret(page, 'Control+End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Dogs stay on a lead.');
  return { path, earlier, later: await head() };
}

test('changes are decided one by one by keyboard, come back the next day, and go on top of what came since', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const { path, earlier, later } = await changed(ines, 'Opening hours');
  await share(ines, path, 'petru', 'editor');
  await ines.goto(`${path}?earlier=${earlier}&later=${later}`);
  await ines.getByRole('button', { name: 'Assemble' }).click();
  await expect(outcome(ines)).toContainText('opens at ten.');
  await ines.getByRole('document', { name: /^The document as it was/ }).focus();
  await ines.keyboard.press('1');
  await expect(outcome(ines)).toContainText('opens at nine.');
  await expect(bar(ines)).toContainText('1 of 2 decided');
  expect((await new AxeBuilder({ page: ines }).analyze()).violations).toEqual([]);
  await bar(ines).getByRole('button', { name: 'Decide later' }).click();
  await ines.keyboard.press('Escape');

  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await text(petru).focus();
  await caret(petru, 'Control+End');
  await text(petru).pressSequentially(' Hens too.');
  await kept(petru);

  await ines.goto('/');
  await ines.goto(path);
  await expect(ines.getByText(/You were assembling .*1 of 2 decided/)).toBeVisible();
  await ines.getByRole('button', { name: 'Go on with it' }).click();
  await expect(outcome(ines)).toContainText('opens at nine.');
  await bar(ines).getByRole('button', { name: 'Many at once …' }).click();
  await ines.getByRole('menuitem', { name: 'All that is left: later' }).click();
  await expect(bar(ines)).toContainText('All is decided');
  await bar(ines).getByRole('button', { name: 'Put it on top …' }).click();
  await bar(ines).getByLabel('A word about what is assembled').fill('Nine it is');
  await bar(ines).getByRole('button', { name: 'Put it on top', exact: true }).click();
  for (const page of [ines, petru])
    await expect(text(page).locator('p')).toHaveText([
      'The gate opens at nine.',
      'Bring boots.',
      'Dogs stay on a lead. Hens too.',
    ]);
  await expect(ines.getByText(/is on top, as version/)).toBeVisible();
  await expect(ines.getByText(/You were assembling/)).toHaveCount(0);
  await ines.getByRole('button', { name: 'Take it back' }).click();
  await expect(text(petru)).toContainText('opens at ten.');
});

test('what is assembled is set aside as a document of its own, or saved as a file', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Jun Asari');
  const { path, earlier, later } = await changed(page, 'Both ways');
  await page.goto(`${path}?earlier=${earlier}&later=${later}&reading=facing&assemble=1`);
  const decide = page.getByRole('group', { name: /^Decide:/ }).first();
  await decide.getByRole('button', { name: 'Keep both' }).click();
  await expect(outcome(page)).toContainText(/nine.*ten/);
  await bar(page).getByRole('button', { name: 'Save it as a file' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Markdown (.md)' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Both ways assembled.md');
  await bar(page).getByRole('button', { name: 'Set it aside as a document …' }).click();
  await bar(page).getByLabel('Title of the new document').fill('Both ways, put together');
  await bar(page).getByRole('button', { name: 'Make the document' }).click();
  await expect(page.getByRole('button', { name: 'Both ways, put together' })).toBeVisible();
  await expect(text(page)).toContainText(/nine.*ten/);
  await page.goto(path);
  await expect(text(page)).toContainText('opens at ten.');
});
