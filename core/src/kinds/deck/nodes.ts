import type { Node, NodeSpec } from 'prosemirror-model';
import { ERASED_IMAGE } from '../../content/index.js';
import type { Traits } from '../../content/index.js';
import { check, oneOf, wholeNumber } from '../attributes.js';
import type { Element } from '../attributes.js';
import { lineId, linePlace } from '../lines.js';
import { nodes as text } from '../text/nodes.js';

/** What a slide is laid out for; places of boxes are their own, so that a layout never moves what stands. */
export const LAYOUTS = ['title', 'text', 'two', 'picture', 'blank'] as const;
export type Layout = (typeof LAYOUTS)[number];

/** A slide is so many units wide and high: sixteen to nine. */
export const SLIDE = { width: 16_000, height: 9_000 } as const;
/** Where the title of a slide stands, in units of the slide: across its head, and in the middle of one that is laid out for a title. */
export function titlePlace(layout: string): Record<(typeof NAMES)[number], number> {
  return layout === 'title'
    ? { x: 1000, y: 2000, width: 14_000, height: 2400 }
    : { x: 1000, y: 600, width: 14_000, height: 1600 };
}

/** Most letters of what a picture is told as to whoever cannot see it. */
const LONGEST_ALT = 500;

/** Where something stands on a slide, and how large it is, in units of the slide. It may reach over its edges. */
const placed = {
  x: wholeNumber(1000, -16_000, 32_000),
  y: wholeNumber(2500, -9_000, 18_000),
  width: wholeNumber(14_000, 100, 32_000),
  height: wholeNumber(5500, 100, 18_000),
};
const NAMES = ['x', 'y', 'width', 'height'] as const;

/** Where something stands, to be read back, and as properties of its style, by which a page lays it out. */
const tellPlace = ({ attrs }: Node): Record<string, string> => ({
  ...Object.fromEntries(NAMES.map((name) => [`data-${name}`, String(attrs[name])])),
  style: NAMES.map((name) => `--${name}: ${String(attrs[name])}`).join('; '),
});
const readPlace = (dom: Element): Record<string, number> =>
  Object.fromEntries(
    NAMES.map((name) => [name, Number(dom.getAttribute(`data-${name}`)) || (placed[name].default as number)]),
  );

/**
 * Nodes of the deck kind. A slide has a title and notes for whoever speaks, which may be empty, and between them boxes of text and pictures,
 * those behind others first. Slides stand in no order that counts: each says by a key of order where it is shown.
 */
export const nodes = {
  deck: { content: 'slide+' },
  slide: {
    content: 'title (box | frame)* notes',
    key: 'id',
    free: true,
    intact: true,
    attrs: {
      id: lineId('first'),
      place: linePlace,
      layout: oneOf(LAYOUTS, 'text'),
      hidden: check(false, 'true or false', (value) => typeof value === 'boolean'),
    },
    isolating: true,
    selectable: false,
    parseDOM: [
      {
        tag: 'section[data-slide]',
        getAttrs: (dom: Element) => ({
          id: dom.getAttribute('data-slide') ?? '',
          place: dom.getAttribute('data-place') ?? 'a0',
          layout: dom.getAttribute('data-layout') ?? 'text',
          hidden: dom.getAttribute('data-hidden') === 'true',
        }),
      },
    ],
    toDOM: ({ attrs }) => [
      'section',
      {
        'data-slide': String(attrs['id']),
        'data-place': String(attrs['place']),
        'data-layout': String(attrs['layout']),
        ...(attrs['hidden'] ? { 'data-hidden': 'true' } : {}),
      },
      0,
    ],
  },
  title: {
    content: 'inline*',
    key: '',
    role: 'heading',
    defining: true,
    isolating: true,
    selectable: false,
    parseDOM: [{ tag: 'h2[data-title]' }],
    toDOM: () => ['h2', { 'data-title': 'true' }, 0],
  },
  box: {
    content: 'block+',
    key: 'id',
    isolating: true,
    attrs: { id: lineId('text'), ...placed },
    parseDOM: [
      {
        tag: 'div[data-box]',
        getAttrs: (dom: Element) => ({ id: dom.getAttribute('data-box') ?? '', ...readPlace(dom) }),
      },
    ],
    toDOM: (node) => ['div', { 'data-box': String(node.attrs['id']), ...tellPlace(node) }, 0],
  },
  frame: {
    key: 'id',
    role: 'picture',
    identity: 'hash',
    erased: { hash: ERASED_IMAGE, alt: '' },
    plain: ({ attrs }: Node) =>
      attrs['hash'] === ERASED_IMAGE ? '[erased image]' : `[${String(attrs['alt'])}]`,
    attrs: {
      id: lineId('picture'),
      hash: check(
        ERASED_IMAGE,
        'the SHA-256 of a stored image',
        (value) => typeof value === 'string' && /^[0-9a-f]{64}$/.test(value),
      ),
      alt: check(
        '',
        `a text of at most ${LONGEST_ALT} letters`,
        (value) => typeof value === 'string' && value.length <= LONGEST_ALT,
      ),
      ...placed,
    },
    parseDOM: [
      {
        tag: 'img[data-frame]',
        getAttrs: (dom: Element) => ({
          id: dom.getAttribute('data-frame') ?? '',
          hash: dom.getAttribute('data-image') ?? ERASED_IMAGE,
          alt: dom.getAttribute('alt') ?? '',
          ...readPlace(dom),
        }),
      },
    ],
    toDOM: (node) => [
      'img',
      {
        'data-frame': String(node.attrs['id']),
        'data-image': String(node.attrs['hash']),
        alt: String(node.attrs['alt']),
        ...tellPlace(node),
      },
    ],
  },
  notes: {
    content: 'paragraph+',
    key: '',
    isolating: true,
    selectable: false,
    parseDOM: [{ tag: 'aside[data-notes]' }],
    toDOM: () => ['aside', { 'data-notes': 'true' }, 0],
  },
  paragraph: text.paragraph,
  bullet_list: text.bullet_list,
  ordered_list: text.ordered_list,
  list_item: text.list_item,
  text: text.text,
  hard_break: text.hard_break,
} satisfies Record<string, NodeSpec & Traits>;
