import type { Role } from '@oxbow/contract';

/** What a person may want to do with a document. */
export type Action = 'read' | 'write' | 'restore' | 'keep' | 'retitle' | 'share' | 'archive';

const ALLOWED: Record<Role, readonly Action[]> = {
  viewer: ['read'],
  editor: ['read', 'write', 'restore', 'keep', 'retitle'],
  owner: ['read', 'write', 'restore', 'keep', 'retitle', 'share', 'archive'],
};

/** Whether a role allows an action: the one place that decides, for the API and the live channel alike. */
export function may(role: Role | null, action: Action): boolean {
  return role !== null && ALLOWED[role].includes(action);
}

/** How the check-out of a document stands to a person: none is asked for, they have it, somebody else has, or nobody. */
export type Hold = 'free' | 'own' | 'other' | 'nobody';

/** What only whoever has a document checked out may do, where that is asked for. */
const HOLDERS_ONLY: ReadonlySet<Action> = new Set(['write', 'restore', 'keep']);

/** Whether an action that a role allows has to wait for a check-out. */
export function waits(hold: Hold, action: Action): boolean {
  return HOLDERS_ONLY.has(action) && (hold === 'other' || hold === 'nobody');
}
