import type { Mark, Node } from 'prosemirror-model';
import { usualWidth } from '../looks.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Picture } from '../picture.js';
import { endingOf } from '../picture.js';
import type { ImagePlace } from '../../kinds/text/index.js';
import { IMAGE_STYLES, PIXELS_PER_INCH } from './names.js';
import type { OdtNotes } from './notes.js';

/** Images a file shows, by name of their part. */
export type ShownPictures = Map<string, Picture>;

/** What lines of text refer to beside them. */
export interface Beside {
  readonly picture: (hash: string) => Picture | null;
  readonly shown: ShownPictures;
  readonly notes: OdtNotes;
}

/** The style of a mark, each of which is a span of its own. */
export function spanStyle(mark: Mark): string {
  const [value] = Object.values(mark.attrs);
  return value === undefined ? `Mark_${mark.type.name}` : `Mark_${mark.type.name}_${String(value)}`;
}

/** Inline nodes as ODF elements (ODF 1.2 Part 1, 6.1). White space that would collapse is written out (6.1.2). */
export function inlineOf(nodes: readonly Node[], beside: Beside): (Element | string)[] {
  return nodes.flatMap((node) => {
    const content = leafOf(node, beside);
    return node.marks.length === 0 ? content : [node.marks.reduceRight(marked, content)[0] as Element];
  });
}

function marked(content: readonly (Element | string)[], mark: Mark): (Element | string)[] {
  if (mark.type.name !== 'link') return [el('text:span', { 'text:style-name': spanStyle(mark) }, content)];
  const { href, title } = mark.attrs as { href: string; title: string | null };
  return [el('text:a', { 'xlink:type': 'simple', 'xlink:href': href, 'office:title': title }, content)];
}

function leafOf(node: Node, { picture, shown, notes }: Beside): (Element | string)[] {
  if (node.isText) return spaced(node.text ?? '');
  if (node.type.name === 'hard_break') return [el('text:line-break')];
  if (node.type.name === 'footnote_mark') return [notes.sign(String(node.attrs['note']))];
  const held = picture(String(node.attrs['hash']));
  if (!held) return spaced(`[${String(node.attrs['alt'])}]`);
  return [frameOf(node, held, shown)];
}

/** Text with spaces, tabs and line ends as elements wherever a reader would not keep them. */
export function spaced(text: string): (Element | string)[] {
  return text
    .split(/(\n|\t| {2,}|^ | $)/)
    .filter((part) => part !== '')
    .map((part) => {
      if (part === '\n') return el('text:line-break');
      if (part === '\t') return el('text:tab');
      return part.trim() === '' && /^ +$/.test(part)
        ? el('text:s', { 'text:c': part.length > 1 ? part.length : null })
        : part;
    });
}

/** An image in the line, or anchored to its paragraph with text round it (10.4.2, 10.4.4). */
function frameOf(node: Node, held: Picture, shown: ShownPictures): Element {
  const wide = (node.attrs['width'] as number | null) ?? usualWidth(held);
  const high = (wide * held.height) / held.width;
  const name = `Pictures/${held.hash}.${endingOf(held)}`;
  shown.set(name, held);
  const { alt, caption, place } = node.attrs as { alt: string; caption: string; place: ImagePlace };
  return el(
    'draw:frame',
    {
      'text:anchor-type': place === 'line' ? 'as-char' : 'char',
      'draw:style-name': place === 'line' ? null : IMAGE_STYLES[place],
      'svg:width': `${(wide / PIXELS_PER_INCH).toFixed(4)}in`,
      'svg:height': `${(high / PIXELS_PER_INCH).toFixed(4)}in`,
    },
    [
      el('draw:image', {
        'xlink:href': name,
        'xlink:type': 'simple',
        'xlink:show': 'embed',
        'xlink:actuate': 'onLoad',
      }),
      caption ? el('svg:title', {}, [caption]) : null,
      alt || caption ? el('svg:desc', {}, [alt]) : null,
    ],
  );
}
