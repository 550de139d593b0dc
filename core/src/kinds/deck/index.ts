import type { Kind } from '../kind.js';
import { DECK_VERSION, blankDeck, deckSchema } from './schema.js';

export { firstPlaces, freshIds, makePlaces, moveLines, placesAt, removeLine } from '../lines.js';
export type { Line } from '../lines.js';
export { LAYOUTS, SLIDE, titlePlace } from './nodes.js';
export type { Layout } from './nodes.js';
export { DECK_VERSION, blankDeck, blankSlide, deckSchema } from './schema.js';
export type { DeckNodes } from './schema.js';
export { asShown, slideChanges, slidesOf } from './slides.js';
export type { SlideChange, SlideView } from './slides.js';

/** Decks: slides with a title, boxes of text, pictures, and notes for whoever speaks. */
export const deck: Kind<'deck'> = {
  name: 'deck',
  schema: deckSchema,
  version: DECK_VERSION,
  blank: blankDeck,
};
