import type { Node } from 'prosemirror-model';
import { inlineText, isWord, segments } from '../content/index.js';

/** A text block that was emptied, or filled, is likely the same one, where nothing is more alike. */
const EMPTIED = 0.3;

/**
 * Turns content into integers once per comparison: equal numbers mean equal content, so everything after compares
 * integers. `block` numbers whole nodes with form, `piece` numbers words, spaces, signs and leaves without form.
 */
export class Lexicon {
  private readonly numbers = new Map<string, number>();
  private readonly blocks = new WeakMap<Node, number>();
  private readonly bags = new WeakMap<Node, Int32Array>();

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
    const form = JSON.stringify([
      node.type.name,
      node.attrs,
      node.marks.map((mark) => mark.toJSON() as unknown),
    ]);
    const inside: (string | number)[] = [];
    node.forEach((child) => inside.push(this.block(child)));
    const number = this.piece(`\u0001${form}${node.isText ? `\u0002${node.text}` : inside.join(' ')}`);
    this.blocks.set(node, number);
    return number;
  }

  /** The words of a node and all within it, as sorted numbers: what similarity is measured on. */
  words(node: Node): Int32Array {
    const held = this.bags.get(node);
    if (held) return held;
    const words: number[] = [];
    const collect = (block: Node): void => {
      if (!block.isTextblock) return block.forEach(collect);
      for (const segment of segments(inlineText(block))) if (isWord(segment)) words.push(this.piece(segment));
    };
    collect(node);
    const bag = Int32Array.from(words).sort();
    this.bags.set(node, bag);
    return bag;
  }

  /** Share of words two nodes have in common, 0 to 1 (Dice's coefficient on multisets of words). */
  similarity(a: Node, b: Node): number {
    const [one, other] = [this.words(a), this.words(b)];
    const all = one.length + other.length;
    if (all === 0) return a.isTextblock === b.isTextblock ? 0.5 : 0;
    if ((one.length === 0 || other.length === 0) && a.isTextblock && b.isTextblock) return EMPTIED;
    let common = 0;
    for (let i = 0, j = 0; i < one.length && j < other.length;) {
      const step = (one[i] as number) - (other[j] as number);
      if (step === 0) common++;
      if (step <= 0) i++;
      if (step >= 0) j++;
    }
    return (2 * common) / all;
  }
}
