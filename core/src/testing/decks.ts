import type { Node } from 'prosemirror-model';
import { Transform, canSplit } from 'prosemirror-transform';
import type { SlideView } from '../kinds/deck/index.js';
import {
  LAYOUTS,
  blankSlide,
  deck,
  deckSchema as schema,
  freshIds,
  moveLines,
  placesAt,
  removeLine,
  slidesOf,
} from '../kinds/deck/index.js';
import { PICTURES } from './anything.js';
import type { Random } from './random.js';
import type { Hand } from './writers.js';

type Act = (random: Random, tr: Transform, on: SlideView, fresh: (count: number) => string) => void;

const ids = (random: Random, count: number): string[] => freshIds(count, () => random.next());

/** A place in some text of a slide. */
function textPlace(random: Random, { node, at }: SlideView): number {
  const blocks: { at: number; size: number }[] = [];
  node.descendants((child, offset) => {
    if (child.isTextblock) blocks.push({ at: at + 2 + offset, size: child.content.size });
  });
  const block = random.pick(blocks);
  return block.at + random.between(0, block.size);
}

/** The boxes and pictures of a slide. */
function thingsOn({ node, at }: SlideView): { node: Node; at: number }[] {
  const out: { node: Node; at: number }[] = [];
  node.forEach((child, offset) => {
    if (/^(box|frame)$/.test(child.type.name)) out.push({ node: child, at: at + 1 + offset });
  });
  return out;
}

const type: Act = (random, tr, on, fresh) =>
  void tr.insert(textPlace(random, on), schema.text(fresh(random.between(1, 4))));
const erase: Act = (random, tr, on) => {
  const from = textPlace(random, on);
  const $from = tr.doc.resolve(from);
  tr.delete(from, Math.min($from.end(), from + random.between(1, 4)));
};
const mark: Act = (random, tr, on) => {
  const from = textPlace(random, on);
  tr.addMark(
    from,
    Math.min(tr.doc.resolve(from).end(), from + 5),
    schema.mark(random.pick(['bold', 'italic'] as const)),
  );
};
const split: Act = (random, tr, on) => {
  const at = textPlace(random, on);
  if (tr.doc.resolve(at).parent.type.name === 'paragraph' && canSplit(tr.doc, at)) tr.split(at);
};
const addSlide: Act = (random, tr) => {
  const slides = slidesOf(tr.doc);
  const [place = ''] = placesAt(slides, random.between(0, slides.length), 1);
  tr.insert(tr.doc.content.size, blankSlide(ids(random, 1)[0] ?? '', place, random.pick(LAYOUTS)));
};
const dropSlide: Act = (random, tr, on) => {
  if (slidesOf(tr.doc).length > 1 && random.chance(0.5)) removeLine(tr, on);
};
const moveSlides: Act = (random, tr) => {
  const slides = slidesOf(tr.doc);
  moveLines(
    tr,
    slides,
    slides.filter(() => random.chance(0.3)),
    random.between(0, slides.length),
  );
};
const hide: Act = (_random, tr, on) => void tr.setNodeAttribute(on.at, 'hidden', !on.hidden);
const addBox: Act = (random, tr, on, fresh) => {
  const end = on.at + on.node.nodeSize - 1 - (on.node.lastChild?.nodeSize ?? 0);
  const [id = ''] = ids(random, 1);
  const paragraph = schema.node('paragraph', null, [schema.text(fresh(2))]);
  const thing = random.chance(0.5)
    ? schema.node('box', { id, x: random.between(0, 9000) }, [paragraph])
    : schema.node('frame', { id, hash: random.pick(PICTURES).hash, alt: 'the wheel' });
  tr.insert(end, thing);
};
const moveBox: Act = (random, tr, on) => {
  const things = thingsOn(on);
  if (things.length === 0) return;
  tr.setNodeAttribute(random.pick(things).at, random.pick(['x', 'y', 'width']), random.between(200, 9000));
};
const dropBox: Act = (random, tr, on) => {
  const things = thingsOn(on);
  if (things.length === 0) return;
  const { node, at } = random.pick(things);
  tr.delete(at, at + node.nodeSize);
};

const TEXT_ACTS: Act[] = [type, type, type, type, erase, mark];
const SLIDE_ACTS: Act[] = [split, addSlide, addSlide, dropSlide, moveSlides, hide, addBox, moveBox, dropBox];

/** Writes decks: text on slides; with structure slides, boxes and pictures come, go and move. */
export const DECK_HAND: Hand = {
  kind: deck,
  act: (random, doc, fresh, structure) => {
    for (let tries = 0; tries < 20; tries++) {
      const tr = new Transform(doc);
      random.pick(structure ? [...TEXT_ACTS, ...SLIDE_ACTS] : TEXT_ACTS)(
        random,
        tr,
        random.pick(slidesOf(doc)),
        fresh,
      );
      if (tr.docChanged) return tr;
    }
    const tr = new Transform(doc);
    addSlide(random, tr, random.pick(slidesOf(doc)), fresh);
    return tr;
  },
};
