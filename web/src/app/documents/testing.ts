import type { DocumentSummary } from '@oxbow/contract';

/** A document as the shelf tells it, for tests. */
export function summaryOf(id: string, more: Partial<DocumentSummary> = {}): DocumentSummary {
  return {
    id,
    title: id,
    kind: 'text',
    collection: null,
    seq: 1,
    version: 1,
    role: 'owner',
    history: 'all',
    createdAt: '2026-01-01T00:00:00.000Z',
    changedAt: '2026-02-01T00:00:00.000Z',
    changedBy: 'ines',
    gauge: [],
    fresh: { sittings: 0, people: [], wordsIn: 0, wordsOut: 0 },
    watched: false,
    checkOut: null,
    erased: 0,
    ...more,
  };
}
