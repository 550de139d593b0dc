import type { Node } from 'prosemirror-model';
import type { Lexicon, Pieces } from './lexicon.js';

/** The piece that stands for the end of one text block and the beginning of the next. */
const BREAK = '\u0005';

/** One text block, or several in a row, as one sequence of pieces; places count from the start of the first's content. */
export interface Flow extends Pieces {
  readonly blocks: readonly Node[];
}

/** Joins the pieces of text blocks, with a break between two. */
export function flowOf(blocks: readonly Node[], lexicon: Lexicon): Flow {
  const [only] = blocks;
  if (only && blocks.length === 1) return { ...lexicon.pieces(only), blocks };
  const texts: string[] = [];
  const numbers: number[] = [];
  const at: number[] = [];
  const words: number[] = [];
  let start = 0;
  blocks.forEach((block, i) => {
    if (i > 0) {
      texts.push(BREAK);
      numbers.push(lexicon.piece(BREAK));
      at.push(start - 2);
      words.push(0);
    }
    const pieces = lexicon.pieces(block);
    texts.push(...pieces.texts);
    numbers.push(...pieces.numbers);
    words.push(...pieces.words);
    for (let p = 0; p < pieces.texts.length; p++) at.push(start + (pieces.at[p] as number));
    start += block.content.size + 2;
  });
  at.push(start - 2);
  return {
    texts,
    numbers: Int32Array.from(numbers),
    at: Int32Array.from(at),
    words: Uint8Array.from(words),
    blocks,
  };
}

export function isBreak(piece: string): boolean {
  return piece === BREAK;
}

/** The inline nodes of pieces `from` up to `to`, which must not hold a break. */
export function nodesOf(flow: Flow, from: number, to: number): Node[] {
  if (from >= to) return [];
  let start = flow.at[from] as number;
  let end = flow.at[to] as number;
  for (const block of flow.blocks) {
    const size = block.content.size;
    if (start <= size && (start < size || end <= size)) {
      const nodes: Node[] = [];
      block.content.cut(start, Math.min(end, size)).forEach((node) => nodes.push(node));
      return nodes;
    }
    start -= size + 2;
    end -= size + 2;
  }
  return [];
}
