import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { violationsIn } from './axe';
import { caret, expect, kept, makeSlides, open, share, slide, test } from './oxbow';

/** The cards of the slides in their order. */
function cards(page: Page) {
  return page.getByRole('listbox', { name: 'Slides in their order' }).getByRole('option');
}

/** What the cards of the slides are called, without their numbers. */
async function order(page: Page): Promise<string[]> {
  const labels = await cards(page).evaluateAll((all) =>
    all.map((card) => card.getAttribute('aria-label') ?? ''),
  );
  return labels.map((label) => label.replace(/^\d+, /, ''));
}

/** Types a slide from its title on: the title, and the text below it. */
async function typeSlide(page: Page, title: string, words: string): Promise<void> {
  await page.keyboard.type(title);
  await page.keyboard.press('Enter');
  await page.keyboard.type(words);
}

/** Makes what is there now a landmark. */
async function name(page: Page, landmark: string): Promise<void> {
  await kept(page);
  await page.keyboard.press('Alt+t');
  await expect(page.locator('[data-handle="later"]')).toBeFocused();
  const card = page.getByRole('region', { name: 'The picked moment' });
  await page.keyboard.press('n');
  await card.getByLabel('Name').fill(landmark);
  await page.keyboard.press('Enter');
  await expect(card.locator('.landmark')).toHaveText(landmark);
  await page.keyboard.press('Escape');
  await expect(slide(page)).toBeVisible();
}

test('slides are made, written and put in order by two people, who see each other; each undoes only their own', async ({
  browser,
  oxbow,
}) => {
  const ines = await oxbow.as(browser, 'Ines Okell');
  const path = await makeSlides(ines, 'A talk about eels');
  await share(ines, path, 'petru', 'editor');
  await typeSlide(ines, 'Eels', 'They come in spring');
  await ines.keyboard.press('Alt+a');
  await typeSlide(ines, 'The sluice', '- They wait below');
  await expect(slide(ines).locator('.in-hand li')).toHaveText('They wait below');
  await kept(ines);

  const petru = await oxbow.as(browser, 'Petru Dalca');
  await petru.goto(path);
  await expect.poll(() => order(petru)).toEqual(['Eels', 'The sluice, Ines Okell here']);
  await cards(petru).nth(1).click();
  await expect(slide(petru).locator('.in-hand h2')).toHaveText('The sluice');
  await expect(cards(ines).nth(1)).toHaveAccessibleName(/Petru Dalca here/);
  await petru.keyboard.press('End');
  await petru.keyboard.type(' by night');
  await expect(slide(ines).locator('.in-hand h2')).toHaveText('The sluice by night');
  await petru.keyboard.press('Alt+a');
  await petru.keyboard.type('Counting them');
  await petru.keyboard.press('Alt+PageUp');
  await expect
    .poll(() => order(ines))
    .toEqual(['Eels', 'Counting them, Petru Dalca here', 'The sluice by night']);
  await ines.keyboard.press('Control+z');
  await expect(slide(petru)).not.toContainText('They wait below');
  await expect.poll(async () => (await order(ines)).join()).toContain('by night');
  await petru.keyboard.press('Control+z');
  await expect.poll(async () => (await order(ines))[1]).not.toContain('Counting them');
});

test('one deck is kept in four named variants under one link; each is shown, and one is put on top again', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Mairead Quill');
  const path = await makeSlides(page, 'The season in four talks');
  await typeSlide(page, 'For the crew', 'Oars and jackets');
  await page.keyboard.press('Alt+a');
  await typeSlide(page, 'Rules', 'Nobody stands up');
  await name(page, 'Crew');
  for (const variant of ['Schools', 'Harbour', 'Members']) {
    await cards(page).first().click();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(`For the ${variant.toLowerCase()}`);
    await expect(slide(page).locator('.in-hand h2')).toHaveText(`For the ${variant.toLowerCase()}`);
    await name(page, variant);
  }
  await page.goto(path);
  await expect(slide(page)).toBeFocused();
  const showing = page.locator('ox-showing');
  await page.getByRole('button', { name: 'Show the slides' }).click();
  await expect(page.getByRole('menuitem', { name: /^Show the/ })).toHaveText([
    /as they are now/,
    /Crew/,
    /Schools/,
    /Harbour/,
    /Members/,
  ]);
  await page.getByRole('menuitem', { name: /Crew/ }).click();
  await expect(showing.locator('h2')).toHaveText('For the crew');
  await page.keyboard.press('ArrowRight');
  await expect(showing.locator('h2')).toHaveText('Rules');
  await expect(showing.getByRole('status')).toHaveText('2 of 2');
  await page.keyboard.press('Home');
  await expect(showing.locator('h2')).toHaveText('For the crew');
  await page.keyboard.press('Escape');
  await expect(showing).toHaveCount(0);
  await expect(slide(page).locator('.in-hand h2')).toHaveText('For the members');

  // The list of commands finds a variant by its name.
  await page.keyboard.press('Control+/');
  await page.getByRole('combobox').fill('harbour');
  await page.getByRole('option', { name: /Show the deck as “Harbour”/ }).click();
  await expect(showing.locator('h2')).toHaveText('For the harbour');
  await page.keyboard.press('Escape');
  await expect(showing).toHaveCount(0);

  await page.goto(`${path}/landmarks/Crew`);
  const card = page.getByRole('region', { name: 'The picked moment' });
  await expect(card.locator('.landmark')).toHaveText('Crew');
  await card.getByRole('button', { name: 'Show the slides' }).click();
  await expect(showing.locator('h2')).toHaveText('For the crew');
  await page.keyboard.press('Escape');
  await expect(showing).toHaveCount(0);
  await card.getByRole('button', { name: /^Restore/ }).click();
  await card.getByRole('button', { name: /^Put .* on top$/ }).click();
  await expect(page.getByText('is back on top')).toBeVisible();
  await expect(cards(page).first()).toHaveAccessibleName('1, For the crew');
  expect(new URL(page.url()).pathname).toBe(path);
});

