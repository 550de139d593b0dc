import type { Node } from 'prosemirror-model';
import type { PieceKind, Pieces } from './pieces.js';
import { isCounted } from './pieces.js';
import { LIKENESS } from './thresholds.js';

/** How often each piece occurs, while that is counted; else all 0. */
let tally = new Int32Array(1024);

/** What numbers the pieces of text blocks. */
interface Numbered {
  /** How many different pieces there are. */
  readonly size: number;
  pieces(block: Node): Pieces;
  kind(piece: number): PieceKind;
}

/** How alike nodes are by the words they hold, each as often as it occurs. */
export class WordBags {
  private readonly bags = new Map<Node, Int32Array>();

  constructor(private readonly lexicon: Numbered) {}

  /** Forgets a text block that is done with. */
  release(block: Node): void {
    this.bags.delete(block);
  }

  /** The words and leaves of a node and all within it, as sorted numbers: what similarity is measured on. */
  words(node: Node): Int32Array {
    const held = this.bags.get(node);
    if (held) return held;
    const words: number[] = [];
    const collect = (block: Node): void => {
      if (!block.isTextblock) return block.forEach(collect);
      for (const piece of this.lexicon.pieces(block).numbers) {
        const kind = this.lexicon.kind(piece);
        if (isCounted(kind)) words.push(piece);
      }
    };
    collect(node);
    const bag = Int32Array.from(words).sort();
    this.bags.set(node, bag);
    return bag;
  }

  /**
   * Share of words two nodes have in common, 0 to 1 (Dice's coefficient on multisets of words). A list or table that grew,
   * or shrank, is at least half alike.
   */
  similarity(a: Node, b: Node): number {
    if (a.isTextblock && b.isTextblock && !this.bags.has(a))
      return this.likeness(this.lexicon.pieces(a), this.lexicon.pieces(b));
    const [one, other] = [this.words(a), this.words(b)];
    const all = one.length + other.length;
    if (all === 0) return a.isTextblock === b.isTextblock ? 0.5 : 0;
    if ((one.length === 0 || other.length === 0) && a.isTextblock && b.isTextblock) return LIKENESS.emptied;
    const common = shared(one, other);
    const least = Math.min(one.length, other.length);
    const held =
      !a.isTextblock &&
      !b.isTextblock &&
      least >= LIKENESS.grownWords &&
      common >= LIKENESS.grownShare * least;
    return held ? Math.max(LIKENESS.grown, (2 * common) / all) : (2 * common) / all;
  }

  /** The similarity of two text blocks by counting, which spares sorting when a block is looked at once. */
  private likeness(one: Pieces, other: Pieces): number {
    const { lexicon } = this;
    if (lexicon.size > tally.length) tally = new Int32Array(2 * lexicon.size);
    const [a, b] = [one.numbers, other.numbers];
    let [from, aTo, bTo, ends] = [0, a.length, b.length, 0];
    while (from < aTo && from < bTo && a[from] === b[from])
      if (isCounted(lexicon.kind(a[from++] as number))) ends++;
    while (aTo > from && bTo > from && a[aTo - 1] === b[bTo - 1]) {
      if (isCounted(lexicon.kind(a[--aTo] as number))) ends++;
      bTo--;
    }
    let [mine, theirs, common] = [ends, ends, ends];
    for (let i = from; i < aTo; i++) {
      const piece = a[i] as number;
      if (!isCounted(lexicon.kind(piece))) continue;
      tally[piece] = (tally[piece] as number) + 1;
      mine++;
    }
    for (let i = from; i < bTo; i++) {
      const piece = b[i] as number;
      if (!isCounted(lexicon.kind(piece))) continue;
      theirs++;
      const left = tally[piece] as number;
      if (left === 0) continue;
      tally[piece] = left - 1;
      common++;
    }
    for (let i = from; i < aTo; i++) tally[a[i] as number] = 0;
    if (mine + theirs === 0) return 0.5;
    return mine === 0 || theirs === 0 ? LIKENESS.emptied : (2 * common) / (mine + theirs);
  }
}

/** How many items two sorted sequences share, each as often as both have it. */
export function shared(one: Int32Array, other: Int32Array): number {
  let common = 0;
  for (let i = 0, j = 0; i < one.length && j < other.length;) {
    const step = (one[i] as number) - (other[j] as number);
    if (step === 0) common++;
    if (step <= 0) i++;
    if (step >= 0) j++;
  }
  return common;
}

/** What a sorted sequence has beyond another. */
export function without(one: Int32Array, other: Int32Array): Int32Array {
  const out: number[] = [];
  for (let i = 0, j = 0; i < one.length;) {
    const step = j < other.length ? (one[i] as number) - (other[j] as number) : -1;
    if (step < 0) out.push(one[i] as number);
    if (step <= 0) i++;
    if (step >= 0) j++;
  }
  return Int32Array.from(out);
}
