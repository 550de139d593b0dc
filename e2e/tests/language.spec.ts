import type { Page } from '@playwright/test';
import { expect, test } from './oxbow';

/**
 * Has the page's own texts told in a made-up language: each letter with an accent, and vowels twice, which makes it a third longer.
 * Numbers, names and what stands between braces stay. Runs in the page before its script.
 */
function speakLong(): void {
  const from = 'bcdfghjklmnpqrstvwxyzBCDFGHJKLMNPQRSTVWXYZ';
  const to = 'ƀçđƒğħĵķļɱñƥʠŕšţṽŵẋýžßÇÐƑĞĤĴĶĻṀÑƤɊŔŠŢṼŴẊÝŽ';
  const vowels: Record<string, string> = { a: 'áá', e: 'éé', i: 'íí', o: 'óó', u: 'úú' };
  const long = (letter: string): string => {
    const vowel = vowels[letter.toLowerCase()];
    if (vowel)
      return letter === letter.toLowerCase() ? vowel : `${vowel[0]?.toUpperCase() ?? ''}${vowel[1] ?? ''}`;
    return [...to][from.indexOf(letter)] ?? letter;
  };
  /** What has cases has words at every second depth of braces; names in capitals stand for values. */
  const say = (said: string): string => {
    let depth = 0;
    return said.replace(/\{[A-Z0-9_]+\}|\uFFFD[^\uFFFD]*\uFFFD|./gsu, (sign) => {
      if (sign === '{') depth++;
      else if (sign === '}') depth--;
      return sign.length > 1 || depth % 2 === 1 || '{}'.includes(sign) ? sign : long(sign);
    });
  };
  /** A part may begin with a block between colons, which says what it is. */
  const part = (raw: string): string => {
    const block = /^:(?:[^:\\]|\\.)*:/.exec(raw)?.[0] ?? '';
    return block + say(raw.slice(block.length));
  };
  interface Localize {
    translate?: (
      parts: TemplateStringsArray,
      given: readonly unknown[],
    ) => [TemplateStringsArray, readonly unknown[]];
  }
  let held: Localize | undefined;
  Object.defineProperty(globalThis, '$localize', {
    configurable: true,
    get: () => held,
    set(given: Localize) {
      held = given;
      given.translate = (parts, values) => {
        const told = parts.raw.map(part);
        return [Object.assign([...told], { raw: told }) as unknown as TemplateStringsArray, values];
      };
    },
  });
}

/** Collects every text that the server sends: what it says is told as it is. */
async function hearing(page: Page): Promise<() => string> {
  const heard: string[] = [];
  await page.route('**/api/**', async (route) => {
    // A line that the server ends while it is taken again is no fault of the page.
    const response = await route.fetch({ maxRetries: 3 });
    heard.push(await response.text());
    await route.fulfill({ response });
  });
  return () => heard.join('\n');
}

/** What is the same in every language: the product, keys, formats, and times as the browser writes them. */
const SAME = new RegExp(
  [
    'Oxbow Tide|Chrome|Linux|Ctrl|Alt|Shift|Esc|Enter|Home|End|PageUp|PageDown|\\{pages?\\}|docx|odt|html',
    '\\b(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sept?|Oct|Nov|Dec|Mon|Tue|Wed|Thu|Fri|Sat|Sun)\\b',
    '\\d+ \\w+ ago|in \\d+ \\w+|yesterday',
  ].join('|'),
  'g',
);

