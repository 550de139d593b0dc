import { caret, choose, expect, kept, make, open, share, test, text } from './oxbow';

test('one person’s sitting is taken back, what another wrote since stays, and it can be brought again', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Sunday opening');
  await share(ines, path, 'petru', 'editor');
  await text(ines).pressSequentially('Open at ten. ');
  await kept(ines);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await text(petru).press('Control+End');
  await text(petru).pressSequentially('Closed in fog. ');
  await kept(petru);
  await text(ines).press('Control+End');
  await text(ines).pressSequentially('Tea at four.');
  await kept(ines);
  await ines.keyboard.press('Alt+t');
  const card = ines.getByRole('region', { name: 'The picked moment' });
  await card.getByRole('button', { name: 'Take back …' }).click();
  await choose(ines, 'By whom', 'Petru Dalca');
  await expect(card).toContainText('removed “Closed in fog.”', { ignoreCase: true });
  await card.getByRole('button', { name: 'Take it back' }).click();
  for (const page of [ines, petru]) await expect(text(page)).toHaveText('Open at ten. Tea at four.');
  await ines.getByRole('button', { name: 'Bring it again' }).click();
  for (const page of [ines, petru])
    await expect(text(page)).toHaveText('Open at ten. Closed in fog. Tea at four.');
});

test('a restore keeps its note, and a moment becomes a private document of its own', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  await open(page, 'Boat-day briefing');
  await page.keyboard.press('Alt+t');
  await expect(page.locator('[data-handle="later"]')).toBeFocused();
  await page.keyboard.press('ArrowLeft');
  const card = page.getByRole('region', { name: 'The picked moment' });
  await expect(card).not.toContainText('harbour master');
  await card.getByRole('button', { name: /^Restore/ }).click();
  await card.getByLabel('A note on this restore').fill('The old list was better.');
  await card.getByRole('button', { name: /^Put .* on top$/ }).click();
  await expect(page.getByText('is back on top')).toBeVisible();
  await page.getByRole('button', { name: 'Log', exact: true }).click();
  await expect(page.getByText('“The old list was better.”').first()).toBeVisible();
  await page.getByRole('button', { name: 'Log', exact: true }).click();
  await page.getByRole('button', { name: 'Take the restore back' }).click();
  await expect(text(page)).toContainText('In fog nobody leaves.');

  await page.keyboard.press('Alt+t');
  await expect(page.locator('[data-handle="later"]')).toBeFocused();
  await page.keyboard.press('ArrowLeft');
  await card.getByRole('button', { name: 'Export or copy' }).click();
  await page.getByRole('menuitem', { name: 'As a document of its own …' }).click();
  await card.getByLabel('Title of the new document').fill('A briefing of my own');
  await card.getByRole('button', { name: 'Make the document' }).click();
  await expect(page.getByRole('button', { name: 'A briefing of my own' })).toBeVisible();
  await expect(text(page)).toContainText('Six places a boat');
  const other = await oxbow.as(browser, 'Jun Asari');
  await expect(other.getByRole('link', { name: 'Boat-day briefing', exact: true })).toBeVisible();
  await expect(other.getByRole('link', { name: 'A briefing of my own' })).toHaveCount(0);
});

test('quick ways back lead to as it was found and to before one’s own sitting', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Jun Asari');
  await make(page, 'Egrets');
  await text(page).pressSequentially('One egret. ');
  await kept(page);
  await page.getByRole('button', { name: 'Go back …' }).click();
  await page.getByRole('menuitem', { name: /To before this sitting of mine/ }).click();
  await expect(text(page)).toHaveText('');
  await page.getByRole('button', { name: 'Bring it again' }).click();
  await expect(text(page)).toHaveText('One egret. ');
  await page.reload();
  await expect(text(page)).toHaveText('One egret. ');
  await text(page).press('Control+End');
  await text(page).pressSequentially('Two egrets.');
  await kept(page);
  await page.getByRole('button', { name: 'Go back …' }).click();
  await page.getByRole('menuitem', { name: /To as I found it/ }).click();
  await expect(text(page)).toHaveText('One egret. ');
});

test('a copy comes home: what only it changed goes in, and a conflict is decided first', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Tide times');
  await share(ines, path, 'tobias', 'editor');
  await text(ines).pressSequentially('High water at ten.');
  await ines.keyboard.press('Enter');
  await text(ines).pressSequentially('Low water at four.');
  await kept(ines);
  const tobias = await oxbow.as(browser, 'Tobias Rahn');
  await tobias.goto(path);
  await expect(text(tobias)).toContainText('Low water');
  await tobias.keyboard.press('Alt+t');
  const card = tobias.getByRole('region', { name: 'The picked moment' });
  await card.getByRole('button', { name: 'Export or copy' }).click();
  await tobias.getByRole('menuitem', { name: 'As a document of its own …' }).click();
  await card.getByLabel('Title of the new document').fill('Tide times, tried out');
  await card.getByRole('button', { name: 'Make the document' }).click();
  await expect(tobias.getByRole('button', { name: 'Copied from Tide times' })).toBeVisible();
  const write = async (page: typeof tobias, from: string, to: string): Promise<void> => {
    await text(page)
      .getByText(from)
      .dblclick({ position: { x: 118, y: 12 } });
    await page.keyboard.press('End');
    await page.keyboard.press('Backspace');
    for (let i = 0; i < to.length; i++) await page.keyboard.press('Backspace');
    await page.keyboard.type(`${to}.`);
    await kept(page);
  };
  await write(tobias, 'High water', 'six');
  await write(tobias, 'Low water', 'noon');
  await write(ines, 'High water', 'two');

  await tobias.getByRole('button', { name: 'Copied from Tide times' }).click();
  await tobias.getByRole('menuitem', { name: 'Bring this copy home …' }).click();
  const home = tobias.getByRole('region', { name: 'Bring this copy home' });
  await expect(home).toContainText('One place was changed in both, differently');
  const put = home.getByRole('button', { name: 'Put it into Tide times' });
  await expect(put).toBeDisabled();
  await home.getByRole('radio', { name: /^In this copy/ }).click();
  await put.click();
  await expect(tobias.getByRole('region', { name: 'The picked moment' })).toBeVisible();
  await expect(text(ines)).toContainText('six.');
  await expect(text(ines)).toContainText('noon.');
  await expect(text(ines)).not.toContainText('two.');
});

