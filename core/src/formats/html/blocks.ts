import type { Element, RootContent } from 'hast';
import type { Attrs, Mark, Node } from 'prosemirror-model';
import { ALIGNMENTS, isNoteId, readPaper, textSchema as schema } from '../../kinds/text/index.js';
import type { Images } from '../format.js';
import { orParagraph, squared } from '../table.js';
import { DROPPED, HtmlInlineReader, codeBlock, collapsed } from './inline.js';

const BLOCKS = new Set(
  'p h1 h2 h3 h4 h5 h6 ul ol li blockquote pre hr table thead tbody tfoot tr td th caption div section article main header footer aside nav figure figcaption address details summary dl dt dd fieldset form body html center'.split(
    ' ',
  ),
);
/** Containers nested deeper than this are read as if they were not there. */
const DEEPEST = 24;

/** Reads blocks: paragraphs, headings, lists, quotes and tables. */
export class HtmlBlockReader {
  private readonly inline: HtmlInlineReader;

  constructor(images: Images) {
    this.inline = new HtmlInlineReader(images);
  }

  blocks(nodes: readonly RootContent[], marks: readonly Mark[], depth: number): Node[] {
    const out: Node[] = [];
    let loose: RootContent[] = [];
    const flush = (): void => {
      const inline = collapsed(this.inline.inline(loose, marks, false));
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
        out.push(...this.blocks(node.children, this.inline.marked(node, marks), depth));
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
        if (isNoteId(element.properties['dataFootnote']))
          return [
            schema.node(
              'footnote',
              { note: element.properties['dataFootnote'] },
              this.inline.textIn(element, marks),
            ),
          ];
        return holdsBlock(element)
          ? inside()
          : [schema.node('paragraph', { align: alignOf(element) }, this.inline.textIn(element, marks))];
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
            this.inline.textIn(element, marks),
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
      default: {
        const paper = readPaper(element.properties['dataPaper']);
        return paper ? [schema.node('page_setup', paper)] : inside();
      }
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
}

function holdsBlock(element: Element): boolean {
  return element.children.some(
    (child) =>
      child.type === 'element' &&
      !DROPPED.has(child.tagName) &&
      (BLOCKS.has(child.tagName) || holdsBlock(child)),
  );
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

function alignOf(element: Element): string {
  const { align, dataAlign, style } = element.properties;
  const styled = typeof style === 'string' ? /text-align:\s*(\w+)/.exec(style)?.[1] : undefined;
  const value = dataAlign ?? align ?? styled;
  const written = value === 'left' ? 'start' : value === 'right' ? 'end' : value;
  return ALIGNMENTS.find((one) => one === written) ?? 'start';
}
