import type { KindName } from '../kinds/index.js';
import { DECK_HAND } from './decks.js';
import { SHEET_HAND } from './sheets.js';
import type { Hand } from './writers.js';
import { TEXT_HAND } from './writers.js';

/** Who writes documents of each kind: all laws are tried on all of them. A kind that is not here does not compile. */
const BY_KIND: Record<KindName, Hand> = { text: TEXT_HAND, sheet: SHEET_HAND, deck: DECK_HAND };

export const HANDS: readonly Hand[] = Object.values(BY_KIND);

/** A suite of laws, tried on every kind of document. */
export function eachKind(what: string, suite: (hand: Hand) => void): void {
  for (const hand of HANDS) describe(`${what}, of the kind ${hand.kind.name}`, () => suite(hand));
}