/** Words of three letters and more without an accent that the page shows or tells by itself, and what does not fit. */
async function leftIn(page: Page, heard: string): Promise<string[]> {
  const { words, cut } = await page.evaluate(() => {
    const words: string[] = [];
    const cut: string[] = [];
    const shown = (element: Element): boolean => element.checkVisibility({ visibilityProperty: true });
    for (const element of Array.from(document.querySelectorAll('ox-app *, .cdk-overlay-container *'))) {
      if (!shown(element) || element.closest('.ProseMirror, .page-text, [role="gridcell"], style')) continue;
      if (element.matches('button, a, input') && element.getBoundingClientRect().right > innerWidth + 1)
        cut.push(`beyond the edge: ${element.outerHTML.slice(0, 120)}`);
      const own = Array.from(element.childNodes).filter((node) => node.nodeType === Node.TEXT_NODE);
      const told = ['aria-label', 'title', 'placeholder', 'alt', 'aria-valuetext', 'aria-description'];
      words.push(
        ...own.map((node) => node.textContent ?? ''),
        ...told.map((name) => element.getAttribute(name) ?? ''),
      );
      const isTold = own.some((node) => /\p{L}/u.test(node.textContent ?? ''));
      // What is there for those who do not see is a point of its own.
      if (!(element instanceof HTMLElement) || !isTold || element.clientWidth === 1) continue;
      const range = document.createRange();
      range.selectNodeContents(element);
      const { right } = range.getBoundingClientRect();
      const hides = (one: Element | null, up = 4): boolean =>
        one !== null &&
        up > 0 &&
        ((['hidden', 'clip'].includes(getComputedStyle(one).overflowX) &&
          one.clientWidth > 1 &&
          right > one.getBoundingClientRect().right + 1) ||
          hides(one.parentElement, up - 1));
      if (hides(element) && !element.closest('[title]')) cut.push(element.textContent ?? '');
    }
    return { words, cut };
  });
  const known = new Set((heard.match(/\p{L}+/gu) ?? []).map((word) => word.toLowerCase()));
  const isLeft = (word: string): boolean => /^[A-Za-z]{3,}$/.test(word) && !known.has(word.toLowerCase());
  const left = words.filter((said) => (said.replace(SAME, '').match(/\p{L}+/gu) ?? []).some(isLeft));
  return [...new Set([...left, ...cut.map((said) => `cut off: ${said}`)].map((said) => said.trim()))];
}

test.describe('a made-up language', () => {
  test('leaves nothing in English and nothing cut off', async ({ browser, oxbow }) => {
    const context = await browser.newContext({ baseURL: oxbow.address });
    await context.addInitScript(speakLong);
    const page = await context.newPage();
    const heard = await hearing(page);
    const left: string[] = [];
    const look = async (where: string): Promise<void> => {
      await expect(page.getByRole('progressbar')).toHaveCount(0);
      const found = await leftIn(page, heard());
      const wider = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      if (wider > 0) found.push(`wider than the window by ${wider}`);
      left.push(...found.map((said) => `${where}: ${said}`));
    };
    /** How something is said in that language. */
    const said = (words: string): Promise<string> =>
      page.evaluate((words) => {
        const { $localize } = globalThis as unknown as { $localize: (parts: TemplateStringsArray) => string };
        return $localize(Object.assign([words], { raw: [words] }));
      }, words);
    await page.goto('/');
    await page.getByRole('button', { name: /Ines Okell/ }).waitFor();
    await look('sign-in');
    await page.getByRole('button', { name: /Ines Okell/ }).click();
    await page.getByRole('link', { name: 'Boat-day briefing', exact: true }).waitFor();
    await look('shelf');
    await page.getByRole('link', { name: 'Boat-day briefing', exact: true }).click();
    await expect(page.locator('.ProseMirror').first()).toBeVisible();
    await look('desk of a text');
    const briefing = new URL(page.url()).pathname;
    await page.goto('/');
    await page.getByRole('link', { name: 'Volunteer rota and budget', exact: true }).click();
    await expect(page.getByRole('gridcell').first()).toBeVisible();
    await look('desk');
    const { pathname } = new URL(page.url());
    for (const address of [
      '/arrivals',
      '/people',
      '/bin',
      '/account',
      `${pathname}/sharing`,
      '/collections/visitors/sharing',
      `${pathname}/keeping`,
      '/nowhere-at-all',
      '/documents/nowhere/no-access',
      `${pathname}?room=find`,
      `${pathname}?room=removed`,
      `${pathname}?room=contributors`,
      `${pathname}?room=play`,
      `${pathname}?room=returned`,
      `${pathname}/moments/20`,
      `${pathname}/moments/20?reading=facing`,
      `${pathname}/moments/20?reading=digest`,
    ]) {
      await page.goto(address);
      await expect(page.locator('h1, h2').first()).toBeVisible();
      await look(address.replace(pathname, ''));
    }
    for (const act of ['Help', 'Compare …', 'Page set-up …']) {
      await page.goto(briefing);
      await expect(page.locator('.ProseMirror').first()).toBeVisible();
      await page.keyboard.press('Control+/');
      await page.getByRole('combobox').fill(await said(act));
      await look('commands');
      await page.keyboard.press('Enter');
      await expect(page.getByRole('dialog')).toBeVisible();
      await expect(
        page.getByRole('combobox', {
          name: await said('An act, a room, a version, a landmark or a document'),
        }),
      ).toHaveCount(0);
      await look(act);
    }
    expect(left).toEqual([]);
    await context.close();
  });
});
