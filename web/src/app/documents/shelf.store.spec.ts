import type { DocumentSummary } from '@oxbow/contract';
import { SessionEvents } from '../session/session.store';
import { summaryOf } from './testing';
import { ShelfEvents, shelf } from './shelf.store';

const summary = (id: string, collection: string | null, changedAt: string): DocumentSummary =>
  summaryOf(id, { collection, changedAt, createdAt: changedAt });

describe('the shelf’s state', () => {
  const loaded = shelf.reducer(
    undefined,
    ShelfEvents.loaded({
      documents: [summary('a', 'x', '2026-01-01'), summary('b', null, '2026-01-03')],
      collections: [
        { id: 'x', name: 'Visitors', role: 'owner' },
        { id: 'y', name: 'Empty', role: 'viewer' },
      ],
    }),
  );
  const boards = (state: typeof loaded): string[] =>
    shelf
      .selectBoards({ shelf: state })
      .map((board) => `${board.name}: ${board.documents.map(({ id }) => id).join(' ')}`);

  it('shows documents under their collections, empty ones too, loose ones last', () => {
    expect(boards(loaded)).toEqual(['Visitors: a', 'Empty: ', 'In no collection: b']);
  });

  it('follows a document that others move, change or take away', () => {
    const moved = shelf.reducer(
      loaded,
      ShelfEvents.documentArrived({ document: summary('b', 'x', '2026-01-04') }),
    );
    expect(boards(moved)).toEqual(['Visitors: b a', 'Empty: ']);
    expect(boards(shelf.reducer(moved, ShelfEvents.documentGone({ id: 'a' })))).toEqual([
      'Visitors: b',
      'Empty: ',
    ]);
  });

  it('keeps what is there when a call fails, and nothing of anybody’s after signing out', () => {
    const failed = shelf.reducer(loaded, ShelfEvents.callFailed({ why: 'no' }));
    expect([failed.trouble, shelf.selectDocuments({ shelf: failed }).length]).toEqual(['no', 2]);
    expect(shelf.selectDocuments({ shelf: shelf.reducer(loaded, SessionEvents.signedOut()) })).toEqual([]);
  });
});
