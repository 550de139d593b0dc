import AxeBuilder from '@axe-core/playwright';
import { expect, test } from './oxbow';

test('a file that came by mail is compared, filed by its sender, and goes back out as a redline that is filed in turn', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Mairead Quill');
  // A copy is filed on, so that the briefing stays as other tests look for it.
  const headers = { Origin: oxbow.address };
  const { items } = (await (await page.request.get('/api/documents')).json()) as {
    items: { id: string; title: string; seq: number }[];
  };
  const briefing = items.find(({ title }) => title === 'Boat-day briefing');
  await page.request.post(`/api/documents/${briefing?.id ?? ''}/copies`, {
    headers,
    data: { seq: briefing?.seq, title: 'Briefing for the pilots' },
  });
  await page.getByRole('link', { name: 'Arrivals (1)' }).click();
  const letter = page.getByRole('article', { name: 'Re: Boat-day briefing' });
  await expect(letter).toContainText('From Wilmot Strake');
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await letter.getByRole('button', { name: 'Import …' }).click();
  await expect(letter.getByRole('radio').first()).toBeChecked();
  await expect(letter).toContainText(/Boat-day briefing\s*\d+ % alike/);
  await letter.getByRole('radio', { name: 'Briefing for the pilots' }).check();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

  await letter.getByRole('button', { name: 'Compare it first' }).click();
  const card = page.getByRole('region', { name: 'The picked moment' });
  await expect(card).toContainText('A file from outside');
  await expect(card).toContainText(/tracked changes by Wilmot Strake/);
  await expect(page.locator('ins').filter({ hasText: 'hand-held radio' })).toBeVisible();
  await card.getByRole('button', { name: 'File it as the next version' }).click();
  const filing = page.getByRole('dialog');
  await filing.getByLabel('A word about where it comes from').fill('From the harbour office, by mail');
  await filing.getByLabel('Count it as a major version').check();
  await filing.getByRole('button', { name: 'Import it' }).click();
  await expect(card).toContainText('From the harbour office, by mail');
  await expect(card).toContainText('Wilmot Strake');
  await expect(page.getByLabel('The document as it was')).toContainText('hand-held radio');

  await page.getByRole('button', { name: 'Print or save this comparison' }).click();
  await page.getByRole('menuitem', { name: 'Send it with tracked changes' }).click();
  const sending = page.getByRole('dialog');
  await sending.getByLabel('To').fill('ines@withy.example, wilmot@slipway.example');
  await sending.getByLabel('Words').fill('What the harbour changed.');
  expect((await new AxeBuilder({ page }).include('ox-sending').analyze()).violations).toEqual([]);
  await sending.getByRole('button', { name: 'Send it' }).click();
  await expect(page.getByText(/^Sent Briefing for the pilots .*\.docx to/)).toBeVisible();

  const ines = await oxbow.as(browser, 'Ines Okell');
  await ines.getByRole('link', { name: /^Arrivals/ }).click();
  const redline = ines.getByRole('article', { name: /^Briefing for the pilots, / });
  await expect(redline).toContainText('What the harbour changed.');
  await redline.getByRole('button', { name: 'Import …' }).click();
  await redline.getByRole('radio', { name: 'A document of its own' }).check();
  await redline.getByRole('button', { name: 'Make a document of it' }).click();
  const dialog = ines.getByRole('dialog');
  await expect(dialog).toContainText(/tracked changes? by Wilmot Strake/);
  await dialog.getByRole('radio', { name: 'Both' }).click();
  await dialog.getByRole('button', { name: 'Make the document' }).click();
  await expect(ines.getByRole('textbox').first()).toContainText('hand-held radio');
});
