import type { Node } from 'prosemirror-model';
import { Schema } from 'prosemirror-model';
import { marks } from '../text/marks.js';
import { nodes } from './nodes.js';

/** Names of the node types of the deck kind. */
export type DeckNodes = keyof typeof nodes;

/** The schema of decks. Text on slides has the marks of text. */
export const deckSchema = new Schema<DeckNodes, keyof typeof marks>({ nodes, marks, topNode: 'deck' });

/** Version of the schema that new edits are written with; stored with each edit. */
export const DECK_VERSION = 1;

/** A slide with nothing on it but what a layout begins with. */
export function blankSlide(id: string, place: string, layout = 'text'): Node {
  const { paragraph, box } = deckSchema.nodes;
  const boxes = { title: 1, text: 1, two: 2, picture: 1, blank: 0 }[layout] ?? 1;
  const stands = (i: number): Record<string, number> => {
    if (layout === 'title') return { y: 4900, height: 2000 };
    return boxes > 1 ? { x: 1000 + i * 7200, width: 6800 } : {};
  };
  return deckSchema.node('slide', { id, place, layout }, [
    deckSchema.node('title'),
    ...Array.from({ length: boxes }, (_, i) =>
      box.create({ id: `text${i === 0 ? '' : i + 1}`, ...stands(i) }, [paragraph.create()]),
    ),
    deckSchema.node('notes', null, [paragraph.create()]),
  ]);
}

/** The blank beginning of every deck: one slide for its title. */
export function blankDeck(): Node {
  return deckSchema.node('deck', null, [blankSlide('first', 'a0', 'title')]);
}
