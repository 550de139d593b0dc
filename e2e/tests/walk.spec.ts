import { expect, kept, make, share, test, text } from './oxbow';

test('two write in one paragraph, one loses it, the other finds who and when and brings it back', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const tobias = await oxbow.as(browser, 'Tobias Rahn');
  const path = await make(ines, 'Opening days');
  await share(ines, path, 'tobias', 'editor');
  await text(ines).pressSequentially('The mill opens on Sunday. ');
  await kept(ines);
  await tobias.goto(path);
  await expect(text(tobias)).toContainText('The mill opens on Sunday.');

  await text(tobias).press('Control+End');
  await text(ines).press('Control+Home');
  await expect.poll(() => ines.evaluate(() => getSelection()?.anchorOffset)).toBe(0);
  await ines.waitForTimeout(300);
  await Promise.all([
    text(ines).pressSequentially('Please note: '),
    text(tobias).pressSequentially('Bring boots and a coat.'),
  ]);
  await Promise.all([kept(ines), kept(tobias)]);
  for (const page of [ines, tobias])
    await expect(text(page)).toHaveText('Please note: The mill opens on Sunday. Bring boots and a coat.');

  await text(tobias).press('Control+a');
  await text(tobias).press('Delete');
  await kept(tobias);
  await expect(text(ines)).toHaveText('');

  await ines.keyboard.press('Alt+t');
  const card = ines.getByRole('region', { name: 'The picked moment' });
  await expect(card).toBeVisible();
  await ines.getByRole('slider', { name: 'Later' }).focus();
  const gone = card.getByText(/Removed “.*The mill opens on Sunday/);
  for (let i = 0; i < 60 && !(await gone.isVisible()); i++) {
    await ines.keyboard.press(i === 0 ? 'Home' : 'ArrowRight');
    await ines.waitForTimeout(300);
  }
  await expect(card).toContainText('Tobias Rahn');
  await expect(card).toContainText(/Removed “.*The mill opens on Sunday/);
  await expect(card).toContainText(/\d\d:\d\d:\d\d/);
  await expect(ines.locator('del.was-removed').first()).toBeVisible();
  await expect(
    ines
      .getByRole('document')
      .getByRole('button', { name: /Tobias Rahn/ })
      .first(),
  ).toBeVisible();

  await ines.keyboard.press('ArrowLeft');
  await expect(card).not.toContainText('Removed');
  await expect(ines.getByLabel('The document as it was')).toContainText('coat.');
  await card.getByRole('button', { name: /^Restore/ }).click();
  await expect(card).toContainText('goes on top as the next version');
  await card.getByRole('button', { name: /^Put .* on top$/ }).click();
  for (const page of [ines, tobias])
    await expect(text(page)).toHaveText('Please note: The mill opens on Sunday. Bring boots and a coat.');
  await expect(tobias.getByText('Ines Okell brought back')).toBeVisible();

  await ines.getByRole('button', { name: 'Log', exact: true }).click();
  const log = ines.getByRole('table', { name: 'Sittings, versions and edits' });
  await log
    .getByRole('button', { name: /^Unfold/ })
    .first()
    .click();
  await expect(log.getByRole('row').nth(2)).toContainText('brought back');
  await expect(log).toContainText('the beginning');

  await ines.getByRole('button', { name: 'Take the restore back' }).click();
  for (const page of [ines, tobias]) await expect(text(page)).toHaveText('');
});

test('undo touches one’s own writing only', async ({ browser, oxbow }) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const mairead = await oxbow.as(browser, 'Mairead Quill');
  const path = await make(ines, 'Rope and oars');
  await share(ines, path, 'mairead', 'editor');
  await text(ines).pressSequentially('rope ');
  await kept(ines);
  await mairead.goto(path);
  await text(mairead).press('Control+End');
  await text(mairead).pressSequentially('oars');
  await kept(mairead);
  await expect(text(ines)).toHaveText('rope oars');
  await text(ines).press('Control+z');
  await expect(text(mairead)).toHaveText('oars');
  await text(ines).press('Control+y');
  await expect(text(mairead)).toHaveText('rope oars');
});

test('everyone who is here is seen, and a share that ends puts its holder out', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const jun = await oxbow.as(browser, 'Jun Asari');
  const path = await make(ines, 'Counts');
  await share(ines, path, 'jun', 'editor');
  await jun.goto(path);
  await text(jun).pressSequentially('two redshank');
  await expect(ines.getByText('Jun Asari has this document open')).toBeAttached();
  await expect(ines.locator('.caret[data-initials="JA"]')).toBeVisible();
  const id = path.split('/').at(-1) ?? '';
  await ines.request.delete(`/api/documents/${id}/shares/jun`, {
    headers: { Origin: new URL(ines.url()).origin },
  });
  await expect(jun.getByText('no longer shared with you')).toBeVisible();
});
