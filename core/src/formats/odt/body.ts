import type { Mark, Node } from 'prosemirror-model';
import { canonicalText } from '../../content/index.js';
import { LONGEST_CAPTION, isNoteId, isSafeLink, textSchema as schema } from '../../kinds/text/index.js';
import { Bound } from '../bound.js';
import { containerOf } from '../container.js';
import { usualWidth } from '../looks.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, textIn, within } from '../packed/xml.js';
import type { Picture } from '../picture.js';
import type { ReadPiece } from '../pieces.js';
import { stretchesOf } from '../pieces.js';
import type { LeftOutTally } from '../reading.js';
import { orParagraph, squared } from '../table.js';
import { LIST_STYLES, MARK_PREFIX, STYLES } from './names.js';
import { placeOf } from './page.js';
import type { OdtSheet } from './sheet.js';
import { pixels } from './sheet.js';
import type { Item, OpenText } from './tree.js';
import { blocksOf } from './tree.js';

/** Most cells a table may have; a file can say that a cell is repeated, at no cost to itself. */
const MOST_CELLS = 50_000;

const OWN_LISTS: ReadonlySet<string> = new Set(
  Object.values(LIST_STYLES).flatMap((name) => [name, `${MARK_PREFIX}${name}`]),
);

/** What is told while the later text is read. */
export interface Hearing {
  /** Text within a comment or a tracked insertion of this name. */
  text(within: ReadonlySet<string>, text: string): void;
  comment(element: Element): void;
}

/**
 * Reads the body of a text as it is in one of its two texts. Where a tracked change takes away the end of a paragraph, what
 * follows goes on in it, unless it is empty: then it is gone (ODF 1.2 Part 1, 5.5.4 and 5.5.7).
 */
export class OdtBodyReader {
  /** A paragraph whose end is gone. */
  private open: OpenText | null = null;
  /** What stands in footnotes whose signs were met, by name. */
  private readonly signs = new Map<string, Element | null>();
  private readonly inside = new Set<string>();
  private readonly bound = new Bound();
  private last = ' ';
  /** The last literal text of the paragraph, where it ends in white space, which does not count at the end of one. */
  private trailing: ReadPiece | null = null;
  private target: OpenText = emptyText();

  constructor(
    private readonly sheet: OdtSheet,
    private readonly text: 'earlier' | 'later',
    /** What was deleted, by the id of its region; which insertions there are. */
    private readonly changes: {
      readonly deleted: ReadonlyMap<string, Element>;
      readonly inserted: ReadonlySet<string>;
    },
    private readonly picture: (address: string) => Picture | null,
    private readonly tally: LeftOutTally,
    private readonly hearing: Hearing,
  ) {}

  blocks(parent: Element): Node[] {
    return blocksOf(this.itemsIn(parent));
  }

  private itemsIn(parent: Element, list: string | null = null, level = 1): Item[] {
    const into: Item[] = [];
    this.read(parent, into, list, level);
    return into;
  }

  private read(parent: Element, into: Item[], list: string | null, level: number): void {
    for (const element of elementsOf(parent)) this.element(element, into, list, level);
  }

  private get passing(): boolean {
    return this.text === 'earlier' && [...this.inside].some((id) => this.changes.inserted.has(id));
  }

  private element(element: Element, into: Item[], list: string | null, level: number): void {
    switch (element.name) {
      case 'text:p':
      case 'text:h':
        return this.paragraph(element, into);
      case 'text:list':
        return this.list(element, into, list, level);
      case 'text:numbered-paragraph':
      case 'text:index-body':
        return this.read(element, into, list, level);
      case 'text:section': {
        const container = containerOf((element.attributes['text:name'] ?? '').split(' ')[0] ?? '');
        if (!container) return this.read(element, into, null, 1);
        if (container.kind === 'footnote') {
          const [note] = this.note(container.note, this.itemsIn(element));
          if (note) into.push({ kind: 'block', node: note });
          return;
        }
        into.push({ kind: 'named', container, items: this.itemsIn(element) });
        return;
      }
      case 'table:table': {
        const table = this.passing ? null : this.table(element);
        if (table) into.push({ kind: 'block', node: table });
        return;
      }
      case 'text:change-start':
      case 'text:change-end':
        return this.boundary(element);
      case 'text:change': {
        const deleted = this.deleted(element);
        if (deleted && !this.passing) this.read(deleted, into, null, 1);
        return;
      }
      case 'text:table-of-content':
      case 'text:alphabetical-index':
      case 'text:illustration-index':
      case 'text:bibliography':
        this.tally.add('tables of contents');
        return;
      case 'draw:frame': {
        const pieces = this.frame(element, []);
        if (pieces.length > 0) into.push({ ...emptyText(), pieces });
        return;
      }
      default:
        if (element.name.startsWith('draw:')) this.tally.add('text boxes and drawn shapes');
    }
  }

