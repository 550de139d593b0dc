import type { Landmark } from '@oxbow/contract';
import type { Cause, Trace } from '@oxbow/core/history';
import { frameOf, partsOf } from './bars';
import { Levels, layOut } from './layout';
import { arcsOf, postsOf, signsOf } from './signs';

const WHO = ['ines', 'tobias', 'jun'];
/** Thirty edits an hour apart, by three people in turn. */
const traces: Trace[] = Array.from({ length: 30 }, (_, i) => ({
  seq: i + 1,
  at: 1.7e12 + i * 3_600_000,
  author: WHO[i % 3] ?? '',
  wordsIn: 1 + (i % 7),
  wordsOut: i % 4,
}));
const layout = layOut(new Levels(traces), { first: 1, last: 30 }, 900);

describe('the bars of the tideline', () => {
  it('rise above and fall below the line within its height, words in above and words out below', () => {
    for (const height of [104, 132, 320]) {
      const frame = frameOf(height, 'stack', layout);
      for (const part of partsOf(layout, frame, 'stack').flat()) {
        expect(part.faded ? part.y > frame.first : part.y + part.height <= frame.first).toBeTrue();
        expect(part.y).toBeGreaterThanOrEqual(0);
        expect(part.y + part.height).toBeLessThanOrEqual(frame.bottom + 1);
      }
    }
  });

  it('stand on a lane of each person when asked, the same amount of words alike in all', () => {
    const frame = frameOf(200, 'lanes', layout);
    expect(frame.axes.map(({ author }) => author)).toEqual([...WHO].sort());
    const parts = partsOf(layout, frame, 'lanes');
    for (const [i, bar] of layout.bars.entries())
      for (const part of parts[i] ?? []) {
        expect(part.author).toBe(bar.sitting.shares[0]?.author ?? '');
        const axis = frame.axes.find(({ author }) => author === part.author);
        expect(Math.abs(part.y - (axis?.y ?? 0))).toBeLessThanOrEqual(200 / 3);
      }
  });
});

describe('the signs on the tideline', () => {
  const landmark = (seq: number, name: string): Landmark => ({
    id: name,
    document: 'guide',
    seq,
    name,
    note: '',
    by: 'ines',
    at: '2026-04-14T09:00:00Z',
    version: null,
  });

  it('are posts with the room before the next one, only within what is drawn', () => {
    const part = layOut(new Levels(traces), { first: 10, last: 30 }, 900);
    const posts = postsOf(part, [landmark(2, 'early'), landmark(12, 'one'), landmark(14, 'two')], 900);
    expect(posts.map((post) => post.landmark.name)).toEqual(['one', 'two']);
    const [one, two] = posts;
    expect((one?.x ?? 0) + (one?.room ?? 0)).toBeLessThan(two?.x ?? 0);
    expect((two?.x ?? 0) + (two?.room ?? 0)).toBeLessThanOrEqual(900);
  });

  it('tell all that happened in a bar, and lead from a restore back to what it brought', () => {
    const causes = new Map<number, Cause>([
      [5, { kind: 'filing', file: 'list.md', format: 'markdown' }],
      [20, { kind: 'restore', moment: 7, number: 3 }],
      [21, { kind: 'undo', of: [20] }],
    ]);
    const week = layOut(
      new Levels(traces.map((trace) => ({ ...trace, at: trace.seq }))),
      { first: 1, last: 30 },
      200,
    );
    expect(signsOf(week, causes).map(({ kind, label }) => [kind, label])).toEqual([
      ['restore', 'filed list.md, restored version 3'],
    ]);
    expect(signsOf(layout, causes).map(({ kind }) => kind)).toEqual(['filing', 'restore']);
    const [arc] = arcsOf(layout, causes);
    expect(arc?.to).toBeLessThan(arc?.from ?? 0);
    expect(arcsOf(layOut(new Levels(traces), { first: 1, last: 15 }, 900), causes)).toEqual([]);
  });
});
