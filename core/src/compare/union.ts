import type { Node } from 'prosemirror-model';
import { plainText } from '../content/index.js';

/**
 * A comparison as one tree that holds every node and character of both documents exactly once, each guarded by the
 * change that decides about it.
 */
export type Union = Keep | Pair | Seams | Break | Difference | Sole | Move;

/** Stands for a change until it is numbered; parts that share one are decided together. */
export interface Handle {
  id: number;
}

/** Which document something stands in. */
export type Side = 'earlier' | 'later';

/** Equal on both sides. Text may be part of a text node, which is then cut whenever it is asked for. */
export interface Keep {
  readonly kind: 'keep';
  readonly node: Node;
  /** Positions it fills. */
  readonly size: number;
}

/** One node in two forms. Leaves and stretches of text have no kids. */
export interface Pair {
  readonly kind: 'pair';
  readonly earlier: Node;
  readonly later: Node;
  /** The change that decides which form, or null when both forms are equal. */
  readonly form: Handle | null;
  readonly kids: readonly Union[];
  /** For a table whose columns differ: its rows and columns, which assembling goes by. */
  readonly grid?: Grid;
}

/** Text blocks that were one on one side, or items that hold one each: their inline content in one row, with breaks. */
export interface Seams {
  readonly kind: 'seams';
  readonly earlier: readonly Node[];
  readonly later: readonly Node[];
  /** Form of the first block. */
  readonly form: Handle | null;
  readonly kids: readonly Union[];
}

/** Where one side ends a text block and begins another, and the other goes on, perhaps over a space. */
export interface Break {
  readonly kind: 'break';
  readonly change: Handle;
  readonly side: Side;
  /** The block that begins here. */
  readonly shape: Node;
  /** What the other side has in its place. */
  readonly gap: readonly Node[];
  /** Whether all the text of the block that begins here came or went with it. */
  readonly filled: boolean;
}

/** Content that only one side has, or that takes the place of other content. What is inline is cut when asked for. */
export interface Difference {
  readonly kind: 'difference';
  readonly change: Handle;
  readonly earlier: readonly Node[];
  readonly later: readonly Node[];
  /** Positions either side fills. */
  readonly sizes: readonly [earlier: number, later: number];
  /** Whether it stands inside a text block. */
  readonly inline: boolean;
  /** Its plain text on a side. */
  text(side: Side): string;
  /** For a block that also stands elsewhere in the earlier document: where. */
  readonly copyOf?: { readonly from: number; readonly to: number };
}

/** A container that only one side has, round blocks that both have. */
export interface Sole {
  readonly kind: 'sole';
  change: Handle;
  readonly side: Side;
  readonly shape: Node;
  readonly kids: readonly Union[];
}

/** One of the two places of something that moved. */
export interface Move {
  readonly kind: 'move';
  readonly at: Side;
  readonly moved: Moved;
}

/** What moved, from where and to where. Both places are decided by one change. */
export interface Moved {
  change: Handle;
  readonly earlier: readonly Node[];
  readonly later: readonly Node[];
  /** The two forms as one; null for a stretch of text, whose forms are taken whole where it has no `words`. */
  readonly body: Keep | Pair | null;
  /** For a stretch of text that was edited on its way: the two forms as one. */
  readonly words?: readonly Union[];
  /** Kinds of the nodes round it on either side. */
  readonly parents: { readonly earlier: string; readonly later: string };
  /** Positions in the two documents, known once the whole tree is. */
  from: number;
  to: number;
  /** The positions in the other document at its two places. */
  across: { from: number; to: number };
  /** Whether it stayed where it was in the order of reading and only what is round it changed. */
  regrouped: boolean;
  /** Whether that is told with what came between, or went. */
  carried?: boolean;
  /** Whether it is a cell of a column that moved. */
  readonly ofColumn?: boolean;
}

/** A table's rows and columns, each on one side or both. */
export interface Grid {
  readonly columns: readonly Line[];
  readonly rows: readonly (Line & { readonly cells: readonly Cell[] })[];
}

/** A row or a column; without a change when both sides have it. */
export interface Line {
  readonly change: Handle | null;
  readonly side: Side | null;
  /** Whether this is one of the two places of a line that moved. */
  readonly moved?: boolean;
}

