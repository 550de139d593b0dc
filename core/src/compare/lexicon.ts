import type { Node } from 'prosemirror-model';
import { isPlain, isWord, segmentEnds, unitsOf } from '../content/index.js';
import { Room, Store } from './room.js';
import { Vocabulary } from './vocabulary.js';

/** A text block that was emptied, or filled, is likely the same one, where nothing is more alike. */
const EMPTIED = 0.3;
/** A list or table of which all but little stands in a longer one is the same one grown, when it has a few words at least. */
const FEW = 4;
const HELD = 0.8;
const HOLDS = 0.5;

/** The inline content of text blocks cut into words, spaces, signs and leaves. */
export interface Pieces {
  /** Equal numbers mean equal pieces, without regard to form; `Lexicon.kind` tells what they are. */
  readonly numbers: Int32Array;
  /** Where each piece begins, counted from the start of the content; one more at the end. */
  readonly at: Int32Array;
}

/**
 * What a piece is: a sign, one that ends a clause or a sentence, a word, a leaf, the break between two text blocks that
 * are read as one, white space, or the end of a line. All from `Blank` on are blank.
 */
export const enum Piece {
  Sign,
  Pause,
  Stop,
  Word,
  Leaf,
  Break,
  Blank,
  Line,
}

/** The text that stands for a leaf, and for a break, among pieces begins with this sign. */
const LEAF = '\u0003';
const BREAK = '\u0005';

const STOP = /^[.!?…。！？]+$/u;
const PAUSE = /^[,;:–—)]$/u;

function kindOf(text: string): Piece {
  if (text.startsWith(LEAF)) return Piece.Leaf;
  if (text === BREAK) return Piece.Break;
  if (isWord(text)) return Piece.Word;
  if (text.trim() === '') return text === '\n' ? Piece.Line : Piece.Blank;
  return STOP.test(text) ? Piece.Stop : PAUSE.test(text) ? Piece.Pause : Piece.Sign;
}

/** Room to cut in: the units of a text, its pieces, and where they begin and end. */
let units = new Uint16Array(1024);
const [NUMBERS, PLACES, ENDS] = [new Room(), new Room(), new Room()];
/** How often each piece occurs, while that is counted; else all 0. */
let tally = new Int32Array(1024);

/**
 * Turns content into integers once per comparison: equal numbers mean equal content, so everything after compares
 * integers. `block` numbers whole nodes with form, `piece` numbers words, spaces, signs and leaves without form.
 */
export class Lexicon {
  private readonly vocabulary = new Vocabulary();
  private readonly kinds: Piece[] = [];
  private readonly keys = new Map<string, number>();
  private readonly blocks = new Map<Node, number>();
  private readonly cut = new Map<Node, Pieces>();
  private readonly bags = new Map<Node, Int32Array>();
  private readonly counts = new Map<Node, number>();
  private readonly store = new Store();

  /** Leaves its room to the next lexicon; nothing may be asked of it any more. */
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
      this.kinds.push(isPlain(units[from] as number) ? Piece.Word : kindOf(this.vocabulary.text(number)));
    return number;
  }

  kind(piece: number): Piece {
    return this.kinds[piece] as Piece;
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
      pieces[count] = this.piece(`${LEAF}${node.type.name}${String(node.attrs['hash'] ?? '')}`);
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
    this.bags.delete(block);
  }

  /** The words and leaves of a node and all within it, as sorted numbers: what similarity is measured on. */
  words(node: Node): Int32Array {
    const held = this.bags.get(node);
    if (held) return held;
    const words: number[] = [];
    const collect = (block: Node): void => {
      if (!block.isTextblock) return block.forEach(collect);
      for (const piece of this.pieces(block).numbers) {
        const kind = this.kind(piece);
        if (isCounted(kind)) words.push(piece);
      }
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
    if (node.isTextblock) {
      for (const piece of this.pieces(node).numbers) if (this.kind(piece) === Piece.Word) count++;
    } else node.forEach((child) => (count += this.count(child)));
    this.counts.set(node, count);
    return count;
  }

  /** Whether an image stands in a text block. */
  holdsImage(block: Node): boolean {
    return this.pieces(block).numbers.some(
      (piece) => this.kind(piece) === Piece.Leaf && this.text(piece).startsWith(`${LEAF}image`),
    );
  }

  /**
   * Share of words two nodes have in common, 0 to 1 (Dice's coefficient on multisets of words). A list or table that grew,
   * or shrank, is at least half alike.
   */
  similarity(a: Node, b: Node): number {
    if (a.isTextblock && b.isTextblock && !this.bags.has(a))
      return this.likeness(this.pieces(a), this.pieces(b));
    const [one, other] = [this.words(a), this.words(b)];
    const all = one.length + other.length;
    if (all === 0) return a.isTextblock === b.isTextblock ? 0.5 : 0;
    if ((one.length === 0 || other.length === 0) && a.isTextblock && b.isTextblock) return EMPTIED;
    const common = shared(one, other);
    const least = Math.min(one.length, other.length);
    const held = !a.isTextblock && !b.isTextblock && least >= FEW && common >= HELD * least;
    return held ? Math.max(HOLDS, (2 * common) / all) : (2 * common) / all;
  }

  /** The similarity of two text blocks by counting, which spares sorting when a block is looked at once. */
  private likeness(one: Pieces, other: Pieces): number {
    const { kinds } = this;
    if (this.vocabulary.size > tally.length) tally = new Int32Array(2 * this.vocabulary.size);
    let [mine, theirs, common] = [0, 0, 0];
    const [a, b] = [one.numbers, other.numbers];
    for (let i = 0; i < a.length; i++) {
      const piece = a[i] as number;
      if (!isCounted(kinds[piece] as Piece)) continue;
      tally[piece] = (tally[piece] as number) + 1;
      mine++;
    }
    for (let i = 0; i < b.length; i++) {
      const piece = b[i] as number;
      if (!isCounted(kinds[piece] as Piece)) continue;
      theirs++;
      const left = tally[piece] as number;
      if (left === 0) continue;
      tally[piece] = left - 1;
      common++;
    }
    for (let i = 0; i < a.length; i++) tally[a[i] as number] = 0;
    if (mine + theirs === 0) return 0.5;
    return mine === 0 || theirs === 0 ? EMPTIED : (2 * common) / (mine + theirs);
  }
}

/** Whether likeness is measured on pieces of a kind: on words and leaves. */
function isCounted(kind: Piece): boolean {
  return kind === Piece.Word || kind === Piece.Leaf;
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
