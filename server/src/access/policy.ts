import type { HistoryReach, Role } from '@oxbow/contract';

/** What a person may want to do with a document. To read is to see what is there now, to look back to see what was. */
export type Action =
  | 'read'
  | 'lookBack'
  | 'comment'
  | 'write'
  | 'restore'
  | 'keep'
  | 'retitle'
  | 'move'
  | 'share'
  | 'archive'
  | 'rule'
  | 'erase'
  | 'bin';

const READER: readonly Action[] = ['read', 'lookBack'];
const EDITOR: readonly Action[] = [...READER, 'comment', 'write', 'restore', 'keep', 'retitle'];
const ALLOWED: Record<Role, readonly Action[]> = {
  viewer: READER,
  commenter: [...READER, 'comment'],
  editor: EDITOR,
  owner: [...EDITOR, 'move', 'share', 'archive', 'rule', 'erase', 'bin'],
};

/** What needs a history to look back at. */
const OF_THE_PAST: ReadonlySet<Action> = new Set([
  'lookBack',
  'comment',
  'restore',
  'keep',
  'archive',
  'rule',
  'erase',
]);

/** How somebody has a document. */
export interface Having {
  readonly role: Role;
  readonly history: HistoryReach;
}

/** Whether somebody who has a document so may do something with it: the one place that decides, for the API and the live channel alike. */
export function may(having: Having | null, action: Action): boolean {
  if (having === null || !ALLOWED[having.role].includes(action)) return false;
  return having.history !== 'none' || !OF_THE_PAST.has(action);
}

/** Whether somebody who has a document so may erase in it: only an owner with all of its history. */
export function mayErase(having: Having & { readonly first: number }): boolean {
  return may(having, 'erase') && having.first === 0;
}

/** How the check-out of a document stands to a person: none is asked for, they have it, somebody else has, or nobody. */
export type Hold = 'free' | 'own' | 'other' | 'nobody';

/** What only whoever has a document checked out may do, where that is asked for. */
const HOLDERS_ONLY: ReadonlySet<Action> = new Set(['write', 'restore', 'keep']);

/** Whether an action that is allowed has to wait for a check-out. */
export function waits(hold: Hold, action: Action): boolean {
  return HOLDERS_ONLY.has(action) && (hold === 'other' || hold === 'nobody');
}

/** What a person may want to do with a collection: see it, put documents into it, or rename, share and delete it. */
export type CollectionAction = 'see' | 'fill' | 'manage';

/** Whether somebody who has a collection so may do something with it. */
export function mayWithCollection(role: Role, action: CollectionAction): boolean {
  if (action === 'see') return true;
  return role === 'owner' || (role === 'editor' && action === 'fill');
}