  private boundary(element: Element): void {
    const id = element.attributes['text:change-id'] ?? '';
    if (element.name === 'text:change-start') this.inside.add(id);
    else this.inside.delete(id);
  }

  private deleted(element: Element): Element | null {
    if (this.text === 'later') return null;
    return this.changes.deleted.get(element.attributes['text:change-id'] ?? '') ?? null;
  }

  private paragraph(element: Element, into: Item[]): void {
    const name = element.attributes['text:style-name'] ?? null;
    const breaks = this.sheet.paragraphProperty(name, 'fo:break-before') === 'page' && !this.passing;
    if (this.open) this.target = this.open;
    else {
      this.target = this.started(element);
      if (breaks) this.target.pieces.push({ parts: 'page_break' });
    }
    this.last = ' ';
    this.trailing = null;
    this.inline(element, this.sheet.paragraphMarks(name, this.tally), name, into);
    this.ended(into);
  }

  /** A paragraph of an element's style, with nothing in it yet. */
  private started(element: Element): OpenText {
    const name = element.attributes['text:style-name'] ?? null;
    const align = this.sheet.paragraphProperty(name, 'fo:text-align');
    const form = this.sheet.form(name);
    const level = Number(element.attributes['text:outline-level'] ?? (form === 'subtitle' ? 2 : 1));
    const heading = element.name === 'text:h' || form === 'title' || form === 'subtitle';
    return {
      kind: 'text',
      form: heading ? 'heading' : form,
      level: Math.min(6, Math.max(1, level || 1)),
      align:
        align === 'center' || align === 'justify'
          ? align
          : align === 'end' || align === 'right'
            ? 'end'
            : 'start',
      language: languageOf(name ?? ''),
      quote: /^Quotations_n(\d+)/.exec(name ?? '')?.[1] ?? '',
      pieces: [],
    };
  }

  /** The end of a paragraph: it stands, or goes on in the next, or is gone. */
  private ended(into: Item[]): void {
    const { target } = this;
    const last = target.pieces.at(-1);
    if (last && last === this.trailing && 'text' in last)
      target.pieces[target.pieces.length - 1] = { ...last, text: last.text.slice(0, -1) };
    if (this.passing && target.pieces.length === 0) return;
    if (target !== this.open) into.push(target);
    this.open = this.passing ? target : null;
  }

  private put(piece: ReadPiece): void {
    if (!this.passing) this.target.pieces.push(piece);
  }

  private say(text: string, marks: readonly Mark[]): void {
    this.bound.spend(text.length);
    this.hearing.text(this.inside, text);
    if (text) this.put({ text, marks });
  }

  private inline(parent: Element, marks: readonly Mark[], style: string | null, into: Item[]): void {
    for (const child of parent.children) {
      if (child.type === 'text') this.literal(child.value, marks);
      else this.inlineElement(child, marks, style, into);
    }
  }

  /** Character data, with white space collapsed (ODF 1.2 Part 1, 6.1.2). */
  private literal(value: string, marks: readonly Mark[]): void {
    const text = value.replace(/[ \t\r\n]+/g, ' ');
    const kept = this.last === ' ' ? text.replace(/^ /, '') : text;
    if (kept === '') return;
    this.last = kept.slice(-1);
    this.say(kept, marks);
    if (!this.passing) this.trailing = this.last === ' ' ? (this.target.pieces.at(-1) ?? null) : null;
  }

  private inlineElement(element: Element, marks: readonly Mark[], style: string | null, into: Item[]): void {
    const solid = (): void => void (this.last = '');
    switch (element.name) {
      case 'text:span': {
        const name = element.attributes['text:style-name'] ?? null;
        if (name === STYLES.box) {
          solid();
          return this.put({ box: textIn(element) !== '\u2610' });
        }
        return this.inline(element, this.sheet.spanMarks(marks, name, style, this.tally), style, into);
      }
      case 'text:a':
        return this.inline(element, this.linked(element, marks), style, into);
      case 'text:s':
        solid();
        return this.say(' '.repeat(repeated(element, 'text:c', 10_000)), marks);
      case 'text:tab':
        solid();
        return this.say('\t', marks);
      case 'text:line-break':
        solid();
        return this.put({ node: schema.node('hard_break', null, undefined, marks) });
      case 'text:change-start':
      case 'text:change-end':
        return this.boundary(element);
      case 'text:change': {
        const deleted = this.deleted(element);
        if (deleted && !this.passing) this.returned(deleted, marks, style, into);
        return;
      }
      case 'draw:frame':
        solid();
        return this.frame(element, marks).forEach((piece) => this.put(piece));
      case 'office:annotation':
        this.inside.add(annotationKey(element));
        return this.hearing.comment(element);
      case 'office:annotation-end':
        this.inside.delete(annotationKey(element));
        return;
      case 'text:note':
        solid();
        return this.sign(element, marks);
      case 'text:soft-page-break':
      case 'text:bookmark':
      case 'text:bookmark-start':
      case 'text:bookmark-end':
      case 'text:reference-mark':
      case 'text:reference-mark-start':
      case 'text:reference-mark-end':
        return;
      case 'text:ruby':
        return this.inline(down(element, 'text:ruby-base') ?? element, marks, style, into);
      case 'text:meta':
      case 'text:meta-field':
        return this.inline(element, marks, style, into);
      default:
        return this.other(element, marks);
    }
  }

