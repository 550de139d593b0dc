import type { Node, NodeSpec } from 'prosemirror-model';
import { ERASED_IMAGE } from '../../content/index.js';
import type { Traits } from '../../content/index.js';
import { check, line, oneOf } from '../attributes.js';
import type { Element } from '../attributes.js';

/** A stored image is named by the SHA-256 of its bytes, in hexadecimal. */
const IMAGE_HASH = /^[0-9a-f]{64}$/;

/** Where an image stands: in the line, at the start or the end with text flowing past it, or across the page. */
export const IMAGE_PLACES = ['line', 'start', 'end', 'wide'] as const;
export type ImagePlace = (typeof IMAGE_PLACES)[number];

/** Most letters of an image's caption. */
export const LONGEST_CAPTION = 500;

/** An image. Its alternative text is for whoever cannot see it; its caption stands below it, for everybody. */
export const image: NodeSpec & Traits = {
  inline: true,
  group: 'inline',
  draggable: true,
  role: 'picture',
  identity: 'hash',
  plain: ({ attrs }: Node) =>
    attrs['hash'] === ERASED_IMAGE ? '[erased image]' : `[${String(attrs['alt'])}]`,
  erased: { hash: ERASED_IMAGE, alt: '', caption: '' },
  attrs: {
    hash: check(
      undefined,
      'the SHA-256 of a stored image',
      (value) => typeof value === 'string' && IMAGE_HASH.test(value),
    ),
    alt: { default: '', validate: 'string' },
    width: check(
      null,
      'a width in pixels, or null',
      (value) => value === null || (Number.isInteger(value) && Number(value) > 0),
    ),
    place: oneOf(IMAGE_PLACES, 'line'),
    caption: line(LONGEST_CAPTION),
  },
  parseDOM: [
    {
      tag: 'img[data-image]',
      getAttrs: (dom: Element) => {
        const hash = dom.getAttribute('data-image') ?? '';
        const place = dom.getAttribute('data-place') ?? 'line';
        return (
          IMAGE_HASH.test(hash) && {
            hash,
            alt: dom.getAttribute('alt') ?? '',
            width: Number(dom.getAttribute('width')) || null,
            place: IMAGE_PLACES.includes(place as ImagePlace) ? place : 'line',
            caption: (dom.getAttribute('title') ?? '').replace(/\s+/g, ' ').slice(0, LONGEST_CAPTION),
          }
        );
      },
    },
  ],
  toDOM: (node) => {
    const { hash, alt, width, place, caption } = node.attrs;
    const attrs: Record<string, string> = { 'data-image': String(hash), alt: String(alt) };
    if (width !== null) attrs['width'] = String(width);
    if (place !== 'line') attrs['data-place'] = String(place);
    if (caption) attrs['title'] = String(caption);
    return ['img', attrs];
  },
};
