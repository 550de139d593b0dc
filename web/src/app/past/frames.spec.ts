import type { WireEdit } from '@oxbow/contract';
import { framesOf } from './frames';

const edit = (at: number, text: string, author = 'ines'): WireEdit => ({
  seq: at,
  author,
  acceptedAt: at * 1000,
  writtenAt: 0,
  client: 'c',
  counter: at,
  schema: 1,
  steps: [{ stepType: 'replace', from: 1, to: 1, slice: { content: [{ type: 'text', text }] } }],
  sources: [],
  cause: { kind: 'writing' },
  wordsIn: 1,
  wordsOut: 0,
});
const edits = [
  edit(1, 'The gate'),
  edit(2, ' is shut.'),
  edit(3, ' The'),
  edit(4, 'Hm', 'jun'),
  edit(60, ' wheel'),
  edit(61, ' turns'),
  edit(5000, '.'),
];
const ends = (pace: 'edit' | 'sentence' | 'sitting'): number[] =>
  framesOf(edits, pace).map(({ end }) => edits[end]?.seq ?? 0);

describe('the steps of playing back', () => {
  it('are edits, sentences or sittings, and hold every edit once', () => {
    expect(ends('edit')).toEqual([1, 2, 3, 4, 60, 61, 5000]);
    expect(ends('sentence')).toEqual([2, 3, 4, 61, 5000]);
    expect(ends('sitting')).toEqual([61, 5000]);
    for (const pace of ['edit', 'sentence', 'sitting'] as const) {
      const all = framesOf(edits, pace).flatMap(({ start, end }) => edits.slice(start, end + 1));
      expect(all).toEqual(edits);
    }
    expect(framesOf([], 'sentence')).toEqual([]);
  });
});