test('two variants of the demo’s boat days are read slide beside slide, assembled, and a slide is carried back', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Ines Okell');
  await open(page, 'Boat days, in slides');
  await expect(cards(page)).toHaveCount(8);
  const path = new URL(page.url()).pathname;
  const answer = await page.request.get(`/api${path}/landmarks`);
  const landmarks = (await answer.json()) as { name: string; seq: number }[];
  const seq = (part: string): number => landmarks.find((one) => one.name.includes(part))?.seq ?? 0;

  await page.goto(`${path}?earlier=${seq('schools')}&later=${seq('harbour')}&reading=facing`);
  const earlier = page.locator('.side.earlier');
  const later = page.locator('.side.later');
  // Slides as the later deck shows them, and what is gone where it stood.
  await expect(later.locator('h2').first()).toContainText('Boat days of the Withy Mill Trust');
  await expect(earlier.locator('h2').first()).toContainText('Our day in the boats');
  await expect(earlier.nth(1).locator('h2')).toContainText('What will we see?');
  await expect(later.nth(1)).toHaveClass(/absent/);
  await expect(later.nth(2).locator('section')).toHaveAttribute('data-change', /\d/);
  const card = page.getByRole('region', { name: 'The picked moment' });
  await page.getByRole('radio', { name: 'Digest' }).click();
  await expect(page.getByRole('heading', { name: '2 When something goes wrong' })).toBeVisible();
  await expect(page.locator('ox-digest')).toContainText('moved, whether it is shown');
  await page.getByRole('radio', { name: 'Flowing' }).click();
  await expect(card).toContainText('removed “What will we see?”');
  await page.keyboard.press('j');
  await expect(page.locator('.count').first()).toHaveText(/^2 of/);

  // Picture and text in place and size are form.
  const head = (await (await page.request.get(`/api${path}`)).json()) as { seq: number };
  await page.goto(`${path}?earlier=${seq('harbour')}&later=${head.seq}&reading=digest`);
  await expect(page.locator('ox-digest')).toContainText(
    /form: place on the slide, width, height|form: .*width/,
  );

  await page.goto(`${path}?earlier=${seq('crew')}&later=${seq('schools')}&assemble=1`);
  await page.getByRole('button', { name: 'Earlier', exact: true }).click();
  await expect(page.locator('ox-assembled section h2').first()).toHaveText('A day on the water');

  await page.goto(`${path}?earlier=${seq('crew')}&later=${seq('schools')}&room=carry`);
  const gone = page.locator('ox-pick-page section', { hasText: 'What will we see?' });
  await gone.locator('h2').click();
  await page.locator('ox-pick-page .page').press('w');
  await page.getByRole('button', { name: 'Carry it to where it stood' }).click();
  await expect(cards(page)).toHaveCount(9);
  await expect(page.locator('ox-order-strip')).toContainText('What will we see?');
});

