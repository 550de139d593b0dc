import type { Preferences } from '@oxbow/contract';
import type { Stored } from '../store/models.js';

/** As everybody has it until they say otherwise. */
const PREFERENCES: Preferences = { mail: 'none', holdBack: false, theme: 'system', keys: true };

/** How somebody wants things. */
export function preferencesOf(row: Pick<Stored<'people'>, 'preferences'> | null): Preferences {
  return { ...PREFERENCES, ...(JSON.parse(row?.preferences ?? '{}') as Partial<Preferences>) };
}
