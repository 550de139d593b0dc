import type { Node } from 'prosemirror-model';
import { childrenOf, roleOf } from '../content/index.js';
import type { Outlook } from './align.js';
import { alignBlocks, withLone } from './align.js';
import type { Change } from './changes.js';
import { answering } from './kinship.js';
import { keyedPairs } from './keyed.js';
import { listChanges } from './listed.js';
import { compareInline } from './inline.js';
import { Lexicon } from './lexicon.js';
import { findMoves } from './moves.js';
import { single, withSeams } from './seams.js';
import { compareGrid } from './table.js';
import type { Handle, Keep, Pair, Side, Union } from './union.js';
import { difference, keep, textIn } from './union.js';

/** The result of comparing two documents: one tree of both, and its changes as a flat list in document order. */
export interface Comparison {
  readonly earlier: Node;
  readonly later: Node;
  readonly union: Pair;
  readonly changes: readonly Change[];
}

export interface CompareOptions {
  /** Whether marks are tidied for people; without it they are minimal. */
  readonly tidy?: boolean;
  /** Told now and then how much is done, from 0 to 1. */
  readonly tell?: (share: number) => void;
}

/**
 * Compares two documents of one schema by content alone. Blocks are aligned first, then words inside paired text blocks;
 * what is left on both sides is searched for moves and copies. Exact: `assemble` with every change taken gives `later`
 * node for node, with none `earlier`. The method and its sources: docs/comparison.md.
 */
export function compare(earlier: Node, later: Node, options: CompareOptions = {}): Comparison {
  const comparer = new Comparer(earlier, later, options);
  const union = findMoves(
    comparer.root(),
    earlier,
    comparer.lexicon,
    (a, b) => comparer.pair(a, b),
    (a, b) => comparer.words(a, b),
  );
  comparer.lexicon.close();
  return { earlier, later, union, changes: listChanges(union) };
}

/** How often a block is looked for by reading all sizes, before blocks are gathered by size. */
const SCANS = 24;

class Comparer implements Outlook {
  readonly lexicon = new Lexicon();
  /** How often a block was looked for in a document. */
  private asked = 0;
  /** Blocks of each document by their size, gathered when that pays. */
  private readonly bySize: Partial<Record<Side, Map<number, OfOneSize>>> = {};

  constructor(
    private readonly earlier: Node,
    private readonly later: Node,
    private readonly options: CompareOptions,
  ) {}

  root(): Pair {
    return this.pairNodes(this.earlier, this.later);
  }

  /** Two nodes as one. `above` decides about a change of kind that follows from that of the node round them. */
  pair(a: Node, b: Node, above: Handle | null = null): Keep | Pair {
    return a.eq(b) ? keep(b) : this.pairNodes(a, b, above);
  }

  /** The text of two text blocks as one. */
  words(a: Node, b: Node): readonly Union[] {
    return compareInline([a], [b], this.lexicon, this.options.tidy ?? true);
  }

  /** A block of several words that the other document has as often is an exact copy of one there. */
  elsewhere(block: Node, side: Side): boolean {
    const there = this.occurrences(block, side === 'earlier' ? 'later' : 'earlier');
    return there > 0 && there >= this.occurrences(block, side) && this.lexicon.count(block) >= 3;
  }

  /** How often a block occurs in a document. */
  private occurrences(block: Node, side: Side): number {
    if (this.asked++ < SCANS) return occurrencesIn(this[side], block);
    const alike = (this.bySize[side] ??= blocksBySize(this[side])).get(block.nodeSize);
    if (!alike) return 0;
    alike.counts ??= countsOf(alike.blocks.map((one) => this.lexicon.block(one)));
    return alike.counts.get(this.lexicon.block(block)) ?? 0;
  }

  private pairNodes(a: Node, b: Node, above: Handle | null = null): Pair {
    const form = this.formOf(a, b, above);
    if (a.isTextblock && b.isTextblock)
      return {
        kind: 'pair',
        earlier: a,
        later: b,
        form,
        kids: this.words(a, b),
      };
    const answers = roleOf(a) === 'table' ? answering(a, b) : null;
    const grid = answers === 'grid' ? compareGrid(a, b, this, (p, q) => this.pair(p, q)) : null;
    if (grid) return { kind: 'pair', earlier: a, later: b, form, ...grid };
    const kids = this.compareChildren(a, b, form, answers === 'places');
    return { kind: 'pair', earlier: a, later: b, form, kids };
  }

