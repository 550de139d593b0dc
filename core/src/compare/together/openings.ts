import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { repaired } from '../assemble.js';
import type { TextFlow } from '../flow.js';
import { nodesOf } from '../flow.js';
import type { Lexicon } from '../lexicon.js';
import { PieceKind } from '../pieces.js';
import { textIn } from '../union.js';

/**
 * Pieces `from` up to `to` of a flow: inline nodes, or, where breaks are among them, blocks of which the first goes on where text
 * stood before it. `blocks` are those the flow was made of; `first` is the form of a first block, which says nothing.
 */
export function opened(
  flow: TextFlow,
  blocks: readonly Node[],
  [from, to]: readonly [number, number],
  lexicon: Lexicon,
  first: Node,
): Node[] {
  if (blocks.length === 1) return nodesOf(flow, from, to);
  const isBreak = (at: number): boolean => lexicon.kind(flow.numbers[at] as number) === PieceKind.Break;
  let begun = 0;
  for (let i = 0; i < from; i++) if (isBreak(i)) begun++;
  const out: Node[] = [];
  let start = from;
  let shape = first;
  for (let i = from; i < to; i++) {
    if (!isBreak(i)) continue;
    out.push(withText(shape, nodesOf(flow, start, i)));
    shape = blocks[++begun] as Node;
    start = i + 1;
  }
  const rest = nodesOf(flow, start, to);
  return out.length === 0 ? rest : [...out, withText(shape, rest)];
}

/** A block, or an item, with other text in it. */
export function withText(shape: Node, text: readonly Node[]): Node {
  const inner = textIn(shape);
  const block = repaired(inner, Fragment.fromArray([...text])) ?? inner.copy(Fragment.empty);
  return shape.isTextblock ? block : shape.copy(Fragment.from(block));
}
