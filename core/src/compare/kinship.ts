import type { Node } from 'prosemirror-model';
import { childrenOf, familyOf, isRectangular, roleOf, traitsOf } from '../content/index.js';

/** Whether two nodes can be one node in two forms: a heading and a paragraph can, a table and a list cannot. */
export function mayPair(a: Node, b: Node): boolean {
  if (a.isLeaf || b.isLeaf) return a.type === b.type && traitsOf(a.type).formed === true;
  if (familyOf(a) !== familyOf(b)) return false;
  if (roleOf(a) === 'row') return (isPlainRow(a) && isPlainRow(b)) || spansOf(a) === spansOf(b);
  return roleOf(a) !== 'table' || answering(a, b) !== null;
}

/**
 * What of two tables can answer to each other: rows and columns, where no cell spans anything; rows, where none reaches into another and all are
 * of one width, so that any mixture of both is a table; cells by their places, where every cell spans as much as the other's; or nothing.
 */
export function answering(a: Node, b: Node): 'grid' | 'rows' | 'places' | null {
  if (!isRectangular(a) || !isRectangular(b)) return null;
  const [one, other] = [childrenOf(a), childrenOf(b)];
  if (one.every(isPlainRow) && other.every(isPlainRow)) return 'grid';
  const widths = new Set([...one, ...other].map(widthOf));
  if (widths.size === 1 && !widths.has(null)) return 'rows';
  const isSame =
    one.length === other.length && one.every((row, i) => spansOf(row) === spansOf(other[i] as Node));
  return isSame ? 'places' : null;
}

function isPlainRow(row: Node): boolean {
  return row.children.every(({ attrs }) => attrs['colspan'] === 1 && attrs['rowspan'] === 1);
}

/** Columns of a row; null where a cell of it reaches into another row. */
function widthOf(row: Node): number | null {
  let width = 0;
  for (const { attrs } of row.children) {
    if (attrs['rowspan'] !== 1) return null;
    width += Number(attrs['colspan']);
  }
  return width;
}

function spansOf(row: Node): string {
  return row.children.map(({ attrs }) => `${attrs['colspan']},${attrs['rowspan']}`).join(' ');
}

/** Whether a node is an item of a list. */
export function isItem(node: Node): boolean {
  return roleOf(node) === 'item';
}
