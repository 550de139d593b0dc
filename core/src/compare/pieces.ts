import { isWord } from '../content/index.js';

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
export const enum PieceKind {
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
export const LEAF = '\u0003';
export const BREAK = '\u0005';

const STOP = /^[.!?…。！？]+$/u;
const PAUSE = /^[,;:–—)]$/u;

/** What the piece with a text is. */
export function kindOf(text: string): PieceKind {
  if (text.startsWith(LEAF)) return PieceKind.Leaf;
  if (text === BREAK) return PieceKind.Break;
  if (isWord(text)) return PieceKind.Word;
  if (text.trim() === '') return text === '\n' ? PieceKind.Line : PieceKind.Blank;
  return STOP.test(text) ? PieceKind.Stop : PAUSE.test(text) ? PieceKind.Pause : PieceKind.Sign;
}

/** Whether likeness is measured on pieces of a kind: on words and leaves. */
export function isCounted(kind: PieceKind): boolean {
  return kind === PieceKind.Word || kind === PieceKind.Leaf;
}
