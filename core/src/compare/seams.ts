import type { Node } from 'prosemirror-model';
import type { Paired } from './align.js';
import { isItem } from './kinship.js';
import type { Lexicon } from './lexicon.js';
import { shared, without } from './bags.js';
import { LIKENESS } from './thresholds.js';
import { textIn } from './union.js';

/** Children of two nodes that answer to each other: one for one, or one text block for several. */
export interface BlockMatch {
  readonly a: number;
  readonly aEnd: number;
  readonly b: number;
  readonly bEnd: number;
  /** Whether they are known to be equal. */
  readonly equal: boolean;
}

/** A pair that nothing was split off or joined to. */
export function single({ a, b, equal }: Paired): BlockMatch {
  return { a, aEnd: a + 1, b, bEnd: b + 1, equal };
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
    const isMade =
      !alone &&
      !equal &&
      (isMadeInto(y, x, a.slice(lowA, highA), lexicon) || isMadeInto(x, y, b.slice(lowB, highB), lexicon));
    if (isMade) continue;
    if (!alone && !equal && mayBreak(x) && mayBreak(y) && isOneForm(x, y) && !x.eq(y))
      widen(
        match,
        a,
        (at) => at >= lowA && at < highA,
        b,
        (at) => at >= lowB && at < highB,
        lexicon,
      );
    out.push(match);
  }
  return out;
}

/**
 * Whether a text block was made of lists beside its partner, or became them: most of their words are its own, and more than
 * it has of its partner. Then it is not the same block.
 */
function isMadeInto(block: Node, partner: Node, row: readonly Node[], lexicon: Lexicon): boolean {
  const lists = row.filter((node) => !node.isTextblock && node.childCount > 0 && isItem(node.child(0)));
  if (!block.isTextblock || !partner.isTextblock || lists.length === 0) return false;
  const words = lexicon.bags.words(block);
  const rest = without(words, lexicon.bags.words(partner));
  return lists.some((list) => {
    const listed = lexicon.bags.words(list);
    const common = shared(listed, rest);
    return common >= LIKENESS.split * listed.length && common > words.length - rest.length;
  });
}

/** The same for pairs in any order: what stands beside one and is paired with nothing may have been split off it, or joined to it. */
export function seamsAmong(
  pairs: readonly { readonly a: number; readonly b: number }[],
  matches: readonly BlockMatch[],
  a: readonly Node[],
  b: readonly Node[],
  lexicon: Lexicon,
): BlockMatch[] {
  const [takenA, takenB] = [new Set<number>(), new Set<number>()];
  const take = (match: Omit<BlockMatch, 'equal'>): void => {
    for (let i = match.a; i < match.aEnd; i++) takenA.add(i);
    for (let i = match.b; i < match.bEnd; i++) takenB.add(i);
  };
  for (const match of matches) take(match);
  const whole = (pair: { a: number; b: number }): BlockMatch => ({
    ...pair,
    aEnd: pair.a + 1,
    bEnd: pair.b + 1,
    equal: (a[pair.a] as Node).eq(b[pair.b] as Node),
  });
  const out = pairs.map(whole);
  out.forEach(take);
  const isFreeA = (at: number): boolean => at >= 0 && at < a.length && !takenA.has(at);
  const isFreeB = (at: number): boolean => at >= 0 && at < b.length && !takenB.has(at);
  for (const match of out) {
    const [x, y] = [a[match.a] as Node, b[match.b] as Node];
    if (match.equal || !mayBreak(x) || !mayBreak(y) || !isOneForm(x, y)) continue;
    widen(match, a, isFreeA, b, isFreeB, lexicon);
    take(match);
  }
  return out;
}

/** Widens a pair by what was split off it or joined to it, of what is free. */
function widen(
  match: { a: number; aEnd: number; b: number; bEnd: number },
  a: readonly Node[],
  isFreeA: (at: number) => boolean,
  b: readonly Node[],
  isFreeB: (at: number) => boolean,
  lexicon: Lexicon,
): void {
  const [i, j] = [match.a, match.b];
  const [one, other] = [lexicon.bags.words(a[i] as Node), lexicon.bags.words(b[j] as Node)];
  [match.b, match.bEnd] = spread(b, j, isFreeB, without(one, other), lexicon);
  if (match.bEnd - match.b === 1) [match.a, match.aEnd] = spread(a, i, isFreeA, without(other, one), lexicon);
}

/** Whether a block may be split: text that is not code, or an item of just such text. */
export function mayBreak(node: Node): boolean {
  if (isItem(node)) return node.childCount === 1 && mayBreak(node.child(0));
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
  isFree: (at: number) => boolean,
  rest: Int32Array,
  lexicon: Lexicon,
): [number, number] {
  const isOwn = (index: number): boolean => {
    const block = blocks[index] as Node;
    return mayBreak(block) && block.isTextblock === blocks[at]?.isTextblock;
  };
  const take = (index: number): boolean => {
    if (!isOwn(index)) return false;
    const words = lexicon.bags.words(blocks[index] as Node);
    if (words.length === 0 || shared(words, rest) < LIKENESS.split * words.length) return false;
    rest = without(rest, words);
    return true;
  };
  /** How far the next part is: beside the last one, or behind a block that was put between. */
  const next = (index: number, step: 1 | -1): number => {
    if (!isFree(index)) return 0;
    if (take(index)) return 1;
    return isOwn(index) && isFree(index + step) && take(index + step) ? 2 : 0;
  };
  let [from, to] = [at, at + 1];
  for (let far = next(to, 1); far > 0; far = next(to, 1)) to += far;
  for (let far = next(from - 1, -1); far > 0; far = next(from - 1, -1)) from -= far;
  return [from, to];
}