export interface Cell {
  readonly earlier: Node | null;
  readonly later: Node | null;
  /** Both forms as one, where both sides have it. */
  readonly both: Keep | Pair | null;
}

export function keep(node: Node): Keep {
  return { kind: 'keep', node, size: node.nodeSize };
}

export function difference(
  earlier: readonly Node[],
  later: readonly Node[],
  change: Handle = { id: -1 },
  copyOf?: Difference['copyOf'],
): Difference {
  return {
    kind: 'difference',
    change,
    earlier,
    later,
    sizes: [sizeOf(earlier), sizeOf(later)],
    inline: [...earlier, ...later].every((node) => node.isInline),
    text: (side) => textOf(side === 'earlier' ? earlier : later),
    ...(copyOf ? { copyOf } : {}),
  };
}

/** The plain text of nodes: of blocks a line each. */
export function textOf(nodes: readonly Node[]): string {
  return nodes.map(plainText).join(nodes[0]?.isInline ? '' : '\n');
}

export function sizeOf(nodes: readonly Node[]): number {
  return nodes.reduce((sum, node) => sum + node.nodeSize, 0);
}

/** The text of what seams join: of an item, the only block in it. */
export function textIn(block: Node): Node {
  return block.isTextblock ? block : (block.firstChild as Node);
}

/** How many nodes lie round that text. */
export function depthIn(block: Node): number {
  return block.isTextblock ? 1 : 2;
}

/** How many positions a part of a union fills in the earlier and in the later document. */
export function spans(part: Union): readonly [number, number] {
  switch (part.kind) {
    case 'keep':
      return [part.size, part.size];
    case 'pair':
      return [part.earlier.nodeSize, part.later.nodeSize];
    case 'difference':
      return part.sizes;
    case 'seams':
      return [sizeOf(part.earlier), sizeOf(part.later)];
    case 'break':
      return part.side === 'later'
        ? [sizeOf(part.gap), 2 * depthIn(part.shape)]
        : [2 * depthIn(part.shape), sizeOf(part.gap)];
    case 'sole':
      return part.side === 'earlier' ? [part.shape.nodeSize, 0] : [0, part.shape.nodeSize];
    case 'move':
      return part.at === 'earlier' ? [sizeOf(part.moved.earlier), 0] : [0, sizeOf(part.moved.later)];
  }
}

/** Visits the differences of a union in which nothing moved yet, in document order. */
export function eachDifference(union: Union, visit: (part: Difference) => void): void {
  if (union.kind === 'difference') visit(union);
  else if ('kids' in union) for (const kid of union.kids) if (kid.kind !== 'keep') eachDifference(kid, visit);
}

/**
 * Visits a union in document order with the positions at which each part begins in either document. What moved is gone
 * into at its later place, or not at all.
 */
export function walk(
  union: Union,
  a: number,
  b: number,
  visit: (part: Union, a: number, b: number) => void,
  intoMoves = true,
): void {
  visit(union, a, b);
  if (union.kind === 'move') {
    const { at, moved } = union;
    if (!intoMoves || at !== 'later') return;
    if (moved.body) walk(moved.body, moved.from, b, visit);
    if (moved.words) walkAll(moved.words, moved.from, b, visit, intoMoves);
    return;
  }
  if (!('kids' in union)) return;
  let [x, y] = [a, b];
  const depth = union.kind === 'seams' ? depthIn(union.later[0] as Node) : 1;
  if (union.kind !== 'sole' || union.side === 'earlier') x += depth;
  if (union.kind !== 'sole' || union.side === 'later') y += depth;
  walkAll(union.kids, x, y, visit, intoMoves);
}

function walkAll(
  parts: readonly Union[],
  x: number,
  y: number,
  visit: (part: Union, a: number, b: number) => void,
  intoMoves: boolean,
): void {
  for (const kid of parts) {
    if (kid.kind === 'keep') {
      visit(kid, x, y);
      x += kid.size;
      y += kid.size;
      continue;
    }
    walk(kid, x, y, visit, intoMoves);
    const [earlier, later] = spans(kid);
    x += earlier;
    y += later;
  }
}