test('one change is taken back from the note beside its mark, and what came after it stays', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Notes on the quay');
  await share(ines, path, 'petru', 'editor');
  const head = async (): Promise<number> => {
    await kept(ines);
    return ((await (await ines.request.get(`/api${path}`)).json()) as { seq: number }).seq;
  };
  await ines.keyboard.type('The quay is dry.');
  const earlier = await head();
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await text(petru).focus();
  await caret(petru, 'Control+End');
  await petru.keyboard.type(' Mind the step.');
  await kept(petru);
  const later = await head();
  await text(ines).focus();
  await caret(ines, 'Control+Home');
  await ines.keyboard.type('Look: ');
  await kept(ines);
  await ines.goto(`${path}?earlier=${earlier}&later=${later}`);
  // What is still being drawn may take the mark from under the pointer, and the note with it.
  await expect(async () => {
    await ines.mouse.move(0, 0);
    await ines.locator('.was-added').first().hover();
    await ines
      .getByRole('note')
      .getByRole('button', { name: 'Take this change back …' })
      .click({ timeout: 5000 });
  }).toPass();
  await expect(ines.getByText(/Taking it back: removed “Mind the step/i)).toBeVisible();
  await ines.getByRole('button', { name: 'Take it back' }).click();
  await expect(text(petru)).toHaveText('Look: The quay is dry.');
  await ines.getByRole('button', { name: 'Bring it again' }).click();
  await expect(text(petru)).toHaveText('Look: The quay is dry. Mind the step.');
});

test('a restore arrives as one edit under somebody who is writing: nothing of theirs is lost, and a landmark still leads there', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Agreed words');
  await share(ines, path, 'petru', 'editor');
  await ines.keyboard.type('The gate opens at nine.');
  await kept(ines);
  const id = path.split('/').at(-1) ?? '';
  const head = async (): Promise<number> =>
    ((await (await ines.request.get(`/api${path}`)).json()) as { seq: number }).seq;
  const agreed = await head();
  const named = await ines.request.post(`/api/documents/${id}/landmarks`, {
    data: { seq: agreed, name: 'As agreed' },
    headers: { Origin: oxbow.address },
  });
  expect(named.ok()).toBe(true);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await text(petru).focus();
  await caret(petru, 'Control+End');
  await petru.keyboard.press('Enter');
  await petru.keyboard.type('Petru writes: one');
  await kept(petru);
  await ines.goto(`${path}?earlier=${agreed}&later=${agreed}`);
  const card = ines.getByRole('region', { name: 'The picked moment' });
  await card.getByRole('button', { name: /^Restore/ }).click();
  await expect(card).toContainText('leave the page but stay in the history');
  const typing = petru.keyboard.type(' two three four five six seven', { delay: 60 });
  await card.getByRole('button', { name: /^Put .* on top$/ }).click();
  await expect(ines.getByText('is back on top')).toBeVisible();
  await typing;
  await kept(petru);
  await expect(text(petru)).toContainText('The gate opens at nine.');
  await expect(text(petru)).toContainText('seven');
  await expect(text(petru)).toBeFocused();
  await ines.getByRole('button', { name: 'Take the restore back' }).click();
  for (const page of [ines, petru]) {
    await expect(text(page)).toContainText('Petru writes: one');
    await expect(text(page)).toContainText('seven');
  }
  await ines.goto(`${path}/landmarks/As agreed`);
  await expect(ines.getByRole('region', { name: 'The picked moment' })).toContainText('As agreed');
});

test('going back before one’s own sitting leaves what another wrote meanwhile', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Two at work');
  await share(ines, path, 'petru', 'editor');
  await ines.keyboard.type('Mine. ');
  await kept(ines);
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await text(petru).focus();
  await caret(petru, 'Control+End');
  await petru.keyboard.type('Theirs.');
  await kept(petru);
  await expect(text(ines)).toHaveText('Mine. Theirs.');
  await ines.getByRole('button', { name: 'Go back …' }).click();
  await ines.getByRole('menuitem', { name: /To before this sitting of mine/ }).click();
  for (const page of [ines, petru]) await expect(text(page)).toHaveText('Theirs.');
});
