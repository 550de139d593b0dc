import { ago, dayAndTime, fullTime, gapLength, shortTime } from './time';

describe('times', () => {
  const now = new Date(2026, 3, 17, 10, 30);

  it('say both when and how long ago', () => {
    const at = new Date(2026, 3, 14, 9, 12, 7);
    expect(fullTime(at, now)).toBe('Tue 14 Apr, 09:12:07 (3 days ago)');
    expect(dayAndTime(new Date(2025, 3, 14, 9, 12), now)).toBe('Mon, 14 Apr 2025, 09:12');
    expect(ago(new Date(2026, 3, 16, 23, 0), now)).toBe('yesterday');
    expect(ago(now, now)).toBe('just now');
    expect(ago(new Date(2025, 9, 10), now)).toBe('6 months ago');
    expect(ago(new Date(2024, 3, 1), now)).toBe('2 years ago');
  });

  it('are short beside a passage', () => {
    expect(shortTime(new Date(2026, 3, 17, 9, 26), now)).toBe('09:26');
    expect(shortTime(new Date(2026, 3, 14, 9, 26), now)).toBe('Tue 09:26');
    expect(shortTime(new Date(2026, 1, 2), now)).toBe('2 Feb');
    expect(shortTime(new Date(2025, 1, 2), now)).toBe('Feb 2025');
  });

  it('tell the length of a gap in the unit that fits', () => {
    expect(
      [12, 90, 16 * 60, 9 * 24 * 60, 21 * 24 * 60].map((minutes) => gapLength(minutes * 60_000)),
    ).toEqual(['12m', '2h', '16h', '9d', '3w']);
  });
});
