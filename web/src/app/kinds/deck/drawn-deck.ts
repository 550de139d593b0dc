import type { SlideView } from '@oxbow/core/kinds/deck';
import { slidesOf } from '@oxbow/core/kinds/deck';
import type { Node } from 'prosemirror-model';
import { imageAddress } from '../../document/drawn';
import type { DrawnMark, DrawnPart } from '../../document/kinds';
import { draw } from '../../reading/draw';
import type { Sheet } from '../../reading/draw';
import type { Mark } from '../../reading/sheet';

/** About how many lines a slide takes. */
const LINES = 8;

/** Draws a deck as it stood: its slides one below the other, as they were shown, as far as they are asked for. */
export function drawDeck(deck: Node, marks: readonly DrawnMark[], part: DrawnPart): HTMLElement {
  const element = document.createElement('div');
  element.className = 'drawn-deck page-text';
  const { document: id } = part;
  const sheet: Sheet = {
    doc: deck,
    marks: marks.map((mark) => markOn(deck, mark)),
    ghosts: [],
    other: null,
    image: (hash) => (id === undefined ? '' : imageAddress(id, hash)),
    placed: true,
  };
  for (const { at, node } of shown(slidesOf(deck), marks, part))
    element.append(draw(sheet, at, at + node.nodeSize));
  if (id === undefined) for (const picture of element.querySelectorAll('img')) picture.removeAttribute('src');
  return element;
}

/** The slides that are drawn: those round the first mark, or a share of the way through the deck. */
function shown(
  slides: readonly SlideView[],
  [first]: readonly DrawnMark[],
  { lines, depth = 0 }: DrawnPart,
): readonly SlideView[] {
  const count = Math.max(1, Math.ceil(lines / LINES));
  const marked = first
    ? slides.findIndex(({ at, node }) => first.from < at + node.nodeSize && first.to >= at)
    : -1;
  const at = marked >= 0 ? marked : Math.floor(depth * slides.length);
  const from = Math.max(0, Math.min(slides.length - count, at - Math.floor(count / 3)));
  return slides.slice(from, from + count);
}

function markOn(deck: Node, { from, to, name, who }: DrawnMark): Mark {
  const node = from < deck.content.size ? deck.nodeAt(from) : null;
  const block = node !== null && !node.isText && from + node.nodeSize <= to;
  return { from, to, name, block, change: null, tag: 'span', colour: who, where: null };
}
