import { toHtml } from 'hast-util-to-html';
import type { Node } from 'prosemirror-model';
import { SLIDE, asShown, slidesOf, titlePlace } from '../../kinds/deck/index.js';
import type { Images } from '../format.js';
import { contentOf } from '../html/hast.js';
import { SIZES } from './presentation.js';

/** The slides of a deck as HTML, in the order in which they are shown; those that are hidden, and notes, are for whoever speaks. */
export function writeSlides(deck: Node, images: Images): string {
  const slides = slidesOf(asShown(deck)).map(({ node }) =>
    node.copy(node.content.cut(0, node.content.size - (node.lastChild?.nodeSize ?? 0))),
  );
  return toHtml({ type: 'root', children: contentOf(slides, images) });
}

/** A length in units of the slide, as a share of its width. */
const share = (value: number | string): string => `calc(${value}/${SLIDE.width}*100cqw)`;
/** Hundredths of a point, of which a slide is 96,000 wide. */
const size = (value: number): string => `${value / 960}cqw`;

/** How slides stand on a page of HTML (CSS Containment Module Level 3, 6: lengths of a container). */
export const SLIDE_RULES = ((): string => {
  const title = (layout: string): string => {
    const { x, y, width, height } = titlePlace(layout);
    return `left:${share(x)};top:${share(y + height)};width:${share(width)}`;
  };
  return [
    `section[data-slide]{position:relative;container-type:inline-size;aspect-ratio:${SLIDE.width}/${SLIDE.height};margin:0 0 24px;border:1px solid var(--line,#d8d2c2);overflow:hidden;break-inside:avoid}`,
    `section>*{position:absolute;margin:0;box-sizing:border-box;font-size:${size(SIZES.text)};line-height:1.35}`,
    `section>h2{${title('text')};transform:translateY(-100%);font-size:${size(SIZES.title)};line-height:1.15}`,
    `section[data-layout=title]>h2{${title('title')}}`,
    `section>[data-box],section>[data-frame]{left:${share('var(--x)')};top:${share('var(--y)')};width:${share('var(--width)')}}`,
    `section>[data-frame]{height:${share('var(--height)')};max-width:none}`,
    'section p,section ul,section ol{margin:0 0 .3em}section ul,section ol{padding-inline-start:1.3em}',
  ].join('');
})();
