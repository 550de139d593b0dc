import { choose, expect, kept, make, open, share, test, text } from './oxbow';

test('a lost paragraph is found by the tideline, among removed passages and by search', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  // A document that no other test looks for the last change of.
  await open(page, 'Rebuilding the sluice');
  const paragraph = text(page).locator('p').first();
  const whole = (await paragraph.textContent()) ?? '';
  const lost = whole.slice(0, 40);
  const phrase = `"${whole
    .split(/[ .,]+/)
    .slice(0, 5)
    .join(' ')}"`;
  await paragraph.click({ clickCount: 3 });
  await page.keyboard.press('Delete');
  await kept(page);
  await expect(text(page)).not.toContainText(whole);

  // By the tideline, with keys alone: the last thing that happened shows what it took out.
  await page.keyboard.press('Alt+t');
  await expect(page.locator('[data-handle="later"]')).toBeFocused();
  await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
  await expect(page.locator('del', { hasText: lost }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();

  // Among removed passages.
  await page.getByRole('button', { name: 'Removed', exact: true }).click();
  const removed = page.getByRole('region', { name: 'Removed passages' });
  await expect(removed.getByRole('listitem').first()).toContainText(lost);
  await expect(removed.getByRole('listitem').first()).toContainText('Ines Okell removed it');
  await removed.getByLabel('Words in removed').fill(phrase);
  await page.keyboard.press('Enter');
  await expect(removed.getByRole('status')).toContainText('with these words');
  await removed.getByRole('button', { name: 'Show it where it stood' }).first().click();
  await expect(page.locator('del', { hasText: lost }).first()).toBeVisible();

  // By search, with who brought it and who took it out.
  await page.keyboard.press('f');
  const find = page.getByRole('region', { name: 'Find in time' });
  await find.getByLabel('Words to find in time').fill(phrase);
  await page.keyboard.press('Enter');
  const first = find.getByRole('listitem').filter({ hasText: 'removed by' }).first();
  await expect(first).toContainText(/removed by\s*Ines Okell/);
  await first.getByRole('button', { name: 'Life of its passage' }).click();
  const life = page.getByRole('region', { name: 'Passage life' });
  await expect(life.getByRole('listitem').first()).toContainText('wrote it');
  await expect(life.getByRole('listitem').last()).toContainText('removed it');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();
  await text(page).focus();
  await page.keyboard.press('Control+z');
  await expect(text(page)).toContainText(lost);
});

test('what changed while away is counted on the shelf, walked through, and then not new any more', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'Low water list');
  await share(ines, path, 'tobias', 'editor');
  await text(ines).pressSequentially('Gate. ');
  await kept(ines);
  await ines.getByRole('link', { name: 'To the shelf' }).click();
  const tobias = await oxbow.as(browser, 'Tobias Rahn');
  await tobias.goto(path);
  await text(tobias).press('Control+End');
  await text(tobias).pressSequentially('Wheel and race.');
  await kept(tobias);
  await text(tobias).press('Enter');
  await text(tobias).pressSequentially('Hut.');
  await kept(tobias);

  const fresh = ines.getByRole('link', { name: /^New to you: 1 sitting by Tobias Rahn.* in Low water list/ });
  await expect(fresh).toBeVisible();
  await fresh.click();
  const bar = ines.locator('ox-fresh');
  await expect(bar).toContainText('1 sitting by Tobias Rahn');
  await bar.getByRole('button', { name: 'Walk through it' }).click();
  await expect(bar).toContainText('1 of 2 changes seen');
  await ines.keyboard.press('j');
  await expect(bar).toContainText('Nothing was missed');
  await ines.keyboard.press('Escape');
  await expect(text(ines)).toBeVisible();

  // What comes in while one looks on is seen as it comes.
  await text(tobias).pressSequentially(' Kettle.');
  await expect(text(ines)).toContainText('Kettle.');
  await expect(bar).toContainText('Nothing was missed');
  await ines.waitForTimeout(2000);
  await ines.reload();
  await expect(bar).toContainText('Nothing was missed');
});

test('a writer is told when much of theirs disappears, and brings it back in one step', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await make(ines, 'A page to lose');
  await share(ines, path, 'petru', 'editor');
  const sentence = 'The wheel turns with the tide and stops with the tide, twice a day, every day. ';
  await text(ines).pressSequentially(sentence.repeat(3), { delay: 1 });
  await kept(ines);
  await ines.getByRole('link', { name: 'To the shelf' }).click();
  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await expect(text(petru)).toContainText('The wheel turns');
  await text(petru).press('Control+a');
  await text(petru).press('Delete');
  await kept(petru);
  await ines.getByRole('button', { name: '1 notice' }).click();
  const panel = ines.getByRole('region', { name: 'Notices' });
  await expect(panel).toContainText('took out 48 words that you wrote');
  await panel.getByRole('button', { name: 'Bring it back' }).click();
  await expect(text(petru)).toContainText(sentence.trim());
  await expect(ines.getByRole('button', { name: '1 notice' })).toHaveCount(0);
});

test('a paragraph is watched, and a change of it is told and led to', async ({ browser, oxbow }) => {
  const jun = await oxbow.as(browser, 'Jun Asari');
  const path = await make(jun, 'Counts');
  await share(jun, path, 'ines', 'editor');
  await text(jun).pressSequentially('Redshank, two pairs.');
  await kept(jun);
  await jun.getByRole('button', { name: 'Watch' }).click();
  await jun.getByRole('menuitem', { name: /the paragraph I am in/ }).click();
  await expect(jun.getByText('You will be told when “Redshank, two pairs.” changes.')).toBeVisible();
  await jun.getByRole('link', { name: 'To the shelf' }).click();
  const ines = await oxbow.as(browser, 'Ines Okell');
  await ines.goto(path);
  await text(ines).press('Control+End');
  await text(ines).pressSequentially(' And an egret.');
  await kept(ines);
  await jun.getByRole('button', { name: '1 notice' }).click();
  const panel = jun.getByRole('region', { name: 'Notices' });
  await expect(panel).toContainText('And an egret.');
  await panel.getByRole('button', { name: 'Look at what changed' }).click();
  await expect(jun.locator('ins', { hasText: 'egret' }).first()).toBeVisible();
  await expect(jun.getByRole('button', { name: '1 notice' })).toHaveCount(0);
});