  /** The sign of a footnote, which is read when the text is. */
  private sign(element: Element, marks: readonly Mark[]): void {
    if (element.attributes['text:note-class'] === 'endnote') return this.tally.add('endnotes');
    if (this.passing) return;
    const written = element.attributes['text:id'] ?? '';
    const name = isNoteId(written) ? written : `n${this.signs.size + 1}`;
    this.signs.set(name, down(element, 'text:note-body'));
    this.put({ node: schema.node('footnote_mark', { note: name }, undefined, marks) });
  }

  /** Footnotes whose signs were met, in that order. */
  notes(): Node[] {
    return [...this.signs].flatMap(([name, body]) => this.note(name, body ? this.itemsIn(body) : []));
  }

  /** A footnote, its paragraphs as lines of one; nothing where it has none in this text. */
  private note(name: string, items: readonly Item[]): Node[] {
    const lines = items.flatMap((item) => (item.kind === 'text' ? [item.pieces] : []));
    if (lines.length < items.length) this.tally.add('lists and tables in footnotes');
    if (lines.length === 0) return [];
    const content = lines.flatMap((pieces, i) => [
      ...(i > 0 ? [schema.node('hard_break')] : []),
      ...stretchesOf(pieces, false).flatMap((stretch) => stretch.content),
    ]);
    return [schema.node('footnote', { note: name }, content)];
  }

  private other(element: Element, marks: readonly Mark[]): void {
    if (element.name.startsWith('draw:')) return this.tally.add('text boxes and drawn shapes');
    if (!element.name.startsWith('text:')) return;
    const text = textIn(element);
    if (text === '') return;
    this.tally.add('fields, kept as their last text');
    this.literal(text, marks);
  }

  /** What a change deleted at a place within a paragraph, put back: its first and last paragraphs join those round it. */
  private returned(deleted: Element, marks: readonly Mark[], style: string | null, into: Item[]): void {
    const blocks = elementsOf(deleted);
    const isText = (element: Element | undefined): boolean =>
      element?.name === 'text:p' || element?.name === 'text:h';
    const whole = this.last;
    blocks.forEach((block, i) => {
      if (!isText(block)) return this.element(block, into, null, 1);
      if (i > 0) this.target = this.started(block);
      this.last = '';
      const name = block.attributes['text:style-name'] ?? style;
      this.inline(block, i === 0 ? marks : this.sheet.paragraphMarks(name, this.tally), name, into);
      if (i < blocks.length - 1) this.ended(into);
    });
    this.last = whole;
    this.trailing = null;
  }

  private linked(element: Element, marks: readonly Mark[]): readonly Mark[] {
    const href = element.attributes['xlink:href'] ?? '';
    const title = element.attributes['office:title'] ?? null;
    if (isSafeLink(href)) return schema.mark('link', { href, title }).addToSet(marks);
    if (href) this.tally.add('links of a kind that is not allowed');
    return marks;
  }

  private frame(element: Element, marks: readonly Mark[]): ReadPiece[] {
    const image = down(element, 'draw:image');
    if (!image) {
      const object = within(element, 'math:math') ?? down(element, 'draw:object');
      this.tally.add(object ? 'formulas and embedded objects' : 'text boxes and drawn shapes');
      return [];
    }
    if (down(element, 'draw:object'))
      this.tally.add('embedded objects, kept as their picture where it can be shown');
    const [description, title] = [down(element, 'svg:desc'), down(element, 'svg:title')];
    const told = (about: Element | null): string =>
      about ? canonicalText(textIn(about), false).replace(/\p{Surrogate}/gu, '\ufffd') : '';
    const alt = told(description ?? title);
    const caption = description ? told(title).replace(/\s+/g, ' ').slice(0, LONGEST_CAPTION) : '';
    const picture = this.picture(image.attributes['xlink:href'] ?? '');
    if (!picture) {
      this.tally.add('pictures that cannot be shown (only PNG, JPEG, GIF and WebP can)');
      return alt ? [{ text: `[${alt}]`, marks }] : [];
    }
    const wide = pixels(element.attributes['svg:width']);
    const width = wide > 0 && wide !== usualWidth(picture) ? wide : null;
    const style = element.attributes['draw:style-name'] ?? null;
    const place = placeOf(element.attributes['text:anchor-type'], (name) =>
      this.sheet.graphicProperty(style, name),
    );
    const attrs = { hash: picture.hash, alt, width, place, caption };
    return [{ node: schema.node('image', attrs, undefined, marks) }];
  }

