import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { commonRuns, resemblance, shinglesOf } from '../../compare/index.js';
import type { SlideView } from '../../kinds/deck/index.js';
import { freshIds, slidesOf } from '../../kinds/deck/index.js';
import { keptPlaces } from '../../kinds/lines.js';
import { linesOf } from './lines.js';

/** Most pairs of slides whose likeness is looked at; of more, those that stand in one place are paired. */
const TABLE = 1 << 16;
/** Likeness from which two slides are the same one: words they share of all they have, and half for an equal title. */
const SAME = 0.5;

/**
 * A deck that knows nothing of another's history, as a file, with the names of the slides that are likely the same ones: those of equal text, in order and then wherever
 * they went, then those most alike. So what is put on top of a deck goes on with its history. Boxes and pictures on one slide are paired in the same
 * way. What is new gets names made of what `chance` gives: numbers from 0 up to 1. What a file cannot say stays: the layout of a slide, and text that
 * presentations write otherwise and show alike.
 */
export function adopted(read: Node, now: Node, chance: () => number): Node {
  const [own, known] = [slidesOf(read), slidesOf(now)];
  const pairs = paired(own.map(wordsOf), known.map(wordsOf), (a, b) =>
    slideLikeness(own[a] as SlideView, known[b] as SlideView),
  );
  const fresh = freshIds(own.length, chance);
  const others = own.map((_slide, i) => known[pairs.get(i) ?? -1] ?? null);
  const ids = own.map((_slide, i) => others[i]?.id ?? fresh[i] ?? '');
  const places = keptPlaces(ids, known);
  const slides = own.map(({ node }, i) => {
    const other = others[i]?.node ?? null;
    const attrs = {
      ...node.attrs,
      ...(other && { layout: other.attrs['layout'] }),
      id: ids[i],
      place: places[i],
    };
    return node.type.create(attrs, contentOf(node, other, chance));
  });
  const ranks = new Map(now.children.map(({ attrs }, i) => [attrs['id'], i]));
  const rank = ({ attrs }: Node): number => ranks.get(attrs['id']) ?? Infinity;
  const standing = slides
    .map((slide, i) => ({ slide, i }))
    .sort((a, b) => Math.sign(rank(a.slide) - rank(b.slide)) || a.i - b.i);
  return read.copy(Fragment.fromArray(standing.map(({ slide }) => slide)));
}

/** What is on a slide under the names that it likely has on another. */
function contentOf(slide: Node, other: Node | null, chance: () => number): Node[] {
  const known = other?.children ?? [];
  const pairs = paired(slide.children.map(keyOf), known.map(keyOf), (a, b) => {
    const [one, two] = [slide.child(a), known[b]];
    if (!two || one.type !== two.type) return 0;
    return a === b ? SAME : resemblance(shinglesOf(one.textContent, 1), shinglesOf(two.textContent, 1));
  });
  const fresh = freshIds(slide.childCount, chance);
  return slide.children.map((thing, i) => {
    const held = known[pairs.get(i) ?? -1];
    const attrs = 'id' in thing.attrs ? { ...thing.attrs, id: held?.attrs['id'] ?? fresh[i] } : thing.attrs;
    return thing.type.create(attrs, held && isSame(thing, held) ? held.content : thing.content);
  });
}

/** What a thing on a slide is and says: equal for two that are likely one. */
function keyOf(thing: Node): string {
  return JSON.stringify([thing.type.name, thing.attrs['hash'] ?? '', thing.textContent]);
}

function wordsOf({ node }: SlideView): string {
  return JSON.stringify(node.children.map(keyOf));
}

function slideLikeness(one: SlideView, other: SlideView): number {
  const title = one.title !== '' && one.title === other.title ? SAME : 0;
  const said = ({ node }: SlideView): Set<number> =>
    shinglesOf(node.textBetween(0, node.content.size, ' ', ' '), 1);
  return title + resemblance(said(one), said(other)) + (one.id === other.id ? 0.001 : 0);
}

/** Pairs of two lists: equal ones in order, then wherever they went, then those most alike from `SAME` on. */
function paired(
  own: readonly string[],
  known: readonly string[],
  like: (a: number, b: number) => number,
): Map<number, number> {
  const numbers = new Map<string, number>();
  const numbered = (keys: readonly string[]): Int32Array =>
    Int32Array.from(keys, (key) => {
      const number = numbers.get(key) ?? numbers.size;
      numbers.set(key, number);
      return number;
    });
  const [a, b] = [numbered(own), numbered(known)];
  const out = new Map<number, number>();
  const taken = new Set<number>();
  const take = (i: number, j: number): void => {
    if (out.has(i) || taken.has(j)) return;
    out.set(i, j);
    taken.add(j);
  };
  for (const run of commonRuns(a, b)) for (let i = 0; i < run.length; i++) take(run.a + i, run.b + i);
  own.forEach((key, i) => {
    const j = known.findIndex((other, at) => other === key && !taken.has(at));
    if (j >= 0) take(i, j);
  });
  const left = [...own.keys()].filter((i) => !out.has(i));
  const right = [...known.keys()].filter((j) => !taken.has(j));
  if (left.length * right.length > TABLE) {
    for (const i of left) if (i < known.length && like(i, i) >= SAME) take(i, i);
    return out;
  }
  const likely = left.flatMap((i) => right.map((j) => ({ i, j, worth: like(i, j) })));
  for (const { i, j } of likely.filter(({ worth }) => worth >= SAME).sort((x, y) => y.worth - x.worth))
    take(i, j);
  return out;
}

/** Whether what two things on slides hold is shown alike by presentations. */
function isSame(one: Node, other: Node): boolean {
  return one.type === other.type && shownAs(one) === shownAs(other);
}

/** What a presentation shows of a box, a title or notes: flat lines, and runs of text with marks; code is a typeface there. */
function shownAs({ type, children }: Node): string {
  const lines = type.name === 'title' ? [{ content: children }] : linesOf(children);
  return JSON.stringify(
    lines.map(({ content, ...line }) => [
      line,
      content.flatMap((node) =>
        [...(node.text ?? '\n')].map((letter) => [letter, node.marks.map(markTold).sort()]),
      ),
    ]),
  );
}

function markTold({ type, attrs }: Node['marks'][number]): string {
  if (type.name === 'code') return 'typeface mono';
  const value: unknown = attrs['href'] ?? attrs['ink'] ?? attrs['face'] ?? attrs['size'] ?? '';
  return `${type.name} ${String(value)}`.trim();
}
