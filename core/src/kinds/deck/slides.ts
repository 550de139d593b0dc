import type { Node } from 'prosemirror-model';
import { Fragment } from 'prosemirror-model';
import { inlineText } from '../../content/index.js';
import { longestIncreasing } from '../../compare/index.js';
import type { Line } from '../lines.js';
import { inOrder } from '../lines.js';
import { blankSlide } from './schema.js';

/** A slide as it is shown. */
export interface SlideView extends Line {
  readonly title: string;
  readonly hidden: boolean;
}

/** The slides of a deck, in the order in which they are shown; of two with one name the first counts. */
export function slidesOf(deck: Node): SlideView[] {
  const out = new Map<string, SlideView>();
  deck.forEach((node, at) => {
    const id = String(node.attrs['id']);
    const title = node.firstChild ? inlineText(node.firstChild) : '';
    if (!out.has(id)) out.set(id, { id, node, at, title, hidden: node.attrs['hidden'] === true });
  });
  return inOrder([...out.values()]);
}

/** A deck as those see it who are shown it: without hidden slides, and without notes, which are for whoever speaks. */
export function asShown(deck: Node): Node {
  const seen = deck.children.flatMap((slide) => {
    const notes = slide.lastChild;
    if (slide.attrs['hidden'] === true || !notes) return [];
    const blank = notes.copy(Fragment.from(notes.type.schema.node('paragraph')));
    return [slide.copy(slide.content.replaceChild(slide.childCount - 1, blank))];
  });
  return deck.copy(Fragment.fromArray(seen.length > 0 ? seen : [blankSlide('first', 'a0', 'blank')]));
}

/** What became of a slide between two decks of one history. */
export interface SlideChange {
  readonly turn: 'added' | 'removed' | 'moved' | 'hidden' | 'shown' | 'text' | 'form';
  readonly slide: string;
  /** Its title, as it is later, or was where it is gone. */
  readonly title: string;
}

/**
 * What is different between two decks, slide by slide: those that came, went or moved (the fewest), were hidden or are shown again, and those on which text
 * differs, or only where things stand and how they look.
 */
export function slideChanges(earlier: Node, later: Node): SlideChange[] {
  const [was, is] = [slidesOf(earlier), slidesOf(later)];
  const homes = new Map(was.map((slide, i) => [slide.id, i]));
  const kept = is.flatMap(({ id }, b) => {
    const a = homes.get(id);
    return a === undefined ? [] : [{ a, b }];
  });
  const still = new Set(longestIncreasing([...kept].sort((x, y) => x.a - y.a)).map(({ b }) => b));
  const present = new Set(is.map(({ id }) => id));
  const out: SlideChange[] = was
    .filter(({ id }) => !present.has(id))
    .map(({ id, title }) => ({ turn: 'removed', slide: id, title }));
  is.forEach(({ id, title, node, hidden }, b) => {
    const tell = (turn: SlideChange['turn']): void => void out.push({ turn, slide: id, title });
    const before = was[homes.get(id) ?? -1];
    if (!before) return tell('added');
    if (!still.has(b)) tell('moved');
    if (before.hidden !== hidden) tell(hidden ? 'hidden' : 'shown');
    if (before.node.content.eq(node.content)) return;
    tell(
      before.node.textContent === node.textContent && before.node.childCount === node.childCount
        ? 'form'
        : 'text',
    );
  });
  return out;
}