  private list(element: Element, into: Item[], outer: string | null, level: number): void {
    const name = element.attributes['text:style-name'] ?? outer;
    const { kind, start } = this.sheet.level(name, level);
    const children = elementsOf(element).filter(({ name: tag }) => /^text:list-(item|header)$/.test(tag));
    const items = children.map((item) => this.itemsIn(item, name, level + 1));
    const headings = items.flat().every((item) => item.kind === 'text' && item.form === 'heading');
    if (!OWN_LISTS.has(name ?? '') && headings && items.some((item) => item.length > 0)) {
      this.tally.add('numbers of headings');
      into.push(...items.flat());
      return;
    }
    const first = children[0]?.attributes['text:start-value'];
    into.push({
      kind: 'list',
      list: kind,
      start: first === undefined ? start : Number(first) || 0,
      items,
      mark: name?.startsWith(MARK_PREFIX) ?? false,
    });
  }

  private table(element: Element): Node | null {
    const held = this.open;
    this.open = null;
    const columns = this.columns(element);
    const rows: Node[][] = [];
    let count = 0;
    const read = (parent: Element, heads: boolean): void => {
      for (const child of elementsOf(parent)) {
        if (/^table:table-(header-rows|rows|row-group)$/.test(child.name))
          read(child, heads || child.name === 'table:table-header-rows');
        if (child.name !== 'table:table-row') continue;
        const cells = this.cells(child, heads, columns);
        const times = repeated(child, 'table:number-rows-repeated');
        const size = cells.reduce((sum, cell) => sum + cell.nodeSize, 0);
        for (let i = 0; i < times && (count += cells.length) <= MOST_CELLS; i++) {
          if (i > 0) this.bound.spend(size);
          rows.push(cells);
        }
      }
    };
    read(element, false);
    this.open = held;
    return rows.some((cells) => cells.length > 0) ? squared(rows) : null;
  }

  private cells(row: Element, heads: boolean, columns: readonly number[]): Node[] {
    let column = 0;
    return elementsOf(row).flatMap((cell): Node[] => {
      const times = repeated(cell, 'table:number-columns-repeated');
      const at = column;
      column += times;
      if (cell.name !== 'table:table-cell') return [];
      const colspan = Math.min(100, repeated(cell, 'table:number-columns-spanned'));
      const widths = columns.slice(at, at + colspan);
      const attrs = {
        colspan,
        rowspan: repeated(cell, 'table:number-rows-spanned'),
        colwidth: widths.some((width) => width > 0) ? widths : null,
      };
      const head = heads || cell.attributes['table:style-name'] === STYLES.headCell;
      const node = schema.node(head ? 'table_header' : 'table_cell', attrs, orParagraph(this.blocks(cell)));
      const copies = Math.min(times, 100);
      this.bound.spend((copies - 1) * node.nodeSize);
      return Array.from({ length: copies }, () => node);
    });
  }

  /** Widths of the columns in pixels, 0 for one that only has a share of the table's. */
  private columns(table: Element): number[] {
    return elementsOf(table).flatMap((child): number[] => {
      if (/^table:table-(columns|header-columns|column-group)$/.test(child.name)) return this.columns(child);
      if (child.name !== 'table:table-column') return [];
      const { own, relative } = this.sheet.columnWidth(child.attributes['table:style-name'] ?? null);
      const width = relative === null ? pixels(own) : 0;
      return Array.from(
        { length: Math.min(100, repeated(child, 'table:number-columns-repeated')) },
        () => width,
      );
    });
  }
}

function repeated(element: Element, name: string, most = 1000): number {
  return Math.min(most, Math.max(1, Math.floor(Number(element.attributes[name] ?? 1)) || 1));
}

export function annotationKey(element: Element): string {
  return `annotation ${element.attributes['office:name'] ?? ''}`;
}

/** The language that the style of a block of code names; null for a style of another kind. */
function languageOf(style: string): string | null {
  if (!style.startsWith('Code_3a_')) return null;
  return style
    .slice('Code_3a_'.length)
    .replace(/_([0-9a-f]+)_/g, (_, code: string) => String.fromCodePoint(Number.parseInt(code, 16)));
}

function emptyText(): OpenText {
  return { kind: 'text', form: 'paragraph', level: 1, align: 'start', language: null, quote: '', pieces: [] };
}
