import AxeBuilder from '@axe-core/playwright';
import { below, expect, kept, make, test, text } from './oxbow';

test('a document is shared from today on, by name, looked at by the newcomer in every room, and taken back', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const address = await make(ines, 'Leaflet to share');
  await text(ines).pressSequentially('Secret plans of before. ');
  await kept(ines);
  await ines.getByRole('link', { name: 'Share …' }).click();
  await expect(ines.getByRole('heading', { name: 'Sharing “Leaflet to share”' })).toBeVisible();
  expect((await new AxeBuilder({ page: ines }).analyze()).violations).toEqual([]);

  // By keys alone: a name is begun, chosen from the list, and the rest is tabbed through.
  await ines.getByLabel('Name, group or email address').focus();
  await ines.keyboard.type('Tob');
  await expect(ines.getByRole('option', { name: /Tobias Rahn/ })).toBeVisible();
  await ines.keyboard.press('ArrowDown');
  await ines.keyboard.press('Enter');
  await ines.keyboard.press('Tab');
  await ines.keyboard.press('Tab');
  await ines.keyboard.press('ArrowDown');
  await ines.getByRole('button', { name: 'Share', exact: true }).focus();
  await ines.keyboard.press('Enter');
  await expect(ines.getByRole('status')).toContainText('It is shared with Tobias Rahn');
  await expect(ines.getByRole('listitem').filter({ hasText: 'Tobias Rahn' }).first()).toContainText(
    'sees its history from',
  );

  const tobias = await oxbow.as(browser, 'Tobias Rahn');
  await tobias.goto(address);
  await expect(text(tobias)).toContainText('Secret plans of before.');
  await expect(tobias.getByText('nothing written yet', { exact: true })).toBeVisible();
  await text(tobias).click();
  await tobias.keyboard.press('Control+a');
  await tobias.keyboard.type('Only what I wrote.');
  await kept(tobias);
  await tobias.getByRole('button', { name: 'Log', exact: true }).click();
  const rows = tobias.getByRole('table', { name: 'Sittings, versions and edits' }).getByRole('row');
  await expect(rows.last()).toContainText('What stood when you came');
  await expect(rows.last()).toContainText('the beginning');
  for (const [room, said] of [
    ['Removed', 'Secret plans of before.'],
    ['Contributors', 'Tobias Rahn'],
  ] as const) {
    await tobias.getByRole('button', { name: room, exact: true }).click();
    await expect(tobias.locator('main')).toContainText(said);
    await expect(tobias.locator('main')).not.toContainText('Ines Okell');
    await tobias.keyboard.press('Escape');
  }
  await tobias.getByRole('button', { name: 'Who wrote what' }).click();
  await expect(tobias.getByText('Ines Okell')).toHaveCount(0);

  await ines.getByRole('button', { name: 'Stop sharing it with Tobias Rahn …' }).click();
  await ines.getByRole('button', { name: 'Stop sharing it with Tobias Rahn', exact: true }).click();
  await expect(ines.getByRole('status')).toContainText('not shared with Tobias Rahn any more');
  await expect(ines.getByText('Ines Okell stopped sharing it with Tobias Rahn')).toBeVisible();
  await expect(tobias.getByText('no longer shared with you')).toBeVisible();
  await tobias.goto('/');
  await expect(tobias.getByRole('link', { name: 'Leaflet to share', exact: true })).toHaveCount(0);
});

test('an address outside is invited to a document as a guest', async ({ browser, oxbow }) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  await make(ines, 'For a guest');
  await ines.getByRole('link', { name: 'Share …' }).click();
  await ines.getByLabel('Name, group or email address').fill('nobody');
  await ines.getByRole('button', { name: 'Share', exact: true }).click();
  await expect(ines.getByText('Choose somebody from the list, or give a whole address')).toBeVisible();
  await ines.getByLabel('Name, group or email address').fill('guest@else.example');
  await ines.getByLabel('A word to go with it').fill('Please look at the last page.');
  await ines.getByRole('button', { name: 'Share', exact: true }).click();
  await expect(ines.getByRole('status')).toContainText('was invited as a guest');
  await ines.getByRole('button', { name: 'Write to guest@else.example again' }).click();
  await expect(ines.getByRole('status')).toContainText('guest@else.example was written to again');
  await ines.getByRole('button', { name: 'Stop sharing with everybody …' }).click();
  await ines.getByRole('button', { name: 'Stop sharing it with everybody', exact: true }).click();
  await expect(ines.getByRole('status')).toContainText('Only its owners have it now');
});

