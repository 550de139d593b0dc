import type { Node } from 'prosemirror-model';
import type { Paired } from './align.js';
import type { Lexicon } from './lexicon.js';
import { shared, without } from './bags.js';
import { LIKENESS } from './thresholds.js';
import { textIn } from './union.js';

const ITEMS: ReadonlySet<string> = new Set(['list_item', 'check_item']);

/** Children of two nodes that answer to each other: one for one, or one text block for several. */
export interface BlockMatch {
  readonly a: number;
  readonly aEnd: number;
  readonly b: number;
  readonly bEnd: number;
  /** Whether they are known to be equal. */
  readonly equal: boolean;
}

/**
 * Finds text blocks that were split or joined: a pair whose neighbours on one side, paired with nothing, hold mostly
 * words that the other block has and its partner has not.
 */
export function withSeams(
  pairs: readonly Paired[],
  a: readonly Node[],
  b: readonly Node[],
  lexicon: Lexicon,
): BlockMatch[] {
  const out: BlockMatch[] = [];
  for (let at = 0; at < pairs.length; at++) {
    const { a: i, b: j, equal } = pairs[at] as Paired;
    const [x, y] = [a[i] as Node, b[j] as Node];
    const [before, after] = [out.at(-1), pairs[at + 1]];
    const [lowA, lowB] = [before?.aEnd ?? 0, before?.bEnd ?? 0];
    const [highA, highB] = [after?.a ?? a.length, after?.b ?? b.length];
    const match = { a: i, aEnd: i + 1, b: j, bEnd: j + 1, equal };
    const alone = lowA === i && highA === i + 1 && lowB === j && highB === j + 1;
    if (!alone && !equal && mayBreak(x) && mayBreak(y) && isOneForm(x, y) && !x.eq(y)) {
      const [one, other] = [lexicon.bags.words(x), lexicon.bags.words(y)];
      [match.b, match.bEnd] = spread(b, j, lowB, highB, without(one, other), lexicon);
      if (match.bEnd - match.b === 1)
        [match.a, match.aEnd] = spread(a, i, lowA, highA, without(other, one), lexicon);
    }
    out.push(match);
  }
  return out;
}

function mayBreak(node: Node): boolean {
  if (ITEMS.has(node.type.name)) return node.childCount === 1 && mayBreak(node.child(0));
  return node.isTextblock && !node.type.spec.code;
}

/** Whether two may be one with seams: both text blocks, or both items whose text has one form. */
function isOneForm(one: Node, other: Node): boolean {
  if (one.isTextblock !== other.isTextblock || (!one.isTextblock && one.type !== other.type)) return false;
  const [first, second] = [textIn(one), textIn(other)];
  return one.isTextblock || first.hasMarkup(second.type, second.attrs, second.marks);
}

/** How far the blocks round index `at` are parts of what is left of the block on the other side. */
function spread(
  blocks: readonly Node[],
  at: number,
  low: number,
  high: number,
  rest: Int32Array,
  lexicon: Lexicon,
): [number, number] {
  const take = (index: number): boolean => {
    const block = blocks[index] as Node;
    const words = lexicon.bags.words(block);
    const isAlike = mayBreak(block) && block.isTextblock === blocks[at]?.isTextblock;
    if (!isAlike || words.length === 0 || shared(words, rest) < LIKENESS.split * words.length) return false;
    rest = without(rest, words);
    return true;
  };
  let [from, to] = [at, at + 1];
  while (to < high && take(to)) to++;
  while (from > low && take(from - 1)) from--;
  return [from, to];
}