test('the writing is played back, step by step, at three paces', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Mairead Quill');
  const path = await make(page, 'Played back');
  for (const words of ['Six places a boat.', 'Six places a boat.\n\nIn fog nobody leaves.']) {
    const file = { name: 'played.md', mimeType: 'text/markdown', buffer: Buffer.from(words) };
    const filed = await page.request.post(`/api${path}/files`, { multipart: { file } });
    expect(filed.status()).toBe(201);
  }
  await expect(text(page)).toContainText('In fog nobody leaves.');
  await page.getByRole('button', { name: 'Play back' }).click();
  const controls = page.getByRole('group', { name: 'Playing' });
  const written = page.getByRole('document', { name: 'The document as it was' });
  const far = controls.getByLabel('How far');
  await controls.getByRole('button', { name: 'Play', exact: true }).or(controls.getByText('Pause')).waitFor();
  await choose(page, 'Pace', 'edit');
  await far.fill('0');
  await expect(written).toHaveText('');
  await controls.getByRole('button', { name: 'Next step' }).click();
  await expect(written).toHaveText('Six places a boat.');
  await expect(controls).toContainText('Mairead Quill');
  await far.fill('2');
  await expect(controls).toContainText('2 of 2');
  await expect(written).toContainText('In fog nobody leaves.');
  await controls.getByRole('button', { name: 'Previous step' }).click();
  await expect(written).toHaveText('Six places a boat.');
  await choose(page, 'Pace', 'sitting');
  await expect(controls).toContainText('1 of 1');
  await expect(written).toContainText('In fog nobody leaves.');
  await controls.getByRole('button', { name: 'Go to this moment' }).click();
  await expect(page.getByRole('region', { name: 'The picked moment' })).toBeVisible();
});

test('the ledger names the last writer of each block and is narrowed to one person', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await open(page, 'Walking the Withy tide mill');
  await text(page).focus();
  await page.keyboard.press('Alt+w');
  await expect(page.locator('.ledgered').first()).toHaveAttribute('data-ledger', /^IO /);
  await choose(page, 'By whom', 'Mairead Quill');
  await expect(page.locator('.ledger-by').first()).toHaveAttribute('title', /^Mairead Quill, /);
  await expect(page.locator('.ledger-dim').first()).toBeVisible();
  await page.keyboard.press('Alt+w');
  await expect(page.locator('.ledgered')).toHaveCount(0);
});

test('contributors are a table, a chart and a file', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await open(page, 'Walking the Withy tide mill');
  await page.getByRole('button', { name: 'Contributors' }).click();
  const table = page.getByRole('table', { name: 'Contributors' });
  await expect(table).toContainText('Ines Okell');
  await expect(page.locator('ox-chart svg').first()).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as CSV' }).click();
  expect((await download).suggestedFilename()).toContain('contributors.csv');
});

test('the shelf finds words in every version of every document, and landmarks by name', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Jun Asari');
  await page.getByLabel('Find words in every version').fill('printer');
  await page.keyboard.press('Enter');
  const found = page.getByRole('region', { name: 'What was found' });
  await expect(found.getByRole('link', { name: 'Summer leaflet' })).toBeVisible();
  await page.getByLabel('Find words in every version').fill('bailer and a sponge');
  await page.keyboard.press('Enter');
  await found.getByRole('link', { name: 'Boat-day briefing' }).click();
  await expect(page.getByRole('region', { name: 'Find in time' })).toContainText('“bailer”');
});

test('a document without a past stays where it is when its past is asked for', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Jun Asari');
  await make(page, 'Still blank');
  await page.keyboard.press('Alt+t');
  await text(page).focus();
  await page.keyboard.type('First words.');
  await kept(page);
  await expect(text(page)).toHaveText('First words.');
  await expect(text(page)).toBeFocused();
});

test('looking back needs no mouse', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await open(page, 'Walking the Withy tide mill');
  await page.keyboard.press('Alt+t');
  await expect(page.locator('[data-handle="later"]')).toBeFocused();
  await page.keyboard.press('f');
  await expect(page.getByRole('heading', { name: 'Find in time' })).toBeFocused();
  const field = page.getByLabel('Words to find in time');
  while (!(await field.evaluate((element) => element === document.activeElement)))
    await page.keyboard.press('Tab');
  await page.keyboard.type('"reed hut has benches"');
  await page.keyboard.press('Enter');
  await expect(page.locator('ox-find').getByRole('status')).toContainText('came');
  const show = page.getByRole('button', { name: 'Show where it was added' }).first();
  while (!(await show.evaluate((element) => element === document.activeElement)))
    await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.locator('ins').first()).toBeVisible();
  await page.keyboard.press('l');
  await expect(page.getByRole('heading', { name: 'Passage life' })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('p');
  await expect(page.getByRole('heading', { name: 'Play back' })).toBeFocused();
  const count = page.getByRole('group', { name: 'Playing' }).locator('.count');
  await expect(count).toContainText(/^[1-9]/);
  await page.keyboard.press('Escape');
  await page.keyboard.press('r');
  await expect(page.getByRole('heading', { name: 'Removed passages' })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(text(page)).toBeVisible();
});