test('a collection is shared with a group that an administrator made, and who has what through it is said', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  await ines.goto('/people');
  await ines.getByRole('button', { name: 'New group' }).click();
  await ines.getByLabel('Name of the group').fill('Printers');
  await ines.getByRole('combobox', { name: 'Who is in it' }).click();
  await ines.getByRole('option', { name: 'Tobias Rahn' }).click();
  await ines.keyboard.press('Escape');
  await ines.getByRole('button', { name: 'Keep the group' }).click();
  await expect(ines.getByRole('listitem').filter({ hasText: 'Printers' })).toContainText('Tobias Rahn');

  await ines.goto('/');
  await make(ines, 'Leaflet proofs');
  await ines.goto('/');
  await ines.getByRole('button', { name: 'New collection' }).click();
  await ines.getByLabel('Name of the new collection').fill('Proofs');
  await ines.keyboard.press('Enter');
  await ines.getByRole('button', { name: 'What can be done with Leaflet proofs' }).click();
  await ines.getByRole('menuitem', { name: 'Move to a collection' }).click();
  await ines.getByRole('menuitem', { name: 'Proofs', exact: true }).click();
  const tobias = await oxbow.as(browser, 'Tobias Rahn');
  await expect(tobias.getByRole('link', { name: 'Leaflet proofs', exact: true })).toHaveCount(0);

  await ines.getByRole('link', { name: 'Share the collection Proofs' }).click();
  expect((await new AxeBuilder({ page: ines }).analyze()).violations).toEqual([]);
  await ines.getByLabel('Name, group or email address').fill('prin');
  await ines.getByRole('option', { name: /Printers/ }).click();
  await ines.getByRole('button', { name: 'Share', exact: true }).click();
  await expect(ines.getByRole('status')).toContainText('It is shared with Printers');
  await expect(below(tobias, 'Proofs').first()).toContainText('Leaflet proofs');
  await expect(tobias.getByRole('link', { name: 'Share the collection Proofs' })).toHaveCount(0);

  await ines.goto('/');
  await ines.getByRole('button', { name: 'What can be done with Leaflet proofs' }).click();
  await ines.getByRole('menuitem', { name: 'Share' }).click();
  await expect(ines.getByText('as one of Printers, through the collection Proofs')).toBeVisible();
  await ines.goto('/');
  await ines.getByRole('button', { name: 'Delete the collection Proofs …' }).click();
  await ines.getByRole('button', { name: 'Delete the collection', exact: true }).click();
  await expect(tobias.getByRole('link', { name: 'Leaflet proofs', exact: true })).toHaveCount(0);
  await expect(below(ines, 'In no collection').filter({ hasText: 'Leaflet proofs' })).toHaveCount(1);
});

test('whoever has a document only as it is now writes in it, finds no way into the past, and comes back after being away', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const address = await make(ines, 'For now only');
  await text(ines).pressSequentially('Here it stands. ');
  await kept(ines);
  const id = address.split('/').at(-1) ?? '';
  const headers = { Origin: oxbow.address };
  await ines.request.put(`/api/documents/${id}/shares/jun`, {
    data: { role: 'editor', history: 'none' },
    headers,
  });
  const jun = await oxbow.as(browser, 'Jun Asari');
  await jun.goto(address);
  await expect(text(jun)).toContainText('Here it stands.');
  await expect(jun.getByText('its history is not shared with you')).toBeVisible();
  await expect(jun.getByRole('navigation', { name: 'Ways into the past' })).toHaveCount(0);
  await expect(jun.getByRole('alert')).toHaveCount(0);
  for (const name of ['Compare …', 'Log', 'Who wrote what', 'Watch'])
    await expect(jun.getByRole('button', { name, exact: true })).toHaveCount(0);
  expect((await new AxeBuilder({ page: jun }).analyze()).violations).toEqual([]);

  await jun.context().setOffline(true);
  await text(ines).click();
  await ines.keyboard.press('Control+End');
  await text(ines).pressSequentially('More came. ');
  await kept(ines);
  await text(jun).click();
  await jun.keyboard.press('Control+Home');
  await text(jun).pressSequentially('Jun: ');
  await jun.context().setOffline(false);
  await expect(text(jun)).toContainText('Jun: Here it stands. More came.');
  await expect(text(ines)).toContainText('Jun: Here it stands. More came.');
});
