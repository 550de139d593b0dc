import type { Node } from 'prosemirror-model';
import type { Side, Union } from '../../compare/union.js';
import { spans } from '../../compare/union.js';
import { childrenOf } from '../../content/index.js';
import type { Container } from '../container.js';
import { tagOf } from '../container.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Picture } from '../picture.js';
import { changeIn, sideOf } from '../sides.js';
import type { Hands } from '../writing.js';
import { fits, isPlainList } from './fits.js';
import type { ShownPictures } from './inline.js';
import { LIST_STYLES, MARK_PREFIX, STYLES } from './names.js';
import type { OdtNotes } from './notes.js';
import { Regions } from './regions.js';
import { tableOf } from './table.js';
import type { Content } from './tracked-inline.js';
import { OdtTrackedInline } from './tracked-inline.js';

/** Writes a comparison as the content of a file, changes tracked; a document alone is a comparison with itself. */
export class OdtFlow {
  readonly shown: ShownPictures = new Map();
  /** Paragraph styles that are used beside those that are always there: the style each is based on, and its alignment. */
  readonly derived = new Map<string, { readonly parent: string; readonly align: string }>();
  /** Languages that code is in. */
  readonly languages = new Set<string>();
  /** Widths of columns in pixels that are used. */
  readonly widths = new Set<number>();
  private readonly regions: Regions;
  private readonly inline: OdtTrackedInline;
  private sections = 0;
  private quotes = 0;

  constructor(
    hands: Hands,
    picture: (hash: string) => Picture | null,
    readonly notes: OdtNotes,
  ) {
    this.regions = new Regions(hands);
    this.inline = new OdtTrackedInline(this.regions, { picture, shown: this.shown, notes });
  }

  /** What was tracked, or null when nothing was. */
  get tracked(): Element | null {
    return this.regions.tracked;
  }

  /** Blocks side by side, at positions of the two documents. */
  parts(parts: readonly Union[], a: number, b: number, quote: number | null = null): Element[] {
    let [x, y] = [a, b];
    const before: Record<Side, Node | null> = { earlier: null, later: null };
    return parts.flatMap((part) => {
      const beside = [before.earlier, before.later].some((node) => node?.type.name === 'quote');
      const elements = this.part(part, x, y, { quote, beside });
      for (const side of ['earlier', 'later'] as const)
        before[side] = sideOf(part, side).at(-1) ?? before[side];
      const [one, other] = spans(part);
      x += one;
      y += other;
      return elements;
    });
  }

  private part(part: Union, a: number, b: number, around: Around): Element[] {
    if (!fits(part)) {
      const change = changeIn(part);
      return [
        ...this.removed(sideOf(part, 'earlier'), change, a, around),
        ...this.inserted(sideOf(part, 'later'), change, b, around),
      ];
    }
    switch (part.kind) {
      case 'keep':
        return this.block(part.node, around);
      case 'pair': {
        const { later, kids } = part;
        if (later.type.name === 'page_setup') return [];
        if (later.isTextblock)
          return this.placed(later, [this.paragraph(later, this.inline.parts(kids, a + 1, b + 1), around)]);
        if (later.type.name === 'table') return [tableOf(later, kids, a, b, this)];
        if (later.type.name === 'quote')
          return this.quote([part.earlier, later], around, (nth) => this.parts(kids, a + 1, b + 1, nth));
        return [this.list(later, kids, a, b)];
      }
      case 'difference':
        return [
          ...this.removed(part.earlier, part.change.id, a, around),
          ...this.inserted(part.later, part.change.id, b, around),
        ];
      case 'move': {
        const { change } = part.moved;
        return part.at === 'earlier'
          ? this.removed(part.moved.earlier, change.id, a, around)
          : this.inserted(part.moved.later, change.id, b, around);
      }
      default:
        return [];
    }
  }

  blocks(nodes: readonly Node[], quote: number | null = null): Element[] {
    return nodes.flatMap((node, i) =>
      this.block(node, { quote, beside: nodes[i - 1]?.type.name === 'quote' }),
    );
  }

