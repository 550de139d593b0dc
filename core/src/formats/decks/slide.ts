import type { Node } from 'prosemirror-model';
import { canonicalText } from '../../content/index.js';
import { blankSlide, deckSchema as schema } from '../../kinds/deck/index.js';
import { firstPlaces } from '../../kinds/lines.js';
import { Bound } from '../bound.js';
import { FormatError } from '../format.js';
import type { Picture } from '../picture.js';

/** Most slides that a file may bring. */
const MOST_SLIDES = 2000;
/** Most letters of what a picture is told as. */
const LONGEST_ALT = 500;

/** Where something stands, in units of the slide. */
export interface Placed {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A slide as a file has it. */
export interface SlideParts {
  readonly title: readonly Node[];
  /** Its boxes and pictures, those behind others first. */
  readonly things: readonly Node[];
  readonly notes: readonly Node[];
  readonly hidden: boolean;
}

/** A deck of what a file has for slides, in their order; one without any is a blank one. Throws `FormatError` where there are too many. */
export function deckOf<T>(of: readonly T[], read: (one: T) => SlideParts): Node {
  if (of.length > MOST_SLIDES)
    throw new FormatError(`This presentation has more than ${MOST_SLIDES} slides.`);
  const places = firstPlaces(Math.max(1, of.length));
  const slides = of.map((one, i) => slideOf(i === 0 ? 'first' : `s${i + 1}`, places[i] ?? 'a0', read(one)));
  const deck = schema.node(
    'deck',
    null,
    slides.length > 0 ? slides : [blankSlide('first', places[0] ?? 'a0', 'title')],
  );
  new Bound().spend(deck.content.size);
  deck.check();
  return deck;
}

function slideOf(id: string, place: string, { title, things, notes, hidden }: SlideParts): Node {
  const boxes = things.filter(({ type }) => type.name === 'box').length;
  const layout = things.length > boxes ? 'picture' : boxes > 1 ? 'two' : boxes === 0 ? 'title' : 'text';
  return schema.node('slide', { id, place, layout, hidden }, [
    schema.node('title', null, title),
    ...things,
    schema.node('notes', null, notes.length > 0 ? notes : [schema.node('paragraph')]),
  ]);
}

/** A box of text that stands behind so many things. */
export function boxOf(behind: number, blocks: readonly Node[], at: Partial<Placed>): Node {
  return schema.node('box', { id: `t${behind + 1}`, ...at }, blocks);
}

/** A picture that stands behind so many things. */
export function frameOf(behind: number, picture: Picture, told: string, at: Partial<Placed>): Node {
  const alt = canonicalText(told, false).slice(0, LONGEST_ALT);
  return schema.node('frame', { id: `p${behind + 1}`, hash: picture.hash, alt, ...at });
}

/** A place on the slide from what a file says, brought within what a deck may hold. */
export function placeOf({ x, y, width, height }: Placed): Placed {
  const within = (value: number, least: number, most: number): number =>
    Math.max(least, Math.min(most, Math.round(value) || 0));
  return {
    x: within(x, -16_000, 32_000),
    y: within(y, -9000, 18_000),
    width: within(width, 100, 32_000),
    height: within(height, 100, 18_000),
  };
}

/** Lines as one, parted by line ends: a title has no paragraphs. */
export function joined(lines: readonly (readonly Node[])[]): Node[] {
  return lines.flatMap((line, i) => [...(i > 0 ? [schema.node('hard_break')] : []), ...line]);
}
