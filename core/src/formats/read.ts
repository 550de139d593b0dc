import type { Element, Nodes, Root, RootContent } from 'hast';
import { Fragment } from 'prosemirror-model';
import type { Attrs, Mark, Node } from 'prosemirror-model';
import {
  ALIGNMENTS,
  INKS,
  SIZES,
  TYPEFACES,
  blankDocument,
  canonicalText,
  isSafeLink,
  textSchema as schema,
} from '../content/index.js';
import { FormatError } from './format.js';
import type { Images } from './format.js';
import { orParagraph, squared } from './table.js';

/** Elements whose content is not text for a reader, or could run. */
const DROPPED = new Set(
  'script style head title template noscript iframe frame object embed applet svg math canvas audio video button select textarea form-associated meta link base'.split(
    ' ',
  ),
);
const BLOCKS = new Set(
  'p h1 h2 h3 h4 h5 h6 ul ol li blockquote pre hr table thead tbody tfoot tr td th caption div section article main header footer aside nav figure figcaption address details summary dl dt dd fieldset form body html center'.split(
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
/** Containers nested deeper than this are read as if they were not there. */
const DEEPEST = 24;

/**
 * Reads an HTML syntax tree into a document. Only what the schema knows is taken over, by name, so nothing that could
 * run or load gets in; unknown elements give their text.
 */
export function fromHast(root: Root, images: Images): Node {
  const blocks = new Reader(images).blocks(root.children, [], 0);
  const doc = blocks.length > 0 ? schema.node('doc', null, blocks) : blankDocument();
  doc.check();
  return doc;
}

class Reader {
  constructor(private readonly images: Images) {}

  blocks(nodes: readonly RootContent[], marks: readonly Mark[], depth: number): Node[] {
    const out: Node[] = [];
    let loose: RootContent[] = [];
    const flush = (): void => {
      const inline = collapsed(this.inline(loose, marks, false));
      loose = [];
      if (inline.length > 0) out.push(schema.node('paragraph', null, inline));
    };
    for (const node of nodes) {
      if (node.type !== 'element') loose.push(node);
      else if (DROPPED.has(node.tagName)) continue;
      else if (BLOCKS.has(node.tagName)) {
        flush();
        out.push(...this.block(node, marks, depth));
      } else if (holdsBlock(node)) {
        flush();
        out.push(...this.blocks(node.children, this.marked(node, marks), depth));
      } else loose.push(node);
    }
    flush();
    return out;
  }

  private block(element: Element, marks: readonly Mark[], depth: number): Node[] {
    const { tagName, children } = element;
    const inside = (): Node[] => this.blocks(children, marks, depth + 1);
    const filled = (): Node[] => orParagraph(inside());
    switch (tagName) {
      case 'p':
        return holdsBlock(element)
          ? inside()
          : [schema.node('paragraph', { align: alignOf(element) }, this.textIn(element, marks))];
      case 'h1':
      case 'h2':
      case 'h3':
      case 'h4':
      case 'h5':
      case 'h6':
        return [
          schema.node(
            'heading',
            { level: Number(tagName.charAt(1)), align: alignOf(element) },
            this.textIn(element, marks),
          ),
        ];
      case 'hr':
        return [schema.node(element.properties['dataPageBreak'] === undefined ? 'rule' : 'page_break')];
      case 'pre':
        return [codeBlock(element)];
      case 'blockquote':
        return depth > DEEPEST ? inside() : [schema.node('quote', null, filled())];
      case 'ul':
      case 'ol':
        return depth > DEEPEST ? inside() : this.list(element, marks, depth);
      case 'table':
        return depth > DEEPEST ? inside() : this.table(element, marks, depth);
      default:
        return inside();
    }
  }

  private list(element: Element, marks: readonly Mark[], depth: number): Node[] {
    const items = element.children.filter(
      (child) => child.type === 'element' && !DROPPED.has(child.tagName),
    ) as Element[];
    if (items.length === 0) return [];
    const boxes = items.map(takeBox);
    const content = items.map((item) =>
      orParagraph(this.blocks(item.tagName === 'li' ? item.children : [item], marks, depth + 1)),
    );
    if (element.tagName === 'ul' && boxes.every((box) => box !== null)) {
      return [
        schema.node(
          'check_list',
          null,
          content.map((blocks, i) => schema.node('check_item', { checked: boxes[i] }, blocks)),
        ),
      ];
    }
    const start = Number(element.properties['start'] ?? 1);
    const attrs =
      element.tagName === 'ol' && Number.isInteger(start) && start >= 0 && start <= 1_000_000
        ? { start }
        : null;
    return [
      schema.node(
        element.tagName === 'ol' ? 'ordered_list' : 'bullet_list',
        attrs,
        content.map((blocks) => schema.node('list_item', null, blocks)),
      ),
    ];
  }

  private table(element: Element, marks: readonly Mark[], depth: number): Node[] {
    const rows = rowsOf(element).map((row) =>
      row.children
        .filter(
          (cell): cell is Element =>
            cell.type === 'element' && (cell.tagName === 'td' || cell.tagName === 'th'),
        )
        .map((cell) => {
          const align = alignOf(cell);
          const blocks = orParagraph(this.blocks(cell.children, marks, depth + 2)).map((block) =>
            block.type.name === 'paragraph' && align !== 'start'
              ? schema.node('paragraph', { align }, block.content)
              : block,
          );
          return schema.node(cell.tagName === 'th' ? 'table_header' : 'table_cell', spansOf(cell), blocks);
        }),
    );
    const captions = element.children.filter(
      (child): child is Element => child.type === 'element' && child.tagName === 'caption',
    );
    const before = captions.flatMap((caption) => this.blocks(caption.children, marks, depth + 1));
    const held = rows.filter((cells) => cells.length > 0);
    return held.length > 0 ? [...before, squared(held)] : before;
  }

  /** The content of a text block, white space collapsed unless its style says that it counts. */
  private textIn(element: Element, marks: readonly Mark[]): Node[] {
    const { style } = element.properties;
    const keeps = typeof style === 'string' && /white-space:\s*pre/.test(style);
    const content = this.inline(element.children, marks, keeps);
    return keeps ? content : collapsed(content);
  }

  private inline(nodes: readonly RootContent[], marks: readonly Mark[], keeps: boolean): Node[] {
    return nodes.flatMap((node): Node[] => {
      if (node.type === 'text') {
        const text = node.value.replace(keeps ? /[\t\r\n\f]/g : /[ \t\r\n\f]+/g, ' ');
        return textNodes(text, marks, false);
      }
      if (node.type !== 'element' || DROPPED.has(node.tagName)) return [];
      if (node.tagName === 'br') return [schema.node('hard_break', null, undefined, marks)];
      if (node.tagName === 'img') return this.image(node, marks);
      return this.inline(node.children, this.marked(node, marks), keeps);
    });
  }

  private marked(element: Element, marks: readonly Mark[]): readonly Mark[] {
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
    const { src, alt, dataImage, width } = element.properties;
    const address = typeof src === 'string' ? src : '';
    const says = typeof alt === 'string' ? canonicalText(alt, false) : '';
    const hash = this.images.stored(address, typeof dataImage === 'string' ? dataImage : null);
    const wide = Number(width);
    if (hash)
      return [
        schema.node(
          'image',
          { hash, alt: says, width: Number.isInteger(wide) && wide > 0 ? wide : null },
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

function holdsBlock(element: Element): boolean {
  return element.children.some(
    (child) =>
      child.type === 'element' &&
      !DROPPED.has(child.tagName) &&
      (BLOCKS.has(child.tagName) || holdsBlock(child)),
  );
}

function alignOf(element: Element): string {
  const { align, dataAlign, style } = element.properties;
  const styled = typeof style === 'string' ? /text-align:\s*(\w+)/.exec(style)?.[1] : undefined;
  const value = dataAlign ?? align ?? styled;
  const written = value === 'left' ? 'start' : value === 'right' ? 'end' : value;
  return ALIGNMENTS.find((one) => one === written) ?? 'start';
}

function codeBlock(element: Element): Node {
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

/** Takes a leading check box out of a list item and answers whether it is checked; null when there is none. */
function takeBox(item: Element): boolean | null {
  const data = item.properties['dataChecked'];
  const first = item.children.find((child) => child.type !== 'text' || child.value.trim() !== '');
  const within = first?.type === 'element' && first.tagName === 'p' ? first : item;
  const box = within.children.find((child) => child.type !== 'text' || child.value.trim() !== '');
  if (box?.type === 'element' && box.tagName === 'input' && box.properties['type'] === 'checkbox') {
    const at = within.children.indexOf(box);
    within.children.splice(at, 1);
    const after = within.children[at];
    if (after?.type === 'text') after.value = after.value.replace(/^ /, '');
    return box.properties['checked'] === true || box.properties['checked'] === '';
  }
  return data === undefined ? null : String(data) === 'true';
}

function rowsOf(element: Element): Element[] {
  return element.children.flatMap((child): Element[] => {
    if (child.type !== 'element') return [];
    if (child.tagName === 'tr') return [child];
    return ['thead', 'tbody', 'tfoot'].includes(child.tagName) ? rowsOf(child) : [];
  });
}

function spansOf(cell: Element): Attrs {
  const span = (value: unknown, most: number): number =>
    Math.min(most, Math.max(1, Math.floor(Number(value ?? 1)) || 1));
  const colspan = span(cell.properties['colSpan'], 100);
  const widths = String(cell.properties['dataColwidth'] ?? '')
    .split(',')
    .map(Number);
  const known =
    widths.length === colspan &&
    widths.every((width) => Number.isInteger(width) && width >= 0 && width < 10_000);
  return {
    colspan,
    rowspan: span(cell.properties['rowSpan'], 1000),
    colwidth: known && widths.some((width) => width > 0) ? widths : null,
  };
}

/** Runs a reader and turns a stack that ran out, the mark of absurd nesting, into an answer. */
export function guarded<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof RangeError) throw new FormatError('This file is nested too deeply to be read.');
    throw error;
  }
}
