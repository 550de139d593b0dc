import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { plainText } from '../../content/index.js';
import { FUZZ } from '../../testing/budget.js';
import { bold, doc, h, italic, li, p, table, td, tr, ul } from '../../testing/build.js';
import { document, revised } from '../../testing/documents.js';
import { Random } from '../../testing/random.js';
import { compare } from '../compare.js';
import { assembleTogether } from './parts.js';
import type { Take, Together } from './parts.js';
import { proposersOf } from './proposers.js';
import { bringTogether } from './together.js';
import { linesOf, toldPassage } from './told.js';

const lines = (...texts: string[]): Node => doc(...texts.map((text) => p(text)));
const told = (together: Together): unknown[] =>
  together.passages.map((passage) => {
    const { kind, base, forms, about } = toldPassage(passage);
    const made = forms.map(({ text, by }) => `${text} (${by.join()})`).join(' | ');
    return `${kind}${about ? ` of ${about}` : ''}: ${base} > ${made}`;
  });
/** Follows one side wherever it made something of a passage. */
const following =
  ({ passages }: Together, side: number) =>
  (id: number): Take => {
    const form = passages[id]?.forms.findIndex(({ by }) => by.includes(side)) ?? -1;
    return form < 0 ? 'base' : form;
  };

describe('bringing several together', () => {
  it('tells the same change once with all who made it, and what they made differently as one passage', () => {
    const base = lines('The gate is shut at noon.', 'Bring boots.');
    const together = bringTogether(base, [
      lines('The gate is shut at ten.', 'Bring boots.'),
      lines('The gate is shut at nine.', 'Bring warm boots.'),
      lines('The gate is shut at ten.', 'Bring boots.', 'Dogs stay out.'),
    ]);
    expect(told(together)).toEqual([
      'text: noon > ten (0,2) | nine (1)',
      'text:  > warm  (1)',
      'blocks:  > Dogs stay out. (2)',
    ]);
    expect(linesOf(together)).toEqual([
      { kind: 'paragraph', pieces: [{ text: 'The gate is shut at ' }, { passage: 0 }, { text: '.' }] },
      { kind: 'paragraph', pieces: [{ text: 'Bring ' }, { passage: 1 }, { text: 'boots.' }] },
      { kind: 'doc', pieces: [{ passage: 2 }] },
    ]);
    expect(plainText(assembleTogether(together, (id) => (id === 0 ? 1 : id === 1 ? 'base' : 0)))).toBe(
      'The gate is shut at nine.\nBring boots.\nDogs stay out.',
    );
  });

  it('tells moves by place, forms by name, and marks of several as one', () => {
    const base = doc(
      h(1, 'Water'),
      p('The gate is shut.'),
      p('Eels rest in the lower pool.'),
      p('So it is.'),
    );
    const together = bringTogether(base, [
      doc(h(2, 'Water'), p('The gate is shut.'), p('So it is.'), p('Eels rest in the lower pool.')),
      doc(
        h(3, 'Water'),
        p('The gate is shut.'),
        p('Trout rest in the lower pool.'),
        p('So ', bold('it'), ' is.'),
      ),
      doc(
        h(1, 'Water'),
        p('The gate is shut.'),
        p('Eels rest in the lower pool.'),
        p('So ', italic('it'), ' is.'),
      ),
    ]);
    expect(told(together)).toEqual([
      'form of Water: heading, level 1 > heading, level 2 (0) | heading, level 3 (1)',
      'place of Eels rest in the lower pool.: The gate is shut. > So it is. (0)',
      'text: Eels > Trout (1)',
      'form of it: plain > bold, italic (1,2)',
    ]);
    const all = assembleTogether(together, () => 0);
    expect(
      all.eq(
        doc(
          h(2, 'Water'),
          p('The gate is shut.'),
          p('So ', bold('it').mark([...bold('it').marks, ...italic('it').marks]), ' is.'),
          p('Trout rest in the lower pool.'),
        ),
      ),
    ).toBe(true);
  });

  it('names who proposed each change of what was made of all', () => {
    const rows = (...cells: string[][]): Node =>
      table(...cells.map((row) => tr(...row.map((one) => td(p(one))))));
    const base = doc(
      p('The gate is shut at noon.'),
      ul(li(p('rope'))),
      rows(['mill', '240.00'], ['pool', '18.00']),
    );
    const sides = [
      doc(
        p('The gate is shut at ten.'),
        ul(li(p('rope')), li(p('oars'))),
        rows(['mill', '240.00'], ['pool', '18.00']),
      ),
      doc(p('The gate is shut at ten.'), ul(li(p('rope'))), rows(['mill', '245.00'], ['pool', '18.00'])),
      doc(ul(li(p('rope'))), rows(['mill', '240.00'], ['pool', '18.00'])),
    ];
    const outcome = assembleTogether(bringTogether(base, sides), () => 0);
    const comparison = compare(base, outcome);
    const who = proposersOf(comparison, sides);
    expect(comparison.changes.map(({ later }, i) => `${later}: ${(who[i] ?? []).join()}`)).toEqual([
      'ten: 0,1',
      'oars: 0',
      '245.00: 1',
    ]);
  });

  it('gives the base where nothing is taken, each side to whoever follows it, and a valid document for any mixture', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const base = document(random, random.between(1, 8));
        const sides = Array.from({ length: random.between(1, 4) }, () => revised(random, base, 3));
        const tidy = random.chance(0.5);
        const together = bringTogether(base, sides, { tidy });
        expect(assembleTogether(together, () => 'base').eq(base)).toBe(true);
        if (sides.length === 1) expect(assembleTogether(together, () => 0).eq(sides[0] as Node)).toBe(true);
        sides.forEach((side, i) => {
          const text = plainText(assembleTogether(together, following(together, i)));
          expect(text).toBe(plainText(side));
        });
        assembleTogether(together, (id) =>
          random.pick<Take>(['base', 'all', ...(together.passages[id]?.forms.keys() ?? [])]),
        ).check();
        const twice = bringTogether(base, [...sides.slice(0, 1), ...sides.slice(0, 1)], { tidy });
        expect(twice.passages.every(({ forms }) => String(forms.map(({ by }) => by)) === '0,1')).toBe(true);
        for (const passage of together.passages) {
          expect(passage.forms.length).toBeGreaterThan(0);
          const by = passage.forms.flatMap((form) => form.by);
          expect(new Set(by).size).toBe(by.length);
        }
      }),
      { numRuns: 500 * FUZZ },
    );
  });
});
