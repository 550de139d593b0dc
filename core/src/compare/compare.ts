import type { Node } from 'prosemirror-model';
import { alignBlocks } from './align.js';
import type { Change } from './changes.js';
import { listChanges } from './changes.js';
import { compareInline } from './inline.js';
import { Lexicon } from './lexicon.js';
import type { Pair, Union } from './union.js';

/** The result of comparing two documents: one tree of both, and its changes as a flat list in document order. */
export interface Comparison {
  readonly earlier: Node;
  readonly later: Node;
  readonly union: Pair;
  readonly changes: readonly Change[];
}

/**
 * Compares two documents of one schema by content alone. Blocks are aligned first, then words inside paired text blocks.
 * Exact: `assemble` with every change taken gives `later` node for node, with none `earlier`.
 */
export function compare(earlier: Node, later: Node): Comparison {
  const lexicon = new Lexicon();
  const union = pairNodes(earlier, later, lexicon);
  const changes = listChanges(union, lexicon);
  return { earlier, later, union, changes };
}

function pairNodes(a: Node, b: Node, lexicon: Lexicon): Pair {
  const form = a.hasMarkup(b.type, b.attrs, b.marks) ? null : -1;
  const kids = a.isTextblock && b.isTextblock ? compareInline(a, b, lexicon) : compareChildren(a, b, lexicon);
  return { kind: 'pair', earlier: a, later: b, form, kids };
}

function compareChildren(a: Node, b: Node, lexicon: Lexicon): Union[] {
  const [one, other] = [children(a), children(b)];
  const byPlace = a.type.name === 'table_row' && one.length === other.length;
  const pairs = byPlace ? one.map((_, i) => ({ a: i, b: i })) : alignBlocks(one, other, lexicon);
  const out: Union[] = [];
  let [x, y] = [0, 0];
  for (const pair of [...pairs, { a: one.length, b: other.length }]) {
    if (pair.a > x || pair.b > y) {
      out.push({
        kind: 'difference',
        change: -1,
        earlier: one.slice(x, pair.a),
        later: other.slice(y, pair.b),
      });
    }
    const [p, q] = [one[pair.a], other[pair.b]];
    if (p && q)
      out.push(lexicon.block(p) === lexicon.block(q) ? { kind: 'keep', node: q } : pairNodes(p, q, lexicon));
    x = pair.a + 1;
    y = pair.b + 1;
  }
  return out;
}

function children(node: Node): Node[] {
  const out: Node[] = [];
  node.forEach((child) => out.push(child));
  return out;
}
