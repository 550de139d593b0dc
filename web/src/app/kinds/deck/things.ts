import { SLIDE, blankSlide, deckSchema as schema, freshIds, makePlaces } from '@oxbow/core/kinds/deck';
import type { SlideView } from '@oxbow/core/kinds/deck';
import type { Node } from 'prosemirror-model';
import { NodeSelection, TextSelection } from 'prosemirror-state';
import type { EditorState, Selection, Transaction } from 'prosemirror-state';

/** A box of text or a picture on a slide. */
export interface Thing {
  readonly node: Node;
  /** Its position in the deck. */
  readonly at: number;
}

/** Where something stands on a slide, and how large it is, in units of the slide. */
export interface Placed {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const MARGIN = 1000;
/** How much of a slide a picture takes at most when it is put there. */
const PICTURE = { width: 9000, height: 5500 };
/** How far behind what it was copied from something is put. */
const STEP = 400;

/** A name that nothing has. */
export function freshId(): string {
  return freshIds(1, Math.random)[0] ?? '';
}

/** The box or picture that is selected, or that the caret is in; null for none, as in a title. */
export function thingIn({ selection }: EditorState): Thing | null {
  if (selection instanceof NodeSelection && isThing(selection.node))
    return { node: selection.node, at: selection.from };
  const { $from } = selection;
  const node = $from.depth >= 2 ? $from.node(2) : null;
  return node && isThing(node) ? { node, at: $from.before(2) } : null;
}

export function isThing({ type }: Node): boolean {
  return type.name === 'box' || type.name === 'frame';
}

export function placeOf({ node }: Thing): Placed {
  const { x, y, width, height } = node.attrs as Record<keyof Placed, number>;
  return { x, y, width, height };
}

/** A place that a deck may hold: something of it stays on the slide. */
export function withinSlide({ x, y, width, height }: Placed): Placed {
  const between = (value: number, least: number, most: number): number =>
    Math.round(Math.max(least, Math.min(most, value)));
  const size = {
    width: between(width, 300, 2 * SLIDE.width),
    height: between(height, 300, 2 * SLIDE.height),
  };
  return {
    x: between(x, 200 - size.width, SLIDE.width - 200),
    y: between(y, 200 - size.height, SLIDE.height - 200),
    ...size,
  };
}

/** Puts a thing elsewhere, each attribute by itself, so that what others change of it stays. A selection of it stays one. */
export function putAt(tr: Transaction, { node, at }: Thing, place: Placed): void {
  const isSelected = tr.selection instanceof NodeSelection && tr.selection.from === at;
  for (const [name, value] of Object.entries(withinSlide(place)))
    if (node.attrs[name] !== value) tr.setNodeAttribute(at, name, value);
  if (isSelected) tr.setSelection(NodeSelection.create(tr.doc, at));
}

/** Where things that are added to a slide go: before all others, behind the notes in the document. */
export function endOf({ node, at }: SlideView): number {
  return at + node.nodeSize - 1 - (node.lastChild?.nodeSize ?? 0);
}

/** Puts an empty box on a slide, and the caret in it. */
export function addBox(tr: Transaction, slide: SlideView): void {
  const at = endOf(slide);
  const lower = slide.node.children.filter(isThing).length;
  const box = schema.node('box', { id: freshId(), y: 2500 + Math.min(lower, 6) * STEP, height: 2500 }, [
    schema.node('paragraph'),
  ]);
  tr.insert(at, box).setSelection(TextSelection.create(tr.doc, at + 2));
}

/** Puts a picture on a slide, as large as it is wide by high, and selects it. */
export function addPicture(
  tr: Transaction,
  slide: SlideView,
  picture: { readonly hash: string; readonly alt: string; readonly ratio: number },
): void {
  const { hash, alt, ratio } = picture;
  const width = Math.min(PICTURE.width, PICTURE.height * ratio);
  const place = withinSlide({
    x: SLIDE.width - MARGIN - width,
    y: 2500,
    width,
    height: width / ratio,
  });
  const at = endOf(slide);
  tr.insert(at, schema.node('frame', { id: freshId(), hash, alt, ...place }));
  tr.setSelection(NodeSelection.create(tr.doc, at));
}

/** Puts things that were copied on a slide, a little off where they stood, under names of their own. Selects the last. */
export function addThings(tr: Transaction, slide: SlideView, things: readonly Node[]): void {
  let at = endOf(slide);
  for (const node of things) {
    const { x, y, width, height } = placeOf({ node, at });
    const place = withinSlide({ x: x + STEP, y: y + STEP, width, height });
    tr.insert(at, node.type.create({ ...node.attrs, ...place, id: freshId() }, node.content));
    tr.setSelection(NodeSelection.create(tr.doc, at));
    at += node.nodeSize;
  }
}

/** Lets a thing stand before all others on its slide, or behind them. */
export function restack(tr: Transaction, slide: SlideView, { node, at }: Thing, way: 'front' | 'back'): void {
  const to = way === 'front' ? endOf(slide) : slide.at + 1 + (slide.node.firstChild?.nodeSize ?? 0);
  tr.delete(at, at + node.nodeSize);
  const place = tr.mapping.map(to);
  tr.insert(place, node).setSelection(NodeSelection.create(tr.doc, place));
}

/** Adds a slide behind the one at an index: a blank one of a layout, or one like another. The caret goes to its title. */
export function addSlide(
  tr: Transaction,
  slides: readonly SlideView[],
  behind: number,
  like: string | Node,
): void {
  const [place = 'a0'] = makePlaces(tr, slides, behind + 1, 1);
  const id = freshId();
  const slide =
    typeof like === 'string'
      ? blankSlide(id, place, like)
      : like.type.create({ ...like.attrs, id, place }, like.content);
  const at = tr.doc.content.size;
  tr.insert(at, slide).setSelection(TextSelection.create(tr.doc, at + 2));
}

/** Where one can type or look on a slide, in order: its title, what stands on it, its notes. */
export function stationsOf({ node, at }: SlideView): Thing[] {
  const out: Thing[] = [];
  node.forEach((child, offset) => out.push({ node: child, at: at + 1 + offset }));
  return out;
}

/** The selection of all that is at a station, or of the picture that it is. */
export function selectionOf(tr: Transaction, { node, at }: Thing): Selection {
  if (node.isLeaf) return NodeSelection.create(tr.doc, at);
  return TextSelection.between(tr.doc.resolve(at + 1), tr.doc.resolve(at + node.nodeSize - 1));
}

/** Puts the caret at the end of what a station holds, or selects the picture that it is. */
export function enter(tr: Transaction, thing: Thing): Transaction {
  const { node, at } = thing;
  const whole = selectionOf(tr, thing);
  return tr.setSelection(
    node.isLeaf ? whole : TextSelection.near(tr.doc.resolve(at + node.nodeSize - 1), -1),
  );
}
