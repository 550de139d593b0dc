import type { Node } from 'prosemirror-model';
import { isWord, segments } from '../content/index.js';

/** A text block that was emptied, or filled, is likely the same one, where nothing is more alike. */
const EMPTIED = 0.3;

/** The inline content of text blocks cut into words, spaces, signs and leaves. */
export interface Pieces {
  readonly texts: readonly string[];
  /** Equal numbers mean equal pieces, without regard to form. */
  readonly numbers: Int32Array;
  /** Where each piece begins, counted from the start of the content; one more at the end. */
  readonly at: Int32Array;
  /** 1 for a piece that counts as a word. */
  readonly words: Uint8Array;
}

/** The text that stands for a leaf among pieces begins with this sign. */
const LEAF = '\u0003';

/** Whether a piece is nothing but white space. */
export function isBlank(piece: string): boolean {
  return piece.trim() === '';
}

export function isLeafPiece(piece: string): boolean {
  return piece.startsWith(LEAF);
}

/**
 * Turns content into integers once per comparison: equal numbers mean equal content, so everything after compares
 * integers. `block` numbers whole nodes with form, `piece` numbers words, spaces, signs and leaves without form.
 */
export class Lexicon {
  private readonly numbers = new Map<string, number>();
  private readonly blocks = new WeakMap<Node, number>();
  private readonly cut = new WeakMap<Node, Pieces>();
  private readonly bags = new WeakMap<Node, Int32Array>();
  private readonly counts = new WeakMap<Node, number>();

  /** The number of a text. */
  piece(text: string): number {
    const held = this.numbers.get(text);
    if (held !== undefined) return held;
    this.numbers.set(text, this.numbers.size);
    return this.numbers.size - 1;
  }

  /** The number of a node with all its content and form: equal exactly when `Node.eq` is. */
  block(node: Node): number {
    const held = this.blocks.get(node);
    if (held !== undefined) return held;
    let key = `\u0001${node.type.name}`;
    for (const name in node.attrs) key += ` ${JSON.stringify(node.attrs[name])}`;
    for (const mark of node.marks) key += `\u0004${mark.type.name}${JSON.stringify(mark.attrs)}`;
    key += '\u0002';
    if (node.isText) key += node.text;
    else node.forEach((child) => (key += `${this.block(child)} `));
    const number = this.piece(key);
    this.blocks.set(node, number);
    return number;
  }

  /** The pieces of a text block; marks do not cut a word in two. */
  pieces(block: Node): Pieces {
    const held = this.cut.get(block);
    if (held) return held;
    const texts: string[] = [];
    const at: number[] = [];
    let text = '';
    let start = 0;
    const flush = (): void => {
      let position = start;
      for (const segment of segments(text)) {
        texts.push(segment);
        at.push(position);
        position += segment.length;
      }
      text = '';
    };
    block.forEach((node, offset) => {
      if (node.isText) {
        if (!text) start = offset;
        text += node.text ?? '';
        return;
      }
      flush();
      texts.push(`${LEAF}${node.type.name}${String(node.attrs['hash'] ?? '')}`);
      at.push(offset);
    });
    flush();
    at.push(block.content.size);
    const pieces: Pieces = {
      texts,
      numbers: Int32Array.from(texts, (piece) => this.piece(piece)),
      at: Int32Array.from(at),
      words: Uint8Array.from(texts, (piece) => Number(isWord(piece) && !isLeafPiece(piece))),
    };
    this.cut.set(block, pieces);
    return pieces;
  }

  /** The words and leaves of a node and all within it, as sorted numbers: what similarity is measured on. */
  words(node: Node): Int32Array {
    const held = this.bags.get(node);
    if (held) return held;
    const words: number[] = [];
    const collect = (block: Node): void => {
      if (!block.isTextblock) return block.forEach(collect);
      const pieces = this.pieces(block);
      pieces.texts.forEach((text, i) => {
        if (pieces.words[i] || isLeafPiece(text)) words.push(pieces.numbers[i] as number);
      });
    };
    collect(node);
    const bag = Int32Array.from(words).sort();
    this.bags.set(node, bag);
    return bag;
  }

  /** How many words stand in a node, leaves aside. */
  count(node: Node): number {
    const held = this.counts.get(node);
    if (held !== undefined) return held;
    let count = 0;
    if (node.isTextblock) for (const word of this.pieces(node).words) count += word;
    else node.forEach((child) => (count += this.count(child)));
    this.counts.set(node, count);
    return count;
  }

  /** Share of words two nodes have in common, 0 to 1 (Dice's coefficient on multisets of words). */
  similarity(a: Node, b: Node): number {
    const [one, other] = [this.words(a), this.words(b)];
    const all = one.length + other.length;
    if (all === 0) return a.isTextblock === b.isTextblock ? 0.5 : 0;
    if ((one.length === 0 || other.length === 0) && a.isTextblock && b.isTextblock) return EMPTIED;
    return (2 * shared(one, other)) / all;
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
