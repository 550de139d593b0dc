import { finished } from '../content/index.js';
import { textSchema } from '../kinds/text/index.js';
import { doc, h, p } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { writeHistory } from '../testing/writers.js';
import type { Node } from 'prosemirror-model';
import { creditChanges } from './attribute.js';
import { totalsOf } from './changes.js';
import { compare } from './compare.js';
import { familyOf, sectionOf, sectionsOf, wordsByEdit } from './groups.js';
import { rowsOf } from './rows.js';

describe('grouping changes', () => {
  it('tells the section a change belongs to', () => {
    const later = doc(
      p('Before all.'),
      h(1, 'The race'),
      p('It turns now.'),
      h(2, 'The gates'),
      p('Shut'),
      p('New one.'),
    );
    const earlier = doc(p('Before all.'), h(1, 'The race'), p('It turns.'), h(2, 'The gates'), p('Shut'));
    const sections = sectionsOf(later);
    expect(sections.map(({ title }) => title)).toEqual(['', 'The race', 'The gates']);
    expect(sections.at(-1)?.to).toBe(later.content.size);
    const { changes } = compare(earlier, later);
    expect(changes.map((change) => sections[sectionOf(sections, change)]?.title)).toEqual([
      'The race',
      'The gates',
    ]);
    expect(changes.map(({ kind }) => familyOf(kind))).toEqual(['text', 'text']);
  });

  it('adds up to the words of the whole comparison, by edit', () => {
    const { docs, provenance } = writeHistory(new Random(12), 40, { undo: false, structure: false });
    const [earlier, later] = [docs[0] as Node, docs[40] as Node];
    const { changes } = compare(earlier, later);
    const words = wordsByEdit(finished(creditChanges(changes, provenance, 0, 40)), changes, earlier, later);
    const added = [...words.values()].reduce((sum, one) => sum + one.added, 0);
    expect(added).toBe(totalsOf(changes).wordsAdded);
    expect(words.size).toBeGreaterThan(3);
  });

  it('takes a heading of which no word stayed for the same one, where it stands alone between what stayed', () => {
    const [earlier, later] = ['Costs', 'Expenses'].map((title) =>
      doc(p('one two three four'), h(2, title), p('five six seven eight')),
    ) as [Node, Node];
    expect(rowsOf(compare(earlier, later)).map(({ paired }) => paired)).toEqual([true, true, true]);
    const other = doc(p('one two three four'), p('Expenses'), p('five six seven eight'));
    expect(rowsOf(compare(earlier, other)).map(({ paired }) => paired)).toEqual([true, false, true]);
  });

  it('lays both documents out in rows that hold each block once', () => {
    const earlier = doc(
      h(1, 'The race'),
      p('one two three four'),
      p('gone for ever and ever'),
      textSchema.node('rule'),
    );
    const later = doc(
      h(2, 'The race'),
      p('one two three five'),
      p('a quite new thing here'),
      textSchema.node('rule'),
    );
    const rows = rowsOf(compare(earlier, later));
    expect(rows.map(({ paired }) => paired)).toEqual([true, true, false, true]);
    expect(rows.at(-1)?.earlier.to).toBe(earlier.content.size);
    expect(rows.at(-1)?.later.to).toBe(later.content.size);
  });
});
