import { documentOf } from '../testing/index.js';
import { compare } from './compare.js';
import { gistOf } from './gist.js';
import { groupsOf } from './grouping.js';
import { isTypography } from './typography.js';

// What is a matter of typography, and what a rename: common practice, no source.
describe('groups of changes', () => {
  const of = (earlier: readonly string[], later: readonly string[]) =>
    compare(documentOf(earlier), documentOf(later)).changes;

  it('tell typography from a change of the text', () => {
    for (const [earlier, later] of [
      ['"', '“'],
      ["'", '’'],
      ["miller's", 'miller’s'],
      ['-', '–'],
      ['--', '—'],
      ['...', '…'],
      ['  ', ' '],
      [' ', '\u00a0'],
      ['« le quai »', '"\u202fle quai\u202f"'.replace(/\u202f/g, ' ')],
    ] as const)
      expect(isTypography(earlier, later)).withContext(`${earlier} to ${later}`).toBeTrue();
    for (const [earlier, later] of [
      ['old', 'new'],
      ['half tide', 'half-tide'],
      ['', '”'],
      ['“', '“'],
      ['.', '…'],
      ['12', '1-2'],
    ] as const)
      expect(isTypography(earlier, later)).withContext(`${earlier} to ${later}`).toBeFalse();
  });

  it('counts no words for typography', () => {
    const [change] = of(["Ines's boat"], ['Ines’s boat']);
    expect(change).toEqual(jasmine.objectContaining({ kind: 'typography', wordsAdded: 0, wordsRemoved: 0 }));
  });

  it('names a rename from three places on, in small letters where it stands so', () => {
    const changes = of(
      ['Pond and race. The pond is deep.', 'Clear the pond by hand.'],
      ['Pool and race. The pool is deep.', 'Clear the pool by hand.'],
    );
    expect(changes.map(({ group }) => group)).toEqual(['pond > pool', 'pond > pool', 'pond > pool']);
    expect([...groupsOf(changes)].map(([name, all]) => [name, all.length])).toEqual([['pond > pool', 3]]);
    const twice = of(['The pond is deep.', 'Clear the pond.'], ['The pool is deep.', 'Clear the pool.']);
    expect(twice.map(({ group }) => group)).toEqual([null, null]);
  });

  it('gather one change of form in three places or more', () => {
    const heads = ['one here', 'two there', 'three more'];
    const changes = of(
      heads.map((text) => `# ${text}`),
      heads.map((text) => `## ${text}`),
    );
    expect(changes.map(({ group }) => group)).toEqual(Array(3).fill('form: level'));
    expect(gistOf(changes)).toBe('Form of 3 places changed alike');
  });

  it('are told as one in a gist, the largest first, and a section by its heading', () => {
    const walk = Array.from({ length: 5 }, (_, i) => [
      `The sluice number ${i} is shut by the sluice keeper at the ebb.`,
      `Hand ${i} waits on the bank, and nobody else is let near the water.`,
    ]).flat();
    const renamed = walk.map((line) => line.replaceAll('sluice', 'gate'));
    const costs = [
      '## Costs',
      'The oak is most of it, and the iron is little.',
      'Nails come on top of what the smith asks.',
    ];
    const sums = ['Oak: 240.00 for the boards.', 'Iron: 80.00 for the straps.', 'Nails: 15.00 for the lot.'];
    const changes = of(
      ['# The gates', ...walk, ...sums, ...costs],
      ['# The gates', ...costs, ...renamed, ...sums.map((line) => line.replace('.00', '.50'))],
    );
    expect(gistOf(changes)).toBe(
      'Moved the section “Costs” up; renamed sluice to gate in 10 places; 3 numbers changed',
    );
  });
});
