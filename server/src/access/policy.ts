import type { Role } from '@oxbow/contract';

/** What a person may want to do with a document. */
export type Action = 'read' | 'write' | 'restore' | 'keep' | 'retitle' | 'share';

const ALLOWED: Record<Role, readonly Action[]> = {
  viewer: ['read'],
  editor: ['read', 'write', 'restore', 'keep', 'retitle'],
  owner: ['read', 'write', 'restore', 'keep', 'retitle', 'share'],
};

/** Whether a role allows an action: the one place that decides, for the API and the live channel alike. */
export function may(role: Role | null, action: Action): boolean {
  return role !== null && ALLOWED[role].includes(action);
}
