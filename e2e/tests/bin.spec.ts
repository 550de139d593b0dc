import AxeBuilder from '@axe-core/playwright';
import { expect, kept, make, test, text } from './oxbow';

test('a document is put in the bin, put back, and deleted for good, under the eyes of whoever has it', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const address = await make(ines, 'Old notes');
  await text(ines).pressSequentially('The old sluice. ');
  await kept(ines);
  const id = address.split('/').at(-1) ?? '';
  await ines.request.put(`/api/documents/${id}/shares/jun`, { data: { role: 'editor' } });
  const jun = await oxbow.as(browser, 'Jun Asari');
  await jun.getByRole('link', { name: 'Old notes', exact: true }).click();
  await expect(text(jun)).toContainText('The old sluice.');

  const bin = async (): Promise<void> => {
    await ines.goto('/');
    await ines.getByRole('button', { name: 'What can be done with Old notes' }).click();
    await ines.getByRole('menuitem', { name: 'Put it in the bin' }).click();
    await expect(ines.getByText('“Old notes” is in the bin')).toBeVisible();
  };
  await bin();
  await expect(jun.getByText('no longer shared with you')).toBeVisible();
  await ines.getByRole('button', { name: 'Put it back' }).click();
  await expect(ines.getByRole('link', { name: 'Old notes', exact: true })).toBeVisible();
  await jun.goto(address);
  await expect(text(jun)).toContainText('The old sluice.');

  await bin();
  await ines.getByRole('link', { name: 'To the bin' }).click();
  await ines.getByRole('button', { name: 'Delete Old notes for good …' }).click();
  await expect(ines.getByText('One other person had it.')).toBeVisible();
  expect((await new AxeBuilder({ page: ines }).analyze()).violations).toEqual([]);
  await ines.getByRole('button', { name: 'Delete “Old notes” for good' }).click();
  await expect(ines.getByText('The bin is empty.')).toBeVisible();
  await jun.goto(address);
  await expect(jun.getByRole('heading', { name: 'You do not have this document' })).toBeVisible();
});

test('somebody chooses their look, their keys and how others see them', async ({ browser, oxbow }) => {
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto('/account');
  await petru.getByRole('combobox', { name: 'Look' }).click();
  await petru.getByRole('option', { name: 'Dark' }).click();
  await petru.getByRole('checkbox', { name: /Single letters/ }).uncheck();
  await petru.getByRole('button', { name: 'Keep these settings' }).click();
  await expect(petru.getByText('Your settings are kept.')).toBeVisible();
  expect((await new AxeBuilder({ page: petru }).analyze()).violations).toEqual([]);
  await petru.reload();
  const scheme = (): Promise<string> =>
    petru.evaluate(() => getComputedStyle(document.documentElement).colorScheme);
  expect(await scheme()).toBe('dark');
  await petru.goto('/');
  await petru.getByRole('link', { name: /^Walking the Withy/ }).click();
  await expect(text(petru)).toBeVisible();
  await petru.locator('header').first().click();
  await petru.keyboard.press('f');
  await petru.keyboard.press('?');
  await expect(petru.getByRole('dialog')).toHaveCount(0);
  await expect(petru.getByRole('button', { name: 'Find in time' })).toBeVisible();

  await petru.goto('/account');
  await petru.getByRole('combobox', { name: 'Look' }).click();
  await petru.getByRole('option', { name: 'As this device has it' }).click();
  await petru.getByRole('checkbox', { name: /Single letters/ }).check();
  await petru.getByRole('button', { name: 'Keep these settings' }).click();
  await expect(petru.getByText('Your settings are kept.')).toBeVisible();
  expect(await scheme()).toBe('light dark');
  await petru.getByLabel('Your name').fill('Petru D. Dalca');
  await petru.getByRole('button', { name: 'Change how others see you' }).click();
  await expect(petru.getByText('Others see you so from now on')).toBeVisible();
  const jun = await oxbow.as(browser, 'Jun Asari');
  await jun.getByRole('link', { name: /^Walking the Withy/ }).click();
  await jun.getByRole('button', { name: 'Contributors' }).click();
  await expect(jun.locator('main')).toContainText('Petru D. Dalca');
  await petru.getByLabel('Your name').fill('Petru Dalca');
  await petru.getByRole('button', { name: 'Change how others see you' }).click();
  await expect(petru.getByText('Signed in as Petru Dalca.')).toBeVisible();
});
