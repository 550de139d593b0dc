import { EVERYTHING, countsOf, isShown } from './filter';
import { deedOf, peopleOf, personOf } from './look';
import { ticksOf } from './minimap';
import { lookAt, people } from './testing/look';

const look = lookAt(
  '<h1>The race</h1><p>It turns twice.</p><h1>The gates</h1><p>Shut both.</p>',
  '<h1>The race</h1><p>It turns <b>twice</b>, slowly.</p><h1>The gates</h1><p>Shut all.</p>',
);
const { changes } = look.comparison;
const sections = [
  { title: 'The race', from: 0, to: 34 },
  { title: 'The gates', from: 34, to: 1000 },
];

describe('choosing which changes to see', () => {
  it('counts them by person, family and section', () => {
    const counts = countsOf(changes, sections);
    expect([...counts.families]).toEqual([
      ['form', 1],
      ['text', 2],
    ]);
    expect(counts.people.get('ines')).toBe(2);
    expect(counts.sections.get(1)).toBe(1);
  });

  it('shows those that are asked for', () => {
    const shown = (filter: Partial<typeof EVERYTHING>): string[] =>
      changes
        .filter((change) => isShown(change, { ...EVERYTHING, ...filter }, sections))
        .map(({ kind }) => kind);
    expect(shown({})).toEqual(['form', 'added', 'replaced']);
    expect(shown({ hidden: new Set(['form'] as const) })).toEqual(['added', 'replaced']);
    expect(shown({ person: 'tobias' })).toEqual(['added']);
    expect(shown({ section: 1 })).toEqual(['replaced']);
  });

  it('shows one rename alone, and typography only where it is wanted', () => {
    const renamed = lookAt(
      '<p>The "pond" is deep. The pond is wide. Clear the pond.</p>',
      '<p>The “pool” is deep. The pool is wide. Clear the pool. It is done.</p>',
    ).comparison.changes;
    const curled = lookAt('<p>He said "so" twice.</p>', '<p>He said “so” twice.</p>').comparison.changes;
    const { groups, families } = countsOf([...renamed, ...curled], []);
    expect([...families.keys()].sort()).toEqual(['text', 'typography']);
    expect(groups.get('typography')).toBe(4);
    const only = (filter: Partial<typeof EVERYTHING>): number =>
      [...renamed, ...curled].filter((one) => isShown(one, { ...EVERYTHING, ...filter }, [])).length;
    expect(only({ hidden: new Set(['typography'] as const) })).toBe(renamed.length - 2);
    expect(only({ group: 'typography' })).toBe(4);
  });

  it('tells each change in words, and who it is of', () => {
    expect(changes.map(deedOf)).toEqual(['form: bold', 'added', 'replaced']);
    expect(changes.map((change) => personOf(change, 'later'))).toEqual(['ines', 'tobias', 'ines']);
    expect(peopleOf({ ...(changes[0] as (typeof changes)[number]), credits: [] })).toEqual([]);
  });

  it('ticks the scrollbar in the order of the page', () => {
    const ticks = ticksOf(look.comparison.rows, changes, people);
    expect(ticks.map(({ at }) => at)).toEqual(ticks.map(({ at }) => at).sort((a, b) => a - b));
    expect(ticks.length).toBeGreaterThan(1);
  });
});
