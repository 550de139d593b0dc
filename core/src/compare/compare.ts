import type { Node } from 'prosemirror-model';
import { childrenOf } from '../content/index.js';
import type { Outlook } from './align.js';
import { alignBlocks } from './align.js';
import type { Change } from './changes.js';
import { listChanges } from './changes.js';
import { compareInline } from './inline.js';
import { Lexicon } from './lexicon.js';
import { findMoves } from './moves.js';
import { withSeams } from './seams.js';
import { compareGrid } from './table.js';
import type { Handle, Keep, Pair, Side, Union } from './union.js';

/** The result of comparing two documents: one tree of both, and its changes as a flat list in document order. */
export interface Comparison {
  readonly earlier: Node;
  readonly later: Node;
  readonly union: Pair;
  readonly changes: readonly Change[];
}

/**
 * Compares two documents of one schema by content alone. Blocks are aligned first, then words inside paired text blocks;
 * what is left on both sides is searched for moves and copies. Exact: `assemble` with every change taken gives `later`
 * node for node, with none `earlier`. The method and its sources: docs/comparison.md.
 */
export function compare(earlier: Node, later: Node): Comparison {
  const comparer = new Comparer(earlier, later);
  const union = findMoves(comparer.root(), earlier, comparer.lexicon, (a, b) => comparer.pair(a, b));
  return { earlier, later, union, changes: listChanges(union) };
}

class Comparer implements Outlook {
  readonly lexicon = new Lexicon();
  private readonly counts: Record<Side, Map<number, number>>;

  constructor(
    private readonly earlier: Node,
    private readonly later: Node,
  ) {
    this.counts = { earlier: this.count(earlier), later: this.count(later) };
  }

  root(): Pair {
    return this.pairNodes(this.earlier, this.later);
  }

  /** Two nodes as one. `above` decides about a change of kind that follows from that of the node round them. */
  pair(a: Node, b: Node, above: Handle | null = null): Keep | Pair {
    const equal = this.lexicon.block(a) === this.lexicon.block(b);
    return equal ? { kind: 'keep', node: b } : this.pairNodes(a, b, above);
  }

  /** A block of several words that the other document has as often is an exact copy of one there. */
  elsewhere(block: Node, side: Side): boolean {
    const number = this.lexicon.block(block);
    const there = this.counts[side === 'earlier' ? 'later' : 'earlier'].get(number) ?? 0;
    return there > 0 && there >= (this.counts[side].get(number) ?? 0) && this.lexicon.count(block) >= 3;
  }

  /** How often each block of a document occurs in it. */
  private count(doc: Node): Map<number, number> {
    const counts = new Map<number, number>();
    doc.descendants((node) => {
      const number = this.lexicon.block(node);
      counts.set(number, (counts.get(number) ?? 0) + 1);
      return !node.isTextblock;
    });
    return counts;
  }

  private pairNodes(a: Node, b: Node, above: Handle | null = null): Pair {
    const form = this.formOf(a, b, above);
    if (a.isTextblock && b.isTextblock)
      return { kind: 'pair', earlier: a, later: b, form, kids: compareInline([a], [b], this.lexicon) };
    if (a.type.name === 'table') {
      const table = compareGrid(a, b, this, (p, q) => this.pair(p, q));
      if (table) return { kind: 'pair', earlier: a, later: b, form, ...table };
    }
    return { kind: 'pair', earlier: a, later: b, form, kids: this.compareChildren(a, b, form) };
  }

  private formOf(a: Node, b: Node, above: Handle | null = null): Handle | null {
    if (a.hasMarkup(b.type, b.attrs, b.marks)) return null;
    return a.type !== b.type && above ? above : { id: -1 };
  }

  /** Items of a list that became another kind of list, and cells of a row that became headings, change together. */
  private compareChildren(a: Node, b: Node, form: Handle | null): Union[] {
    const [one, other] = [childrenOf(a), childrenOf(b)];
    const isRow = a.type.name === 'table_row';
    const above = isRow ? { id: -1 } : form;
    const byPlace = isRow && one.length === other.length;
    const pairs = byPlace ? one.map((_, i) => ({ a: i, b: i })) : alignBlocks(one, other, this);
    const out: Union[] = [];
    let [x, y] = [0, 0];
    const matches = withSeams(pairs, one, other, this.lexicon);
    for (const match of [...matches, { a: one.length, aEnd: 0, b: other.length, bEnd: 0 }]) {
      if (match.a > x || match.b > y) {
        const [earlier, later] = [one.slice(x, match.a), other.slice(y, match.b)];
        out.push({ kind: 'difference', change: { id: -1 }, earlier, later });
      }
      if (match.aEnd > 0)
        out.push(this.matched(one.slice(match.a, match.aEnd), other.slice(match.b, match.bEnd), above));
      [x, y] = [match.aEnd, match.bEnd];
    }
    return out;
  }

  private matched(earlier: readonly Node[], later: readonly Node[], above: Handle | null): Union {
    const [a, b] = [earlier[0] as Node, later[0] as Node];
    if (earlier.length === 1 && later.length === 1) return this.pair(a, b, above);
    const form = this.formOf(a, b);
    return { kind: 'seams', earlier, later, form, kids: compareInline(earlier, later, this.lexicon) };
  }
}