  private formOf(a: Node, b: Node, above: Handle | null = null): Handle | null {
    if (a.hasMarkup(b.type, b.attrs, b.marks)) return null;
    return a.type !== b.type && above ? above : { id: -1 };
  }

  /** Items of a list that became another kind of list, and cells of a row that became headings, change together. */
  private compareChildren(a: Node, b: Node, form: Handle | null, hasPlaces: boolean): Union[] {
    const [one, other] = [childrenOf(a), childrenOf(b)];
    const isRow = roleOf(a) === 'row';
    const above = isRow ? { id: -1 } : form;
    const byPlace = hasPlaces || (isRow && one.length === other.length);
    const keyed = byPlace ? one.map((_, i) => ({ a: i, b: i, equal: false })) : keyedPairs(one, other);
    const pairs = keyed ?? withLone(alignBlocks(one, other, this), one, other, this);
    const out: Union[] = [];
    let [x, y] = [0, 0];
    const matches = keyed ? keyed.map(single) : withSeams(pairs, one, other, this.lexicon);
    const end = { a: one.length, aEnd: 0, b: other.length, bEnd: 0, equal: false };
    for (const match of [...matches, end]) {
      if (match.a > x || match.b > y) {
        const [earlier, later] = [one.slice(x, match.a), other.slice(y, match.b)];
        out.push(difference(earlier, later));
      }
      if (match.equal) out.push(keep(other[match.b] as Node));
      else if (match.aEnd > 0)
        out.push(this.matched(one.slice(match.a, match.aEnd), other.slice(match.b, match.bEnd), above));
      [x, y] = [match.aEnd, match.bEnd];
      if (a === this.earlier) this.options.tell?.(match.bEnd > 0 ? match.bEnd / other.length : 1);
    }
    return out;
  }

  private matched(earlier: readonly Node[], later: readonly Node[], above: Handle | null): Union {
    const [a, b] = [earlier[0] as Node, later[0] as Node];
    if (earlier.length === 1 && later.length === 1) return this.pair(a, b, above);
    const form = this.formOf(a, b);
    return {
      kind: 'seams',
      earlier,
      later,
      form,
      kids: withShapes(
        compareInline(earlier.map(textIn), later.map(textIn), this.lexicon, this.options.tidy ?? true),
        { earlier, later },
      ),
    };
  }
}

/** Breaks that begin the blocks they begin, round their text. */
function withShapes(kids: readonly Union[], blocks: Readonly<Record<Side, readonly Node[]>>): Union[] {
  const next = { earlier: 1, later: 1 };
  return kids.map((kid) =>
    kid.kind === 'break' ? { ...kid, shape: blocks[kid.side][next[kid.side]++] as Node } : kid,
  );
}

function occurrencesIn(parent: Node, block: Node): number {
  let count = 0;
  for (const node of parent.children) {
    if (node.nodeSize < block.nodeSize) continue;
    if (node.nodeSize === block.nodeSize && node.eq(block)) count++;
    else if (!node.isTextblock) count += occurrencesIn(node, block);
  }
  return count;
}

/** Blocks of one size, and how often each number occurs among them once that was asked. */
interface OfOneSize {
  readonly blocks: Node[];
  counts?: ReadonlyMap<number, number>;
}

function countsOf(numbers: readonly number[]): Map<number, number> {
  const out = new Map<number, number>();
  for (const number of numbers) out.set(number, (out.get(number) ?? 0) + 1);
  return out;
}

function blocksBySize(doc: Node): Map<number, OfOneSize> {
  const out = new Map<number, OfOneSize>();
  const gather = (parent: Node): void => {
    for (const node of parent.children) {
      const list = out.get(node.nodeSize);
      if (list) list.blocks.push(node);
      else out.set(node.nodeSize, { blocks: [node] });
      if (!node.isTextblock) gather(node);
    }
  };
  gather(doc);
  return out;
}
