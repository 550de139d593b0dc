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
import type { Hand, Hands } from '../writing.js';
import { fits, isPlainList } from './fits.js';
import type { Shown } from './inline.js';
import { inlineOf } from './inline.js';
import { LIST_STYLES, MARK_PREFIX, STYLES } from './names.js';
import { tableOf } from './table.js';

type Content = Element | string;

/** Writes a comparison as the content of a file, changes tracked; a document alone is a comparison with itself. */
export class Flow {
  readonly shown: Shown = new Map();
  /** Paragraph styles that are used beside those that are always there: the style each is based on, and its alignment. */
  readonly derived = new Map<string, { readonly parent: string; readonly align: string }>();
  /** Languages that code is in. */
  readonly languages = new Set<string>();
  /** Widths of columns in pixels that are used. */
  readonly widths = new Set<number>();
  private readonly regions: Element[] = [];
  private sections = 0;
  private quotes = 0;

  constructor(
    private readonly hands: Hands,
    private readonly picture: (hash: string) => Picture | null,
  ) {}

  /** What was tracked (ODF 1.2 Part 1, 5.5.1), or null when nothing was. */
  get tracked(): Element | null {
    return this.regions.length > 0 ? el('text:tracked-changes', {}, this.regions) : null;
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
        if (later.isTextblock) return [this.paragraph(later, this.inline(kids, a + 1, b + 1), around)];
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
      default:
        return [this.paragraph(node, inlineOf(childrenOf(node), this.picture, this.shown), around)];
    }
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
      name === 'code_block'
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

  /** Inline content of a comparison. A change of form is written as text replaced: ODF tracks none that could be rejected. */
  private inline(parts: readonly Union[], a: number, b: number): Content[] {
    let [x, y] = [a, b];
    return parts.flatMap((part) => {
      const content = this.inlinePart(part, x, y);
      const [one, other] = spans(part);
      x += one;
      y += other;
      return content;
    });
  }

  private inlinePart(part: Union, a: number, b: number): Content[] {
    switch (part.kind) {
      case 'keep':
        return inlineOf([part.node], this.picture, this.shown);
      case 'pair':
        return part.form === null
          ? inlineOf([part.later], this.picture, this.shown)
          : this.replaced([part.earlier], [part.later], part.form.id, a, b);
      case 'difference':
        return this.replaced(part.earlier, part.later, part.change.id, a, b);
      case 'move':
        return part.at === 'earlier'
          ? this.replaced(part.moved.earlier, [], part.moved.change.id, a, b)
          : this.replaced([], part.moved.later, part.moved.change.id, a, b);
      default:
        return [];
    }
  }

  private replaced(
    earlier: readonly Node[],
    later: readonly Node[],
    change: number,
    a: number,
    b: number,
  ): Content[] {
    const gone = this.stretches(earlier, change, 'earlier', a).map(({ nodes, hand }) => {
      const paragraph = el('text:p', {}, inlineOf(nodes, this.picture, this.shown));
      return el('text:change', { 'text:change-id': this.region('deletion', hand, [paragraph]) });
    });
    const come = this.stretches(later, change, 'later', b).flatMap(({ nodes, hand }) => {
      const id = this.region('insertion', hand, []);
      return [
        el('text:change-start', { 'text:change-id': id }),
        ...inlineOf(nodes, this.picture, this.shown),
        el('text:change-end', { 'text:change-id': id }),
      ];
    });
    return [...gone, ...come];
  }

  /** Inline nodes by who changed them. */
  private stretches(
    nodes: readonly Node[],
    change: number,
    side: Side,
    at: number,
  ): { nodes: Node[]; hand: Hand }[] {
    const out: { nodes: Node[]; hand: Hand }[] = [];
    let position = at;
    for (const node of nodes) {
      const [from, to] = [position, position + node.nodeSize];
      position = to;
      const hands = this.hands(change, side, from, to);
      const pieces = node.isText && hands.length > 1 ? hands : hands.slice(0, 1);
      const all = pieces.length > 0 ? pieces : [{ author: '', at: '', from, to }];
      all.forEach((hand, i) => {
        const cut = node.isText
          ? node.cut(
              i === 0 ? 0 : hand.from - from,
              i === all.length - 1 ? node.nodeSize : (all[i + 1]?.from ?? to) - from,
            )
          : node;
        const previous = out.at(-1);
        if (previous?.hand.author === hand.author && previous.hand.at === hand.at) previous.nodes.push(cut);
        else out.push({ nodes: [cut], hand });
      });
    }
    return out;
  }

  private removed(nodes: readonly Node[], change: number, at: number, { quote }: Around): Element[] {
    if (nodes.length === 0) return [];
    const blocks = nodes.flatMap((node) => this.block(node, { quote, beside: true }));
    const id = this.region('deletion', this.hand(change, 'earlier', at), blocks);
    return [el('text:change', { 'text:change-id': id })];
  }

  private inserted(nodes: readonly Node[], change: number, at: number, around: Around): Element[] {
    if (nodes.length === 0) return [];
    const id = this.region('insertion', this.hand(change, 'later', at), []);
    return [
      el('text:change-start', { 'text:change-id': id }),
      ...nodes.flatMap((node) => this.block(node, { ...around, beside: true })),
      el('text:change-end', { 'text:change-id': id }),
    ];
  }

  private hand(change: number, side: Side, at: number): Hand {
    return this.hands(change, side, at, at + 1)[0] ?? { author: '', at: '' };
  }

  /** A region of tracked changes (5.5.2), and its id. */
  private region(kind: 'insertion' | 'deletion', { author, at }: Hand, content: readonly Element[]): string {
    const id = `ct${this.regions.length + 1}`;
    const info = el('office:change-info', {}, [
      el('dc:creator', {}, [author]),
      el('dc:date', {}, [at ? at.slice(0, 19) : '1970-01-01T00:00:00']),
    ]);
    this.regions.push(
      el('text:changed-region', { 'xml:id': id, 'text:id': id }, [
        el(`text:${kind}`, {}, [info, ...content]),
      ]),
    );
    return id;
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
