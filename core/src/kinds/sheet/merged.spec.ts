import { Random } from '../../testing/random.js';
import type { Line } from './index.js';
import { blankBook, mergedBooks, mergedLines, readBook } from './index.js';

const node = blankBook();
const lines = (names: string): Line[] => [...names].map((id) => ({ id, node, at: 0 }));
const told = (before: string, after: string): string =>
  mergedLines(lines(before), lines(after))
    .map(({ id, earlier, later }) => (earlier && later ? id : later ? `+${id}` : `-${id}`))
    .join(' ');

describe('two orders read as one', () => {
  it('has what is gone behind what it stood behind, and what came where it stands', () => {
    expect(told('abcd', 'abcd')).toBe('a b c d');
    expect(told('abcd', 'axd')).toBe('a -b -c +x d');
    expect(told('abcd', 'dab')).toBe('d a b -c');
    expect(told('abc', 'bc')).toBe('-a b c');
    expect(told('', 'ab')).toBe('+a +b');
    expect(told('ab', '')).toBe('-a -b');
    expect(told('aab', 'ba')).toBe('b a');
  });

  it('has every line once, in the order after', () => {
    const random = new Random(20261130);
    for (let run = 0; run < 300; run++) {
      const pick = (): string =>
        [...'abcdefgh']
          .filter(() => random.chance(0.6))
          .sort(() => random.next() - 0.5)
          .join('');
      const [before, after] = [pick(), pick()];
      const merged = mergedLines(lines(before), lines(after));
      expect(merged.flatMap(({ later }) => later?.id ?? []).join('')).toBe(after);
      expect(merged.map(({ id }) => id).sort()).toEqual([...new Set(before + after)].sort());
      expect(merged.every(({ id, earlier }) => (earlier !== null) === before.includes(id))).toBeTrue();
    }
  });

  it('is the book itself for one book', () => {
    const [sheet] = mergedBooks(node, node);
    expect(sheet?.rows.map(({ id }) => id)).toEqual(readBook(node).sheets[0]?.rows.map(({ id }) => id));
    expect(sheet?.columns.every(({ earlier, later }) => earlier !== null && later !== null)).toBeTrue();
  });
});
