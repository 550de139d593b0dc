import type { Node } from 'prosemirror-model';
import type { BlockCut } from './cuts.js';
import { nodesIn } from './cuts.js';
import type { Lexicon } from './lexicon.js';
import type { Pieces } from './pieces.js';

/** One text block, or several in a row, as one sequence of pieces; places count from the start of the first's content. */
export interface TextFlow extends Pieces {
  readonly blocks: readonly Node[];
}

/** Joins the pieces of text blocks, with a break between two. */
export function flowOf(blocks: readonly Node[], lexicon: Lexicon): TextFlow {
  const [only] = blocks;
  if (only && blocks.length === 1) {
    const { numbers, at } = lexicon.pieces(only);
    return { numbers, at, blocks };
  }
  const numbers: number[] = [];
  const at: number[] = [];
  let start = 0;
  blocks.forEach((block, i) => {
    if (i > 0) {
      numbers.push(lexicon.break);
      at.push(start - 2);
    }
    const pieces = lexicon.pieces(block);
    pieces.numbers.forEach((number, p) => {
      numbers.push(number);
      at.push(start + (pieces.at[p] as number));
    });
    start += block.content.size + 2;
  });
  at.push(start - 2);
  return { numbers: Int32Array.from(numbers), at: Int32Array.from(at), blocks };
}

/** Where pieces `from` up to `to` stand, which must not hold a break; null for none. */
export function cutOf(flow: TextFlow, from: number, to: number): BlockCut | null {
  if (from >= to) return null;
  let start = flow.at[from] as number;
  let end = flow.at[to] as number;
  for (const block of flow.blocks) {
    const size = block.content.size;
    if (start <= size && (start < size || end <= size))
      return { block, from: start, to: Math.min(end, size) };
    start -= size + 2;
    end -= size + 2;
  }
  return null;
}

/** The inline nodes of pieces `from` up to `to`. */
export function nodesOf(flow: TextFlow, from: number, to: number): Node[] {
  const cut = cutOf(flow, from, to);
  return cut ? nodesIn(cut) : [];
}
