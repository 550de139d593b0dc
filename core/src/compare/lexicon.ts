import type { Node } from 'prosemirror-model';
import { identityOf, isPlain, segmentEnds, unitsOf } from '../content/index.js';
import { WordBags } from './bags.js';
import type { Pieces } from './pieces.js';
import { BREAK, LEAF, PieceKind, kindOf } from './pieces.js';
import { Scratch, ScratchStore } from './scratch.js';
import { Vocabulary } from './vocabulary.js';

/** Scratch to cut in: the units of a text, its pieces, and where they begin and end. */
let units = new Uint16Array(1024);
const [NUMBERS, PLACES, ENDS] = [new Scratch(), new Scratch(), new Scratch()];

/**
 * Turns content into integers once per comparison: equal numbers mean equal content, so everything after compares
 * integers. `block` numbers whole nodes with form, `piece` numbers words, spaces, signs and leaves without form.
 */
export class Lexicon {
  private readonly vocabulary = new Vocabulary();
  private readonly kinds: PieceKind[] = [];
  private readonly keys = new Map<string, number>();
  private readonly blocks = new Map<Node, number>();
  private readonly cut = new Map<Node, Pieces>();
  /** How alike nodes are by the words they hold. */
  readonly bags = new WordBags(this);
  private readonly counts = new Map<Node, number>();
  private readonly store = new ScratchStore();

  /** Leaves its scratch to the next lexicon; nothing may be asked of it any more. */
  close(): void {
    this.vocabulary.close();
    this.store.close();
  }

  /** The number of a piece. */
  piece(text: string): number {
    units = unitsOf(text, units);
    return this.pieceAt(0, text.length);
  }

  /** The number of the piece that fills the units `from` up to `to`. */
  private pieceAt(from: number, to: number): number {
    const number = this.vocabulary.number(units, from, to);
    if (number === this.kinds.length)
      this.kinds.push(isPlain(units[from] as number) ? PieceKind.Word : kindOf(this.vocabulary.text(number)));
    return number;
  }

  /** How many different pieces there are. */
  get size(): number {
    return this.vocabulary.size;
  }

  kind(piece: number): PieceKind {
    return this.kinds[piece] as PieceKind;
  }

  text(piece: number): string {
    return this.vocabulary.text(piece);
  }

  /** The number of the piece that stands between two text blocks. */
  get break(): number {
    return this.piece(BREAK);
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
    const number = this.keys.get(key) ?? this.keys.size;
    this.keys.set(key, number);
    this.blocks.set(node, number);
    return number;
  }

  /** The pieces of a text block; marks do not cut a word in two. */
  pieces(block: Node): Pieces {
    const held = this.cut.get(block);
    if (held) return held;
    const [pieces, places] = [NUMBERS.of(block.content.size), PLACES.of(block.content.size)];
    let count = 0;
    let text = '';
    let start = 0;
    for (const node of block.children) {
      if (node.isText) {
        text += node.text ?? '';
        continue;
      }
      count = this.read(text, start, pieces, places, count);
      start += text.length;
      pieces[count] = this.piece(`${LEAF}${node.type.name}${identityOf(node)}`);
      places[count++] = start;
      start += node.nodeSize;
      text = '';
    }
    count = this.read(text, start, pieces, places, count);
    const [numbers, at] = [this.store.array(count), this.store.array(count + 1)];
    for (let i = 0; i < count; i++) {
      numbers[i] = pieces[i] as number;
      at[i] = places[i] as number;
    }
    at[count] = block.content.size;
    const cut: Pieces = { numbers, at };
    this.cut.set(block, cut);
    return cut;
  }

  /** Adds the pieces of a text that begins at a place, and answers how many there are then. */
  private read(text: string, start: number, pieces: Int32Array, places: Int32Array, count: number): number {
    if (text === '') return count;
    units = unitsOf(text, units);
    const ends = ENDS.of(text.length);
    const last = count + segmentEnds(units, text, ends);
    for (let from = 0, i = 0; count < last; count++) {
      const to = ends[i++] as number;
      pieces[count] = this.pieceAt(from, to);
      places[count] = start + from;
      from = to;
    }
    return count;
  }

  /** Forgets the pieces of a text block that is done with. */
  release(block: Node): void {
    this.cut.delete(block);
    this.bags.release(block);
  }

  /** How many words stand in a node, leaves aside. */
  count(node: Node): number {
    const held = this.counts.get(node);
    if (held !== undefined) return held;
    let count = 0;
    if (node.isTextblock) {
      for (const piece of this.pieces(node).numbers) if (this.kind(piece) === PieceKind.Word) count++;
    } else node.forEach((child) => (count += this.count(child)));
    this.counts.set(node, count);
    return count;
  }
}
