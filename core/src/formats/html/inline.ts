import type { Element, Nodes, RootContent } from 'hast';
import { Fragment } from 'prosemirror-model';
import type { Attrs, Mark, Node } from 'prosemirror-model';
import { canonicalText } from '../../content/index.js';
import {
  IMAGE_PLACES,
  INKS,
  LONGEST_CAPTION,
  SIZES,
  TYPEFACES,
  isNoteId,
  isSafeLink,
  textSchema as schema,
} from '../../kinds/text/index.js';
import type { Images } from '../format.js';

/** Elements whose content is not text for a reader, or could run. */
export const DROPPED = new Set(
  'script style head title template noscript iframe frame object embed applet svg math canvas audio video button select textarea form-associated meta link base'.split(
    ' ',
  ),
);
const MARKS: Record<string, string> = {
  strong: 'bold',
  b: 'bold',
  em: 'italic',
  i: 'italic',
  u: 'underline',
  ins: 'underline',
  s: 'strike',
  del: 'strike',
  strike: 'strike',
  sub: 'subscript',
  sup: 'superscript',
  code: 'code',
  kbd: 'code',
  samp: 'code',
};
/** Reads what stands within a line: text, its marks, breaks and images. */
export class HtmlInlineReader {
  constructor(private readonly images: Images) {}

  /** The content of a text block, white space collapsed unless its style says that it counts. */
  textIn(element: Element, marks: readonly Mark[]): Node[] {
    const { style } = element.properties;
    const keeps = typeof style === 'string' && /white-space:\s*pre/.test(style);
    const content = this.inline(element.children, marks, keeps);
    return keeps ? content : collapsed(content);
  }

  inline(nodes: readonly RootContent[], marks: readonly Mark[], keeps: boolean): Node[] {
    return nodes.flatMap((node): Node[] => {
      if (node.type === 'text') {
        const text = node.value.replace(keeps ? /[\t\r\n\f]/g : /[ \t\r\n\f]+/g, ' ');
        return textNodes(text, marks, false);
      }
      if (node.type !== 'element' || DROPPED.has(node.tagName)) return [];
      if (node.tagName === 'br') return [schema.node('hard_break', null, undefined, marks)];
      if (node.tagName === 'img') return this.image(node, marks);
      const { dataNote, dataNumber } = node.properties;
      if (dataNumber !== undefined) return [];
      if (isNoteId(dataNote)) return [schema.node('footnote_mark', { note: dataNote }, undefined, marks)];
      return this.inline(node.children, this.marked(node, marks), keeps);
    });
  }

  /** The marks that what an element holds has. */
  marked(element: Element, marks: readonly Mark[]): readonly Mark[] {
    const add = (name: string, attrs?: Attrs): readonly Mark[] => schema.mark(name, attrs).addToSet(marks);
    const classes = element.properties['className'];
    const named = (prefix: string, values: readonly string[]): string | undefined =>
      values.find((value) => Array.isArray(classes) && classes.includes(`${prefix}-${value}`));
    const href = element.properties['href'];
    if (element.tagName === 'a') {
      const title = element.properties['title'];
      return isSafeLink(href)
        ? add('link', { href, title: typeof title === 'string' ? title : null })
        : marks;
    }
    if (element.tagName === 'mark') return add('highlight', { ink: named('ink', INKS) ?? 'sand' });
    const face = named('face', TYPEFACES);
    const size = named('size', SIZES);
    if (element.tagName === 'span' && face) return add('typeface', { face });
    if (element.tagName === 'span' && size) return add('size', { size });
    const mark = MARKS[element.tagName];
    return mark ? add(mark) : marks;
  }

  private image(element: Element, marks: readonly Mark[]): Node[] {
    const { src, alt, dataImage, dataPlace, title, width } = element.properties;
    const address = typeof src === 'string' ? src : '';
    const says = typeof alt === 'string' ? canonicalText(alt, false) : '';
    const hash = this.images.stored(address, typeof dataImage === 'string' ? dataImage : null);
    const wide = Number(width);
    if (hash)
      return [
        schema.node(
          'image',
          {
            hash,
            alt: says,
            width: Number.isInteger(wide) && wide > 0 ? wide : null,
            place: IMAGE_PLACES.find((place) => place === dataPlace) ?? 'line',
            caption: typeof title === 'string' ? captionOf(title) : '',
          },
          undefined,
          marks,
        ),
      ];
    const linked =
      /^https?:/.test(address) && isSafeLink(address)
        ? schema.mark('link', { href: address }).addToSet(marks)
        : marks;
    return textNodes(says || (linked === marks ? '' : address), linked, false);
  }
}

/** A line to stand below an image. */
function captionOf(title: string): string {
  return canonicalText(title, false)
    .replace(/\p{Surrogate}/gu, '\ufffd')
    .slice(0, LONGEST_CAPTION);
}

function textNodes(text: string, marks: readonly Mark[], code: boolean): Node[] {
  const canonical = canonicalText(text, code).replace(/\p{Surrogate}/gu, '\ufffd');
  return canonical ? [schema.text(canonical, marks)] : [];
}

/** Inline content without white space at its ends and beside breaks, and without doubled spaces. */
export function collapsed(nodes: readonly Node[]): Node[] {
  const out: Node[] = [];
  let space = true;
  for (const node of nodes) {
    if (!node.isText) {
      if (node.type.name === 'hard_break') dropSpace(out);
      out.push(node);
      space = node.type.name === 'hard_break';
      continue;
    }
    let text = (node.text ?? '').replace(/ +/g, ' ');
    if (space) text = text.replace(/^ /, '');
    if (text === '') continue;
    space = text.endsWith(' ');
    out.push(schema.text(text, node.marks));
  }
  dropSpace(out);
  while (out.at(-1)?.type.name === 'hard_break') out.pop();
  const content: Node[] = [];
  Fragment.fromArray(out).forEach((node) => content.push(node));
  return content;
}

function dropSpace(nodes: Node[]): void {
  const last = nodes.at(-1);
  if (!last?.isText || !last.text?.endsWith(' ')) return;
  nodes.pop();
  const text = last.text.slice(0, -1);
  if (text) nodes.push(schema.text(text, last.marks));
}

/** A block of code, its language by the names in use for it. */
export function codeBlock(element: Element): Node {
  const inner = element.children.find(
    (child): child is Element => child.type === 'element' && child.tagName === 'code',
  );
  const classes = inner?.properties['className'];
  const named = Array.isArray(classes)
    ? classes
        .map(String)
        .find((name) => name.startsWith('language-'))
        ?.slice(9)
    : undefined;
  const language = element.properties['dataLanguage'] ?? named ?? '';
  return schema.node(
    'code_block',
    { language: String(language) },
    textNodes(rawText(element).replace(/\n$/, ''), [], true),
  );
}

function rawText(node: Nodes): string {
  if (node.type === 'text') return node.value;
  return 'children' in node ? node.children.map(rawText).join('') : '';
}