  private block(node: Node, around: Around): Element[] {
    switch (node.type.name) {
      case 'table':
        return [tableOf(node, null, 0, 0, this)];
      case 'rule':
        return [el('text:p', { 'text:style-name': STYLES.rule })];
      case 'page_break':
        return [el('text:p', { 'text:style-name': STYLES.pageBreak })];
      case 'quote':
        return this.quote([node], around, (nth) => this.blocks(childrenOf(node), nth));
      case 'bullet_list':
      case 'ordered_list':
      case 'check_list':
        return [this.list(node, null, 0, 0)];
      case 'page_setup':
        return [];
      default:
        return this.placed(node, [this.paragraph(node, this.inline.plain(childrenOf(node)), around)]);
    }
  }

  /** A paragraph where it stands: that of a footnote at its sign. */
  private placed(node: Node, content: Element[]): Element[] {
    if (node.type.name !== 'footnote') return content;
    this.notes.hold(String(node.attrs['note']), content);
    return [];
  }

  /** Footnotes without a sign, as sections that say what they are. To be asked for last: it fills the others. */
  unsignedNotes(): Element[] {
    return this.notes.fill().map(([note, content]) => this.section({ kind: 'footnote', note }, content));
  }

  /**
   * A quote, which may have several sides: paragraphs in its style tell it unless it stands in another or holds more than
   * paragraphs. Beside another the style has a number.
   */
  private quote(
    sides: readonly Node[],
    { quote, beside }: Around,
    inside: (nth: number) => Element[],
  ): Element[] {
    const plain = sides.every((node) => childrenOf(node).every(({ type }) => type.name === 'paragraph'));
    if (quote !== null || !plain) return [this.section({ kind: 'quote' }, inside(0))];
    return inside(beside ? ++this.quotes : 0);
  }

  private paragraph(node: Node, content: readonly Content[], { quote }: Around): Element {
    const { name } = node.type;
    const align = String(node.attrs['align'] ?? 'start');
    if (name === 'heading') {
      const level = Number(node.attrs['level']);
      const style = this.styled(`Heading_20_${level}`, align);
      return el('text:h', { 'text:style-name': style, 'text:outline-level': level }, content);
    }
    const style =
      name === 'footnote'
        ? STYLES.footnote
        : name === 'code_block'
          ? this.code(String(node.attrs['language']))
          : this.styled(quote === null ? STYLES.text : quoteStyle(quote), align);
    return el('text:p', { 'text:style-name': style }, content);
  }

  private styled(style: string, align: string): string {
    const parent = style.replace(/_n\d+$/, '');
    if (align === 'start' && parent === style) return style;
    const name = align === 'start' ? style : `${style}_${align}`;
    this.derived.set(name, { parent, align });
    return name;
  }

  private code(language: string): string {
    this.languages.add(language);
    return codeStyle(language);
  }

  /** A list; `kids` are its items where it is compared. Whether it has to be named depends on what its items hold. */
  private list(node: Node, kids: readonly Union[] | null, a: number, b: number): Element {
    const contents = this.contents(node, kids, a, b);
    const kind = node.type.name as keyof typeof LIST_STYLES;
    const start = Number(node.attrs['start'] ?? 1);
    if (isPlainList(node)) {
      const items = contents.map((content, i) =>
        el('text:list-item', { 'text:start-value': i === 0 && start !== 1 ? start : null }, content),
      );
      return el('text:list', { 'text:style-name': LIST_STYLES[kind] }, items);
    }
    const items = childrenOf(node).map((item, i) => {
      const content = contents[i] ?? [];
      const [first, ...rest] = content;
      const number = kind === 'ordered_list' ? start + i : null;
      const marks = item.firstChild?.type.name === 'paragraph' && first?.name === 'text:p';
      const shown = marks
        ? [
            el('text:list', { 'text:style-name': `${MARK_PREFIX}${LIST_STYLES[kind]}` }, [
              el('text:list-item', { 'text:start-value': number }, [first]),
            ]),
            ...rest,
          ]
        : content;
      return this.section({ kind: 'item', checked: boxIn(item) }, shown);
    });
    const attrs = node.attrs['start'] === undefined ? null : { start };
    return this.section({ kind, number: '', attrs }, items);
  }