test('a deck is taken out as a presentation, found again as it was, filed as the next version, and printed', async ({
  browser,
  oxbow,
}) => {
  const page = await oxbow.as(browser, 'Hanneke Voss');
  await open(page, 'Boat days, in slides');
  await expect(cards(page)).toHaveCount(8);
  const titles = await order(page);
  const files: Record<string, Buffer> = {};
  for (const ending of ['pptx', 'odp']) {
    await page.getByRole('button', { name: 'Export' }).click();
    const saved = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: new RegExp(`\\.${ending}`) }).click();
    files[ending] = await readFile(await (await saved).path());
  }
  await page.goto('/');
  for (const ending of ['pptx', 'odp']) {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a file' }).click();
    await (
      await chooser
    ).setFiles({
      name: `boats ${ending}.${ending}`,
      mimeType: 'application/zip',
      buffer: files[ending] ?? Buffer.from(''),
    });
    await expect.poll(() => order(page)).toEqual(titles);
    await expect(slide(page).locator('section img')).toHaveCount(2);
    await page.goto('/');
  }
  // What comes back as it went out is no change.
  await page.getByRole('button', { name: 'What can be done with Boat days, in slides' }).click();
  const next = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: /next version/ }).click();
  await (
    await next
  ).setFiles({
    name: 'boats.pptx',
    mimeType: 'application/zip',
    buffer: files['pptx'] ?? Buffer.from(''),
  });
  await page.getByRole('dialog').getByRole('button', { name: 'Import it' }).click();
  await expect(page.getByText('Nothing would change')).toBeVisible();

  await open(page, 'Boat days, in slides');
  await expect(cards(page)).toHaveCount(8);
  // What is given to the printer is kept, and printed as a file.
  await page.evaluate(() => {
    window.print = () => {
      const style = Array.from(document.head.querySelectorAll('style'))
        .findLast(({ textContent }) => textContent.includes('@page'))
        ?.cloneNode(true);
      const drawn = document.querySelector('.printed')?.cloneNode(true);
      setTimeout(() => {
        document.body.append(...[style, drawn].filter((one) => one !== undefined));
        document.body.classList.add('prints-drawn');
      }, 100);
    };
  });
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: /^Print/ }).click();
  await expect(page.locator('body.prints-drawn > .printed > section')).toHaveCount(8);
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
  expect(pdf.match(/\/Type\s*\/Page\b/g)?.length).toBe(8);
  const [, width = 0, height = 1] = (/MediaBox\s*\[0 0 ([\d.]+) ([\d.]+)\]/.exec(pdf) ?? []).map(Number);
  expect(width / height).toBeCloseTo(16 / 9, 1);
});

test('a deck is written by keys alone', async ({ browser, oxbow }) => {
  const page = await oxbow.as(browser, 'Jun Asari');
  await makeSlides(page, 'By keys');
  await typeSlide(page, 'Waders', 'Redshank');
  await caret(page, 'Escape', 'Shift+ArrowDown', 'ArrowRight', 'ArrowRight');
  const box = slide(page).locator('.in-hand [data-box]');
  await expect(box).toHaveAttribute('data-x', '1400');
  await expect(box).toHaveAttribute('data-height', '2200');
  await caret(page, 'Enter', 'Tab');
  await page.keyboard.type('Let them guess first.');
  await expect(slide(page).locator('.in-hand aside')).toHaveText('Let them guess first.');
  await page.keyboard.press('Alt+a');
  await page.keyboard.type('Ducks');
  await page.keyboard.press('Alt+PageUp');
  await expect.poll(() => order(page)).toEqual(['Ducks', 'Waders']);
  await caret(page, 'PageDown');
  await expect(slide(page).locator('.in-hand h2')).toHaveText('Waders');
  await page.keyboard.press('Alt+s');
  await expect(page.locator('ox-showing h2')).toHaveText('Waders');
  await page.keyboard.press('n');
  await expect(page.locator('ox-showing').getByRole('complementary')).toHaveText('Let them guess first.');
  await page.keyboard.press('Escape');
  await expect(page.locator('ox-showing')).toHaveCount(0);
  await expect(slide(page)).toBeFocused();
  await page.keyboard.press('Alt+Enter');
  await expect(page.getByRole('toolbar', { name: 'Tools for slides' }).locator(':focus')).toHaveCount(1);
  await cards(page).nth(1).focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect.poll(() => order(page)).toEqual(['Waders', 'Ducks']);
  await page.keyboard.press('Delete');
  await expect.poll(() => order(page)).toEqual(['Ducks']);
});

for (const width of [1280, 420])
  test(`axe finds nothing wrong with slides, ${width} wide`, async ({ browser, oxbow }) => {
    const page = await oxbow.as(browser, 'Hanneke Voss');
    await page.setViewportSize({ width, height: 800 });
    await open(page, 'Boat days, in slides');
    await expect(cards(page)).toHaveCount(8);
    expect(await violationsIn(page)).toEqual([]);
    await page.keyboard.press('Alt+s');
    await expect(page.locator('ox-showing h2')).toBeVisible();
    expect(await violationsIn(page)).toEqual([]);
    await page.keyboard.press('Escape');
    const { pathname } = new URL(page.url());
    await page.goto(`${pathname}?earlier=8&later=60`);
    await expect(page.locator('ox-reading section').first()).toBeVisible();
    for (const reading of ['Flowing', 'Facing', 'Digest']) {
      await page.getByRole('radio', { name: reading }).click();
      await expect(page.getByRole('radio', { name: reading })).toBeChecked();
      expect(await violationsIn(page)).toEqual([]);
    }
    await page.goto(`${pathname}?room=carry&earlier=8&later=60`);
    await expect(page.locator('ox-pick-page section').first()).toBeVisible();
    expect(await violationsIn(page)).toEqual([]);
  });
