import type { ComparedChange } from '@oxbow/contract';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import type { Node } from 'prosemirror-model';
import { changedIn, sectionsOf, wordsBetween, wordsIn } from './outlining';
import { STARTERS } from './starters';

describe('the outline of a page', () => {
  const p = (words: string): Node => schema.node('paragraph', null, [schema.text(words)]);
  const h = (level: number, words: string): Node => schema.node('heading', { level }, [schema.text(words)]);
  const page = schema.node('doc', null, [
    p('Before all'),
    h(1, 'The mill'),
    p('It turns twice a day.'),
    h(2, 'The gate'),
    p('Of oak.'),
  ]);

  it('has a section for each heading, with its words, and one for what stands before', () => {
    expect(sectionsOf(page).map(({ title, level, words }) => [title, level, words])).toEqual([
      ['', 0, 2],
      ['The mill', 1, 7],
      ['The gate', 2, 4],
    ]);
    expect(wordsIn(page)).toBe(13);
    expect(wordsBetween(page, 1, 7)).toBe(1);
  });

  it('tells what changed in each section by where it stands', () => {
    const sections = sectionsOf(page);
    const change = (from: number, wordsAdded: number, wordsRemoved: number): ComparedChange =>
      ({ place: { later: { from, to: from } }, wordsAdded, wordsRemoved }) as ComparedChange;
    const told = changedIn(sections, [
      change(0, 1, 0),
      change(sections[1]?.from ?? 0, 2, 1),
      change(page.content.size, 0, 3),
    ]);
    expect(told).toEqual([
      { changes: 1, wordsIn: 1, wordsOut: 0 },
      { changes: 1, wordsIn: 2, wordsOut: 1 },
      { changes: 1, wordsIn: 0, wordsOut: 3 },
    ]);
  });

  it('can begin from each of the starters', () => {
    for (const { name, blocks } of STARTERS) {
      const made = schema.node('doc', null, blocks());
      expect(() => made.check())
        .withContext(name)
        .not.toThrow();
    }
  });
});
