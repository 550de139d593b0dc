import type { PassageForm } from './life.js';
import { contestsIn } from './contested.js';

const WHO = ['', 'ines', 'tobias', 'ines', 'tobias', 'jun'];
const makers = (seq: number) => ({ author: WHO[seq] ?? '', at: seq });
/** Forms made by Ines and Tobias in turn. */
const forms = (...texts: string[]): PassageForm[] =>
  texts.map((text, i) => ({ seq: i + 1, turn: i === 0 ? 'written' : 'changed', text, with: [] }));

describe('contested passages', () => {
  it('show wording that one changed and another changed back, with every turn', () => {
    const found = contestsIn(
      forms(
        'The gate is opened at high water.',
        'The gate is shut at low water.',
        'The gate is opened at high water, always.',
        'The gate is shut at low water, always.',
      ),
      makers,
    );
    expect(
      found.map(({ one, other, turns }) => [one, other, turns.map(({ by, wording }) => `${by}: ${wording}`)]),
    ).toEqual([
      ['opened', 'shut', ['tobias: shut', 'ines: opened', 'tobias: shut']],
      ['high', 'low', ['tobias: low', 'ines: high', 'tobias: low']],
    ]);
  });

  it('take neighbouring words for one wording', () => {
    const found = contestsIn(
      forms('We meet at the old mill.', 'We meet at our new barn.', 'We meet at the old mill.'),
      makers,
    );
    expect(found.map(({ one, other }) => [one, other])).toEqual([['the old mill', 'our new barn']]);
  });

  it('leave out what one person changed back alone, and what only went and came once', () => {
    const alone = (seq: number) => ({ author: 'ines', at: seq });
    expect(contestsIn(forms('high water', 'low water', 'high water'), alone)).toEqual([]);
    expect(contestsIn(forms('Bring boots.', 'Bring warm boots.', 'Bring boots.'), makers)).toEqual([]);
    const thrice = forms('Bring boots.', 'Bring warm boots.', 'Bring boots.', 'Bring warm boots.');
    expect(contestsIn(thrice, makers).map(({ other, turns }) => [other, turns.length])).toEqual([
      ['warm', 3],
    ]);
  });

  it('leave out signs and white space, and forms that were removed', () => {
    expect(contestsIn(forms('A, b', 'A b', 'A, b'), makers)).toEqual([]);
    expect(contestsIn(forms('A b', '', 'A b', ''), makers)).toEqual([]);
  });
});
