import type { Attrs, Node } from 'prosemirror-model';
import { childrenOf } from '../../content/index.js';
import { textSchema as schema } from '../../kinds/text/index.js';
import type { Container } from '../container.js';
import type { ReadPiece } from '../pieces.js';
import { codeOf, drawBox, stretchesOf, takeBox } from '../pieces.js';

/** A paragraph while it is being read: text may be added to it until the file says that it ends. */
export interface OpenText {
  readonly kind: 'text';
  readonly form: 'paragraph' | 'quote' | 'code' | 'heading' | 'rule';
  readonly level: number;
  readonly align: string;
  /** The language of a block of code that stands by itself; null for a line of one. */
  readonly language: string | null;
  /** Tells the paragraphs of a quote from those of its neighbour. */
  readonly quote: string;
  readonly pieces: ReadPiece[];
}

/** What a file holds, in its order. */
export type Item =
  | OpenText
  | { readonly kind: 'block'; readonly node: Node }
  | { readonly kind: 'named'; readonly container: Container; readonly items: Item[] }
  | {
      readonly kind: 'list';
      readonly list: 'bullet' | 'ordered';
      readonly start: number;
      readonly items: readonly Item[][];
      /** Whether it only shows the mark of the item of a named list. */
      readonly mark: boolean;
    };

/** Blocks from what was read; in a quote that is named, a paragraph in that style is just one. */
export function blocksOf(items: readonly Item[], inQuote = false): Node[] {
  const out: Node[] = [];
  const gathered: { form: string; quote: string; lines: { content: readonly Node[]; align: string }[] } = {
    form: '',
    quote: '',
    lines: [],
  };
  const flush = (): void => {
    const { form, lines } = gathered;
    gathered.lines = [];
    if (lines.length === 0) return;
    const paragraphs = lines.map(({ content, align }) => schema.node('paragraph', { align }, content));
    out.push(
      form === 'code' ? codeOf(lines.map(({ content }) => content)) : schema.node('quote', null, paragraphs),
    );
  };
  for (const item of items) {
    if (item.kind !== 'text') {
      flush();
      out.push(...heldIn(item, inQuote));
      continue;
    }
    const { form, align, language } = item;
    const gathers = (form === 'code' && language === null) || (form === 'quote' && !inQuote);
    for (const { content, parts, checked } of stretchesOf(item.pieces, form === 'code')) {
      const told = checked === null ? content : (takeBox(content, checked)?.content ?? content);
      const empty = content.length === 0 && (parts !== null || item.pieces.some((piece) => 'parts' in piece));
      if (!empty && gathers) {
        if (gathered.form !== form || gathered.quote !== item.quote) flush();
        gathered.form = form;
        gathered.quote = item.quote;
        gathered.lines.push({ content: told, align });
      } else if (!empty) {
        flush();
        out.push(textblock(item, told));
      }
      if (parts) {
        flush();
        out.push(schema.node(parts));
      }
    }
  }
  flush();
  return out;
}

function textblock({ form, level, align, language }: OpenText, content: readonly Node[]): Node {
  if (form === 'heading') return schema.node('heading', { level, align }, content);
  if (form === 'code') return codeOf([content], language ?? '');
  if (form === 'rule' && content.length === 0) return schema.node('rule');
  return schema.node('paragraph', { align }, content);
}

function heldIn(item: Exclude<Item, OpenText>, inQuote: boolean): Node[] {
  switch (item.kind) {
    case 'block':
      return [item.node];
    case 'named':
      return named(item.container, item.items);
    case 'list':
      return item.mark ? item.items.flatMap((items) => blocksOf(items, inQuote)) : list(item);
  }
}

/** A named container; nothing where it holds nothing in the text that is read. */
function named(container: Container, items: readonly Item[]): Node[] {
  switch (container.kind) {
    case 'quote': {
      const blocks = blocksOf(items, true);
      return blocks.length > 0 ? [schema.node('quote', null, blocks)] : [];
    }
    case 'bullet_list':
    case 'ordered_list':
    case 'check_list': {
      const nodes = items.flatMap((item) =>
        item.kind === 'named' && item.container.kind === 'item'
          ? itemOf(item.container.checked, blocksOf(item.items))
          : [],
      );
      const fits = nodes.every(
        ({ type }) => (type.name === 'check_item') === (container.kind === 'check_list'),
      );
      return nodes.length > 0 && fits
        ? [schema.node(container.kind, container.attrs, nodes)]
        : nodes.flatMap(childrenOf);
    }
    default:
      return blocksOf(items);
  }
}

function itemOf(checked: boolean | null, blocks: readonly Node[]): Node[] {
  if (blocks.length === 0) return [];
  const attrs: Attrs | null = checked === null ? null : { checked };
  return [schema.node(checked === null ? 'list_item' : 'check_item', attrs, blocks)];
}

/** A list. One whose items all begin with a check box is a check list. */
function list({ list: kind, start, items }: Extract<Item, { kind: 'list' }>): Node[] {
  const read = items
    .map((item) => ({ blocks: blocksOf(item), box: boxOf(item) }))
    .filter(({ blocks }) => blocks.length > 0);
  if (read.length === 0) return [];
  if (kind === 'bullet' && read.every(({ box }) => box !== null))
    return [
      schema.node(
        'check_list',
        null,
        read.map(({ blocks, box }) =>
          schema.node('check_item', { checked: box?.checked }, [
            replaced(blocks, box?.content ?? []),
            ...blocks.slice(1),
          ]),
        ),
      ),
    ];
  const nodes = read.map(({ blocks, box }) =>
    schema.node(
      'list_item',
      null,
      box?.real ? [replaced(blocks, drawBox(box.checked, box.content)), ...blocks.slice(1)] : blocks,
    ),
  );
  return [
    kind === 'bullet'
      ? schema.node('bullet_list', null, nodes)
      : schema.node('ordered_list', { start: start >= 0 && start <= 1_000_000 ? start : 1 }, nodes),
  ];
}

function replaced([first]: readonly Node[], content: readonly Node[]): Node {
  const { type, attrs } = first as Node;
  return type.create(attrs, content);
}

/** The check box that an item's first paragraph begins with, and the paragraph without it. */
function boxOf(items: readonly Item[]): { checked: boolean; content: readonly Node[]; real: boolean } | null {
  const [first] = items;
  if (first?.kind !== 'text' || first.form === 'heading' || first.form === 'code') return null;
  const [stretch] = stretchesOf(first.pieces, false);
  if (!stretch) return null;
  const box = takeBox(stretch.content, stretch.checked);
  return box && { ...box, real: stretch.checked !== null };
}
