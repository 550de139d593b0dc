import type { Node } from 'prosemirror-model';

/**
 * A comparison as one tree that holds every node and character of both documents exactly once, each guarded by the
 * change that decides about it.
 */
export type Union = Keep | Pair | Difference;

/** Equal on both sides. Text may be part of a text node. */
export interface Keep {
  readonly kind: 'keep';
  readonly node: Node;
}

/** One node in two forms. Leaves and stretches of text have no kids. */
export interface Pair {
  readonly kind: 'pair';
  readonly earlier: Node;
  readonly later: Node;
  /** The change that decides which form, or null when both forms are equal. */
  form: number | null;
  readonly kids: readonly Union[];
}

/** Content that only one side has, or that takes the place of other content. */
export interface Difference {
  readonly kind: 'difference';
  change: number;
  readonly earlier: readonly Node[];
  readonly later: readonly Node[];
}

export function sizeOf(nodes: readonly Node[]): number {
  return nodes.reduce((sum, node) => sum + node.nodeSize, 0);
}

/** Visits a union in document order with the positions at which each part begins in either document. */
export function walk(
  union: Union,
  a: number,
  b: number,
  visit: (part: Union, a: number, b: number) => void,
): void {
  visit(union, a, b);
  if (union.kind !== 'pair') return;
  let [x, y] = [a + 1, b + 1];
  for (const kid of union.kids) {
    walk(kid, x, y, visit);
    const [earlier, later] = spans(kid);
    x += earlier;
    y += later;
  }
}

/** How many positions a part of a union fills in the earlier and in the later document. */
export function spans(part: Union): [number, number] {
  if (part.kind === 'keep') return [part.node.nodeSize, part.node.nodeSize];
  if (part.kind === 'pair') return [part.earlier.nodeSize, part.later.nodeSize];
  return [sizeOf(part.earlier), sizeOf(part.later)];
}
