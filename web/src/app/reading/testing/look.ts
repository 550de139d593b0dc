import type { ComparedChange, Moment, Person } from '@oxbow/contract';
import { compare, gistOf, rowsOf, toldChange, totalsOf } from '@oxbow/core/compare';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';
import type { Look } from '../look';

/** Two invented people to credit changes to: every second change is Tobias's. */
export const people = new Map<string, Person>([
  ['ines', { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }],
  ['tobias', { id: 'tobias', name: 'Tobias Rahn', initials: 'TR', colour: 1 }],
]);

/** A look at two documents given as HTML. */
export function lookAt(before: string, after: string): Look {
  return lookAtDocuments(readHtml(before, NO_IMAGES), readHtml(after, NO_IMAGES));
}

/** A look at two documents. */
export function lookAtDocuments(a: Node, b: Node): Look {
  const comparison = compare(a, b);
  const moment = (seq: number, content: unknown): Moment => ({
    document: 'guide',
    seq,
    at: `2026-04-14T09:0${seq}:00Z`,
    by: 'ines',
    title: 'Guide',
    version: seq,
    words: 3,
    content,
  });
  const changes = comparison.changes.map((change, i): ComparedChange => {
    const person = i % 2 === 0 ? 'ines' : 'tobias';
    const credit = { seq: i + 1, at: '2026-04-14T09:01:00Z', person, writer: person, file: null };
    return {
      ...toldChange(change),
      credits: (['earlier', 'later'] as const).map((side) => ({ ...change.place[side], side, ...credit })),
    };
  });
  return {
    earlier: moment(1, a.toJSON()),
    later: moment(2, b.toJSON()),
    comparison: {
      earlier: { seq: 1, at: '2026-04-14T09:01:00Z' },
      later: { seq: 2, at: '2026-04-14T09:02:00Z' },
      changes,
      rows: rowsOf(comparison),
      totals: totalsOf(comparison.changes),
      shares: [],
      gist: gistOf(comparison.changes),
    },
    file: null,
  };
}