  /** What each item of a list holds. */
  private contents(node: Node, kids: readonly Union[] | null, a: number, b: number): Element[][] {
    let [x, y] = [a + 1, b + 1];
    return childrenOf(node).map((item, i) => {
      const kid = kids?.[i];
      const [p, q] = [x + 1, y + 1];
      const [one, other] = kid ? spans(kid) : [0, 0];
      x += one;
      y += other;
      const content = kid?.kind === 'pair' ? this.parts(kid.kids, p, q) : this.blocks(childrenOf(item));
      const box = boxIn(item);
      const [first] = content;
      if (box !== null && first?.name === 'text:p' && item.firstChild?.type.name === 'paragraph')
        first.children.unshift(...boxOf(box));
      return content;
    });
  }

  /** A container that has to be named, as a section (5.4). */
  private section(container: Container, content: readonly Element[]): Element {
    const name = `${tagOf(container)} ${++this.sections}`;
    return el('text:section', { 'text:style-name': STYLES.container, 'text:name': name }, content);
  }

  private removed(nodes: readonly Node[], change: number, at: number, { quote }: Around): Element[] {
    this.trackNotes(nodes, 'deletion', change, at);
    const blocks = nodes
      .filter((node) => !this.isTrackedNote(node))
      .flatMap((node) => this.block(node, { quote, beside: true }));
    if (blocks.length === 0) return [];
    const id = this.regions.add('deletion', this.regions.hand(change, 'earlier', at), blocks);
    return [el('text:change', { 'text:change-id': id })];
  }

  private inserted(nodes: readonly Node[], change: number, at: number, around: Around): Element[] {
    this.trackNotes(nodes, 'insertion', change, at);
    const blocks = nodes
      .filter((node) => !this.isTrackedNote(node))
      .flatMap((node) => this.block(node, { ...around, beside: true }));
    if (blocks.length === 0) return [];
    const id = this.regions.add('insertion', this.regions.hand(change, 'later', at), []);
    return [
      el('text:change-start', { 'text:change-id': id }),
      ...blocks,
      el('text:change-end', { 'text:change-id': id }),
    ];
  }

  /** Whether a block is a footnote that is tracked at its sign, which stays. */
  private isTrackedNote(node: Node): boolean {
    return node.type.name === 'footnote' && this.notes.stays(String(node.attrs['note']));
  }

  /** Footnotes that came or went while their signs stay. */
  private trackNotes(
    nodes: readonly Node[],
    kind: 'insertion' | 'deletion',
    change: number,
    at: number,
  ): void {
    for (const node of nodes.filter((one) => this.isTrackedNote(one))) {
      const hand = this.regions.hand(change, kind === 'insertion' ? 'later' : 'earlier', at);
      const lines = [
        el('text:p', { 'text:style-name': STYLES.footnote }, this.inline.plain(childrenOf(node))),
      ];
      const id = this.regions.add(kind, hand, kind === 'deletion' ? lines : []);
      const edge = (name: string): Element => el(name, { 'text:change-id': id });
      const content =
        kind === 'deletion'
          ? [edge('text:change')]
          : [edge('text:change-start'), ...lines, edge('text:change-end')];
      this.notes.hold(String(node.attrs['note']), content);
    }
  }
}

/** What a block stands in and beside. */
interface Around {
  /** The number of the quote it stands in, null outside. */
  readonly quote: number | null;
  /** Whether a quote stands before it, in either document. */
  readonly beside: boolean;
}

function boxIn(item: Node): boolean | null {
  return (item.attrs['checked'] as boolean | undefined) ?? null;
}

function boxOf(checked: boolean): Element[] {
  const box = el('text:span', { 'text:style-name': STYLES.box }, [checked ? '\u2612' : '\u2610']);
  return [box, el('text:s')];
}

/** The style of the paragraphs of a quote; a number tells neighbours apart. */
function quoteStyle(nth: number): string {
  return nth === 0 ? STYLES.quote : `${STYLES.quote}_n${nth}`;
}

/** The style of a block of code, which names its language. */
export function codeStyle(language: string): string {
  const encoded = [...language].map((char) =>
    /[A-Za-z0-9]/.test(char) ? char : `_${char.codePointAt(0)?.toString(16) ?? ''}_`,
  );
  return `Code_3a_${encoded.join('')}`;
}
