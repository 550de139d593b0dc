import type { DocumentSummary } from '@oxbow/contract';
import type { Board } from '../documents/shelf.store';
import { summaryOf } from '../documents/testing';
import { cameInto, recentOf } from '../session/recent';
import { arranged } from './arranging';
import type { Marks, Wish } from './arranging';

describe('the shelf, arranged', () => {
  const made = (id: string, title: string, more: Partial<DocumentSummary> = {}): DocumentSummary =>
    summaryOf(id, {
      title,
      createdAt: `2026-01-0${id}T00:00:00.000Z`,
      changedAt: `2026-02-0${id}T00:00:00.000Z`,
      ...more,
    });
  const boards: Board[] = [
    {
      id: 'visitors',
      name: 'Visitors',
      role: 'owner',
      documents: [
        made('1', 'Walking the mill'),
        made('2', 'Chapter 10', { gauge: [{ at: 0, shares: [['tobias', 1, 0]] }] }),
        made('3', 'Chapter 9', { fresh: { sittings: 2, people: ['jun'], wordsIn: 4, wordsOut: 0 } }),
      ],
    },
    { id: 'empty', name: 'Empty', role: 'viewer', documents: [] },
    { id: null, name: 'In no collection', role: 'viewer', documents: [made('4', 'Minutes of the mill')] },
  ];
  const wish: Wish = { title: '', person: '', collection: '', kind: '', only: 'all', order: 'changed' };
  const marks: Marks = { favourites: new Set(['4', '1']), recent: ['4', '2'] };
  const lines = (change: Partial<Wish>, narrowed = true): string =>
    arranged(boards, { ...wish, ...change }, marks, narrowed)
      .map((row) => (row.kind === 'document' ? row.id : row.kind === 'board' ? row.board.name : '-'))
      .join(' ');

  it('shows every collection, also an empty one, with what was changed last first', () => {
    expect(lines({}, false)).toBe('Visitors 3 2 1 Empty - In no collection 4');
  });

  it('orders by title as people count, by when it was made, and by what is new', () => {
    expect(lines({ order: 'title' }, false)).toContain('Visitors 3 2 1');
    expect(lines({ order: 'made' }, false)).toContain('Visitors 3 2 1');
    expect(lines({ order: 'new' }, false)).toContain('Visitors 3 2 1');
    const turned = arranged(
      [{ ...(boards[0] as Board), documents: [...(boards[0] as Board).documents].reverse() }],
      { ...wish, order: 'title' },
      marks,
      false,
    );
    expect(turned.map(({ id }) => id)).toEqual(['board visitors', '3', '2', '1']);
  });

  it('leaves out what is not wanted, and collections that nothing is found in', () => {
    expect(lines({ title: 'MILL the' })).toBe('Visitors 1 In no collection 4');
    expect(lines({ person: 'tobias' })).toBe('Visitors 2');
    expect(lines({ collection: 'none' })).toBe('In no collection 4');
    expect(lines({ kind: 'sheet' })).toBe('');
    expect(lines({ only: 'favourites' })).toBe('Visitors 1 In no collection 4');
    expect(lines({ only: 'new' })).toBe('Visitors 3');
  });

  it('shows what one was in last by itself, the last one first', () => {
    expect(lines({ only: 'recent' })).toBe('4 2');
  });

  it('remembers what somebody was in, each document once, and nobody else', () => {
    const me = `somebody ${Date.now()}`;
    for (const id of ['a', 'b', 'a']) cameInto(me, id);
    expect([recentOf(me), recentOf(`${me} else`)]).toEqual([['a', 'b'], []]);
    localStorage.setItem(`oxbow-recent:${me}`, '{broken');
    expect(recentOf(me)).toEqual([]);
    localStorage.removeItem(`oxbow-recent:${me}`);
  });
});
