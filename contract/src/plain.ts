import type { KeepingRule } from './keeping.js';
import type { Role } from './shapes.js';

// What both sides agree on beside shapes; it stands apart so that a browser fetches it without them.

/** The id of whoever wrote what stood where a history begins for somebody: "before you came". */
/** The header in which a browser says as whom it makes a call, by id: tabs of one browser have one session together. */
export const AS_PERSON = 'Oxbow-Person';
/** The status of a call that is made as somebody who is not signed in there any more (RFC 9110, section 15.5.20: misdirected). */
export const OTHER_PERSON = 421;

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
