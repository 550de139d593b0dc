import type { HistoryReach, Role } from '@oxbow/contract';
import type { Stored, StoredDocument } from '../store/models.js';
import type { Hold } from './policy.js';

/**
 * How far back a document's history goes for somebody: to edit `first`, which is where it begins for them; 0 is the beginning.
 * Edits are counted from there, so that what was before does not show in any number.
 */
export interface Reach {
  readonly key: number;
  readonly first: number;
}

declare const granted: unique symbol;

/**
 * A document as one person has it: its row with edits counted from where its history begins for them, and what they may do.
 * Whatever answers a person takes one of these and not a document. Only the policy makes one, of how the person stands to it.
 */
export interface View extends Omit<StoredDocument, 'createdAt' | 'changedAt'> {
  /** Where its history begins for the person; see `Reach`. */
  readonly first: number;
  readonly [granted]: true;
  /** Milliseconds. */
  readonly createdAt: number;
  readonly changedAt: number;
  readonly person: number;
  readonly role: Role;
  readonly hold: Hold;
  readonly history: HistoryReach;
  /** When its history begins for the person, in milliseconds; null for the beginning. */
  readonly since: number | null;
}

/** What a view is made of, beside the document's row. */
export type Stand = Pick<View, 'person' | 'role' | 'hold' | 'history' | 'first' | 'since'>;

/** Whoever changed a document last, where that was before its history begins for somebody. */
export const NOBODY = 0;

/** Makes a view. For the policy, and for whoever made the document just now. */
export function viewOf(row: StoredDocument, stand: Stand): View {
  const { since, first } = stand;
  const isBefore = first > 0 && row.seq <= first;
  return {
    ...row,
    ...stand,
    seq: row.seq - first,
    createdAt: Math.max(Number(row.createdAt), since ?? 0),
    changedAt: Math.max(Number(row.changedAt), since ?? 0),
    changedBy: isBefore ? NOBODY : row.changedBy,
  } as View;
}

/** The view of somebody who owns a document and made it just now. */
export function ownView(row: StoredDocument, person: number): View {
  return viewOf(row, { person, role: 'owner', hold: 'free', history: 'all', first: 0, since: null });
}

/** A share with all of the history, for good: of a document by its number, or of a collection by its id, with a person, or for 0 everybody. */
export function wholeShare(what: number | string, person: number, role: Role): Omit<Stored<'shares'>, 'key'> {
  return {
    document: typeof what === 'number' ? what : 0,
    collection: typeof what === 'number' ? '' : what,
    ...{ person, groupKey: 0, email: '', role, history: 'all', since: Date.now(), until: 0, sent: 0 },
  };
}

/** All of a document, for what the server does by itself and answers nobody. */
export function whole(key: number): Reach {
  return { key, first: 0 };
}
