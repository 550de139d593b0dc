import type { Me, Person } from '@oxbow/contract';

/** Somebody who is signed in, as everybody has things until they say otherwise. */
export function meOf(person: Person, more: Partial<Me> = {}): Me {
  return {
    ...person,
    admin: false,
    guest: false,
    mayInvite: false,
    preferences: { mail: 'none', holdBack: false, theme: 'system', keys: true },
    ...more,
  };
}
