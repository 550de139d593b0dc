import type { Contributors as Found } from '@oxbow/contract';
import { columnsOf } from './contributors';

const found = (days: [string, [string, number][]][]): Found => ({
  after: 0,
  upTo: 9,
  people: [],
  days: days.map(([day, words]) => ({ day, words })),
});

describe('the columns of the contributors’ chart', () => {
  it('are days, idle ones between them too, while they are few', () => {
    const { labels, words } = columnsOf(
      found([
        ['2026-04-14', [['ines', 5]]],
        [
          '2026-04-17',
          [
            ['ines', 1],
            ['jun', 2],
          ],
        ],
      ]),
    );
    expect(labels).toEqual(['14 Apr', '15 Apr', '16 Apr', '17 Apr']);
    expect(words.get('ines')).toEqual([5, 0, 0, 1]);
    expect(words.get('jun')).toEqual([0, 0, 0, 2]);
  });

  it('are weeks, then months, over longer lives, and lose no word', () => {
    for (const [last, columns] of [
      ['2026-07-20', 15],
      ['2027-12-31', 21],
    ] as const) {
      const { labels, words } = columnsOf(
        found([
          ['2026-04-14', [['ines', 5]]],
          ['2026-04-16', [['ines', 2]]],
          [last, [['ines', 7]]],
        ]),
      );
      expect(labels.length).toBe(columns);
      expect(words.get('ines')?.[0]).toBe(7);
      expect(words.get('ines')?.at(-1)).toBe(7);
    }
  });
});
