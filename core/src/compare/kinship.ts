import type { Node } from 'prosemirror-model';
import { isRectangular } from '../content/index.js';

const FAMILIES: Record<string, string> = {
  heading: 'paragraph',
  ordered_list: 'bullet_list',
  check_list: 'bullet_list',
  check_item: 'list_item',
  table_header: 'table_cell',
};

/** Whether two nodes can be one node in two forms: a heading and a paragraph can, a table and a list cannot. */
export function mayPair(a: Node, b: Node): boolean {
  const family = (node: Node): string => FAMILIES[node.type.name] ?? node.type.name;
  if (a.isLeaf || b.isLeaf) return a.type === b.type && a.type.name === 'page_setup';
  if (family(a) !== family(b)) return false;
  return a.type.name !== 'table' || sameGrid(a, b);
}

/** Whether two tables have plain grids, without spans, so that rows and columns can be compared. */
function sameGrid(a: Node, b: Node): boolean {
  return isPlainGrid(a) && isPlainGrid(b);
}

function isPlainGrid(table: Node): boolean {
  let plain = isRectangular(table);
  table.forEach((row) =>
    row.forEach((cell) => {
      if (cell.attrs['colspan'] !== 1 || cell.attrs['rowspan'] !== 1) plain = false;
    }),
  );
  return plain;
}
