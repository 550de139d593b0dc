import type { Node } from 'prosemirror-model';
import { plainText } from '../../content/index.js';
import { moved } from '../telling.js';
import type { Teller, Where } from '../telling.js';
import type { SlideView } from './slides.js';
import { slidesOf } from './slides.js';

/** What the parts of a slide are called. */
const PARTS: Readonly<Record<string, string>> = {
  title: 'title',
  box: 'box',
  frame: 'picture',
  notes: 'notes',
};

const sized = (_: unknown, isBase: boolean): string => (isBase ? 'as large as it was' : 'of another size');

/** How what several made of one deck is told: slide by slide, as they are shown. */
export function deckTeller(decks: readonly Node[]): Teller {
  const made: (readonly SlideView[] | undefined)[] = [];
  const slides = (version: number): readonly SlideView[] =>
    (made[version] ??= slidesOf(decks[version] ?? (decks[0] as Node)));
  const words = (node: Node, exact: boolean): string =>
    node.type.name === 'slide' && !exact
      ? (node.firstChild && plainText(node.firstChild)) || 'a slide without a title'
      : plainText(node).trim();
  return {
    inLines: true,
    words: (nodes, _within, _version, exact) =>
      nodes.every(({ isInline }) => isInline)
        ? nodes.map(plainText).join('')
        : nodes.map((node) => words(node, exact)).join('\n'),
    where: (nodes, version) => whereOf(nodes, slides(version)),
    forms: {
      slide: {
        place: moved,
        layout: (value) => `laid out for ${String(value)}`,
        hidden: (value) => (value === true ? 'hidden' : 'shown'),
      },
      box: { x: moved, y: moved, width: sized, height: sized },
      frame: {
        x: moved,
        y: moved,
        width: sized,
        height: sized,
        hash: (_, isBase) => (isBase ? 'the picture it was' : 'another picture'),
        alt: (value) => (value ? `told as “${String(value)}”` : 'without words'),
      },
    },
  };
}

function whereOf(nodes: readonly Node[], slides: readonly SlideView[]): Where {
  const slide = nodes.find(({ type }) => type.name === 'slide');
  const index = slides.findIndex(({ id }) => id === slide?.attrs['id']);
  const within = slide ? nodes.slice(nodes.indexOf(slide) + 1) : [];
  const part = within.map(({ type }) => PARTS[type.name]).find((name) => name !== undefined);
  const title = slides[index]?.title.replace(/\s+/g, ' ').trim();
  const said = [`Slide ${index + 1}`, ...(title ? [title] : []), ...(part ? [part] : [])].join(' · ');
  const parts = slide ? slide.children.findIndex((child) => child === within[0]) : -1;
  return { said, order: [index, parts] };
}
