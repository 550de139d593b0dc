import type { Node } from 'prosemirror-model';
import { childrenOf } from '../../content/index.js';
import type { Container } from '../container.js';
import { INDENT, STYLES } from './names.js';

/** How a paragraph shows what it stands in. */
export interface Place {
  readonly style: string | null;
  /** The list whose mark it shows, by that list's position, and the level of the mark. */
  readonly list: number | null;
  readonly level: number;
  /** How far it is set in by itself, in twentieths of a point; null where style or list mark say so. */
  readonly left: number | null;
  /** Whether the check box it begins with is checked; null without one. */
  readonly box: boolean | null;
}

/**
 * Where everything of a document goes in a file that has paragraphs and tables only. Lists and quotes whose paragraphs tell
 * them are left to their paragraphs; others are named.
 */
export interface Layout {
  /** Places of text blocks and of blocks without text, by position. */
  readonly places: ReadonlyMap<number, Place>;
  /** Containers that have to be named, by position. A list's number is its position here. */
  readonly named: ReadonlyMap<number, Container>;
  /** Lists by position. */
  readonly lists: ReadonlyMap<number, Node>;
}

interface Around {
  readonly holder: 'body' | 'item' | 'quote' | 'plain item';
  /** How many lists and quotes are round it. */
  readonly depth: number;
  readonly list: number | null;
  readonly box: boolean | null;
}

/** The deepest level of a list mark (ECMA-376 Part 1, 17.9.3). */
const DEEPEST = 8;

export function layoutOf(doc: Node): Layout {
  const places = new Map<number, Place>();
  const named = new Map<number, Container>();
  const lists = new Map<number, Node>();

  const blocks = (parent: Node, start: number, around: Around): void => {
    let position = start;
    let previous: Node | null = null;
    for (const child of childrenOf(parent)) {
      block(child, position, around, previous);
      position += child.nodeSize;
      previous = child;
    }
  };

  const block = (node: Node, at: number, around: Around, previous: Node | null): void => {
    const { name } = node.type;
    if (name === 'quote') quote(node, at, around, previous);
    else if (/_list$/.test(name)) list(node, at, around);
    else if (name === 'table') {
      places.set(at, { style: null, list: null, level: 0, left: around.depth * INDENT, box: null });
      table(node, at);
    } else {
      const first = previous === null;
      if (name === 'code_block') {
        const language = String(node.attrs['language']);
        if (language || previous?.type.name === 'code_block') named.set(at, { kind: 'code_block', language });
      }
      places.set(at, placeOf(node, around, first));
    }
  };

  const quote = (node: Node, at: number, around: Around, previous: Node | null): void => {
    const plain =
      around.holder !== 'quote' &&
      previous?.type.name !== 'quote' &&
      childrenOf(node).every((child) => child.type.name === 'paragraph');
    if (!plain) named.set(at, { kind: 'quote' });
    blocks(node, at + 1, { holder: 'quote', depth: around.depth + 1, list: null, box: null });
  };

  const list = (node: Node, at: number, around: Around): void => {
    const plain = around.holder === 'plain item' || isPlainList(node, around.depth);
    lists.set(at, node);
    if (!plain)
      named.set(at, {
        kind: node.type.name as 'bullet_list',
        number: String(at),
        attrs: node.attrs['start'] === undefined ? null : { start: node.attrs['start'] },
      });
    let position = at + 1;
    for (const item of childrenOf(node)) {
      const box = (item.attrs['checked'] as boolean | undefined) ?? null;
      if (!plain) named.set(position, { kind: 'item', checked: box });
      const holder = plain ? 'plain item' : 'item';
      blocks(item, position + 1, { holder, depth: around.depth + 1, list: at, box });
      position += item.nodeSize;
    }
  };

  const table = (node: Node, at: number): void => {
    let row = at + 1;
    for (const cells of childrenOf(node)) {
      let cell = row + 1;
      for (const one of childrenOf(cells)) {
        blocks(one, cell + 1, { holder: 'body', depth: 0, list: null, box: null });
        cell += one.nodeSize;
      }
      row += cells.nodeSize;
    }
  };

  blocks(doc, 0, { holder: 'body', depth: 0, list: null, box: null });
  return { places, named, lists };
}

function placeOf(node: Node, { holder, depth, list, box }: Around, first: boolean): Place {
  const { name } = node.type;
  const marked = first && list !== null && name === 'paragraph';
  const level = Math.min(DEEPEST, depth - 1);
  const left = depth > 0 && !marked ? depth * INDENT : null;
  const bare = { list: null, level: 0, left, box: null };
  if (name === 'heading') return { ...bare, style: `Heading${String(node.attrs['level'])}` };
  if (name === 'code_block') return { ...bare, style: STYLES.code.id };
  if (name === 'footnote') return { ...bare, style: STYLES.footnote.id };
  if (name !== 'paragraph') return { ...bare, style: null };
  const style = holder === 'plain item' ? STYLES.item.id : holder === 'quote' ? STYLES.quote.id : null;
  return {
    style,
    list: marked ? list : null,
    level: marked ? level : 0,
    left: holder === 'quote' && depth === 1 ? null : left,
    box: marked ? box : null,
  };
}

/** Whether a list's paragraphs tell it: each item begins with one, and holds nothing but paragraphs and such lists. */
function isPlainList(list: Node, depth: number): boolean {
  return (
    depth <= DEEPEST &&
    childrenOf(list).every((item) =>
      childrenOf(item).every((block, i) =>
        /_list$/.test(block.type.name)
          ? i > 0 && isPlainList(block, depth + 1)
          : block.type.name === 'paragraph',
      ),
    )
  );
}
