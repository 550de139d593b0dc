import type { Node } from 'prosemirror-model';
import { childrenOf } from '../../content/index.js';
import { textSchema as schema } from '../../kinds/text/index.js';
import { codeOf, drawBox } from '../pieces.js';
import type { Level, ParagraphKind } from './sheet.js';

/** A paragraph of a file, which has no containers but tables and controls: what holds it follows from its neighbours. */
export interface FlatText {
  readonly kind: 'text';
  readonly form: ParagraphKind;
  readonly numbering: (Level & { readonly id: string; readonly level: number }) | null;
  readonly align: string;
  readonly content: readonly Node[];
  /** Whether a leading check box is checked; null without one. */
  readonly checked: boolean | null;
  /** How far it is set in by itself, in twentieths of a point. */
  readonly left: number | null;
}

/** A paragraph, or a block that stands by itself. */
export type Flat = FlatText | { readonly kind: 'block'; readonly node: Node };

/** What paragraphs stand in, as far as that changes what they are. */
export interface Holder {
  /** In a container that says it is a quote, a paragraph in that style is just one. */
  readonly quote: boolean;
  /** In an item of a list with this number, the paragraph that shows the list's mark is just one. */
  readonly list: string | null;
}

interface OpenList {
  readonly id: string;
  readonly level: number;
  readonly left: number;
  readonly kind: 'bullet' | 'ordered';
  readonly start: number;
  readonly items: { readonly checked: boolean | null; readonly blocks: Node[] }[];
  readonly into: Node[];
}

/** Lists, quotes and code from paragraphs that follow each other. */
export function nest(flats: readonly Flat[], holder: Holder): Node[] {
  const out: Node[] = [];
  const open: OpenList[] = [];
  const close = (): void => {
    const list = open.pop();
    if (list) list.into.push(listOf(list));
  };
  const closeAll = (): void => {
    while (open.length > 0) close();
  };
  const run: { kind: string; flats: FlatText[] } = { kind: '', flats: [] };
  const flush = (): void => {
    const { kind, flats } = run;
    if (flats.length > 0)
      out.push(
        kind === 'quote'
          ? schema.node('quote', null, flats.map(paragraphOf))
          : codeOf(flats.map(({ content }) => content)),
      );
    run.flats = [];
  };
  for (const flat of flats) {
    if (flat.kind === 'block') {
      flush();
      closeAll();
      out.push(flat.node);
      continue;
    }
    const numbering = flat.numbering?.id === holder.list ? null : flat.numbering;
    const home =
      numbering?.kind === 'blank' || (!numbering && flat.form.kind === 'item') ? homeOf(open, flat) : null;
    if (home) {
      while (open.at(-1) !== home) close();
      home.items.at(-1)?.blocks.push(paragraphOf(flat));
    } else if (numbering && numbering.kind !== 'blank' && flat.form.kind !== 'heading') {
      flush();
      while (open.length > 0 && opensBeside(open.at(-1) as OpenList, numbering)) close();
      const top = open.at(-1);
      const item = { checked: flat.checked, blocks: [paragraphOf(flat)] };
      if (top?.level === numbering.level) top.items.push(item);
      else {
        const { id, level, left, kind, start } = numbering;
        open.push({ id, level, left, kind, start, items: [item], into: top?.items.at(-1)?.blocks ?? out });
      }
    } else {
      closeAll();
      const kind = flat.form.kind;
      const gathers = kind === 'code' || (kind === 'quote' && !holder.quote);
      if (!gathers || run.kind !== kind) flush();
      run.kind = kind;
      if (gathers) run.flats.push(flat);
      else out.push(blockOf(flat));
    }
  }
  flush();
  closeAll();
  return out;
}

/** Whether a list ends where a paragraph of this numbering begins. */
function opensBeside(top: OpenList, numbering: { id: string; level: number }): boolean {
  return top.level > numbering.level || (top.level === numbering.level && top.id !== numbering.id);
}

/** The open list whose last item a paragraph without a mark goes on with, by how far it is set in. */
function homeOf(open: readonly OpenList[], { numbering, left }: FlatText): OpenList | null {
  if (numbering) return open.findLast(({ level }) => level <= numbering.level) ?? null;
  return open.findLast((list) => left === null || list.left <= left) ?? null;
}

function paragraphOf(flat: FlatText): Node {
  return schema.node('paragraph', { align: flat.align }, flat.content);
}

function blockOf(flat: FlatText): Node {
  return flat.form.kind === 'heading'
    ? schema.node('heading', { level: flat.form.level, align: flat.align }, flat.content)
    : paragraphOf(flat);
}

function listOf({ kind, start, items }: OpenList): Node {
  if (kind === 'bullet' && items.every(({ checked }) => checked !== null))
    return schema.node(
      'check_list',
      null,
      items.map(({ checked, blocks }) => schema.node('check_item', { checked }, blocks)),
    );
  const nodes = items.map(({ checked, blocks }) => schema.node('list_item', null, unboxed(checked, blocks)));
  return kind === 'bullet'
    ? schema.node('bullet_list', null, nodes)
    : schema.node('ordered_list', { start: Math.min(1_000_000, Math.max(0, start)) }, nodes);
}

/** An item of a list of which not all have check boxes shows its own as text. */
function unboxed(checked: boolean | null, blocks: readonly Node[]): readonly Node[] {
  const [first, ...rest] = blocks;
  if (checked === null || !first) return blocks;
  return [first.type.create(first.attrs, drawBox(checked, childrenOf(first))), ...rest];
}
