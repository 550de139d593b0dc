import type { KeepingRule } from './keeping.js';
import type { Role } from './shapes.js';

// What both sides agree on beside shapes; it stands apart so that a browser fetches it without them.

/** The id of whoever wrote what stood where a history begins for somebody: "before you came". */
export const BEFORE = 'before';

/** Whether a role is one that writes. */
export function writes(role: Role): boolean {
  return role === 'owner' || role === 'editor';
}

/** Fewest and most versions that a rule may keep. */
export const FEWEST_KEPT = 2;
export const MOST_KEPT = 50_000;
/** Most days for which all is kept before it is thinned. */
export const MOST_DAYS = 3650;

/** How everything is kept where nobody says otherwise. */
export const KEEP_EVERYTHING: KeepingRule = {
  keep: 'everything',
  cut: 'pauses',
  numbers: 'minor',
  checkOut: false,
};

/** Fewest letters that are looked for as a text of their own. */
export const LEAST_SOUGHT = 4;
