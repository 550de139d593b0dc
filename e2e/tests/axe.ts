import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** What is not right for those who hear or tab through a page; in the dark, what cannot be told apart. */
export async function violationsIn(page: Page, scheme: 'light' | 'dark' = 'light'): Promise<string[]> {
  // What is on its way is looked at when it has arrived: half way its colours are neither.
  await page.evaluate(() =>
    Promise.allSettled(
      document
        .getAnimations()
        .filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity)
        .map(({ finished }) => finished),
    ),
  );
  const axe = new AxeBuilder({ page });
  if (scheme === 'light')
    axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']);
  else axe.withRules(['color-contrast', 'link-in-text-block']);
  const { violations: found } = await axe.analyze();
  const told = found.map(({ id, nodes }) => ({
    id,
    // A wide table on the page one writes in is scrolled by the caret; a stop of its own would take the keys from the page.
    at: nodes
      .map(({ target }) => target.join(' '))
      .filter((at) => id !== 'scrollable-region-focusable' || !at.endsWith('.tableWrapper')),
  }));
  return told.filter(({ at }) => at.length > 0).map(({ id, at }) => `${id}: ${at.join(', ')}`);
}
