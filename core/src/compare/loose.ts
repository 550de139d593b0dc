import type { Node } from 'prosemirror-model';
import { isRectangular, roleOf } from '../content/index.js';
import { mayPair } from './kinship.js';
import type { Lexicon } from './lexicon.js';
import type { Difference, Keep, Moved, Pair, Side, Union } from './union.js';
import type { BlockMatch } from './seams.js';
import { seamsAmong } from './seams.js';
import { BROUGHT, MOVED } from './thresholds.js';
import { difference, keep } from './union.js';

/** A word in more blocks than this says nothing about which one is meant; so many candidates are looked at. */
const COMMON = 12;
const CANDIDATES = 5;

/** A block that only one side of a difference has, with the blocks in it: what moves are found among. */
export interface Loose {
  readonly node: Node;
  readonly side: Side;
  /** Kind of the node round it. */
  readonly parent: string;
  readonly above: Loose | null;
  readonly kids: readonly Loose[];
  /** All that are loose beside it, itself among them. */
  readonly row: readonly Loose[];
  readonly at: number;
  claim: Moved | null;
  copyOf: { from: number; to: number } | null;
}

/** The blocks of both sides of each difference between blocks. */
export type LooseBlocks = Map<Difference, Record<Side, Loose[]>>;

/** Gathers the blocks that have no counterpart where they stand. Tables are left whole, and so are their cells. */
export function looseBlocks(root: Pair): LooseBlocks {
  const out: LooseBlocks = new Map();
  const visit = (part: Union, parents: Record<Side, string>): void => {
    if (part.kind === 'pair' && !part.grid && !part.earlier.isTextblock) {
      const inside = { earlier: part.earlier.type.name, later: part.later.type.name };
      for (const kid of part.kids) visit(kid, inside);
    }
    if (part.kind === 'difference' && !part.inline) gather(part, parents, out);
  };
  visit(root, { earlier: '', later: '' });
  return out;
}

function gather(part: Difference, parents: Record<Side, string>, out: LooseBlocks): void {
  if ([...part.earlier, ...part.later].some(isCell)) return;
  const entries = (side: Side): Loose[] => looseRow(part[side], side, parents[side], null);
  out.set(part, { earlier: entries('earlier'), later: entries('later') });
}

function isCell(node: Node): boolean {
  return roleOf(node) === 'cell';
}

function looseRow(nodes: readonly Node[], side: Side, parent: string, above: Loose | null): Loose[] {
  const row: Loose[] = [];
  for (const node of nodes) {
    const entry = { node, side, parent, above, row, at: row.length, claim: null, copyOf: null };
    const holds = !node.isTextblock && !/^(table|row|cell)$/.test(roleOf(node) ?? '');
    const kids: Loose[] = [];
    const whole: Loose = Object.assign(entry, { kids });
    if (holds) kids.push(...looseRow(node.children, side, node.type.name, whole));
    row.push(whole);
  }
  return row;
}

/** What is enough to be taken for moved. */
type Enough = Readonly<Record<'blockWords' | 'editedWords' | 'editedLikeness', number>>;

/** Claims loose blocks of both sides for each other: equal ones first, the largest first, then ones edited on the way. */
export function claimMoves(
  blocks: LooseBlocks,
  lexicon: Lexicon,
  pair: (a: Node, b: Node) => Keep | Pair,
  enough: Enough = MOVED,
): void {
  const all = (side: Side): Loose[] => [...blocks.values()].flatMap((sides) => sides[side].flatMap(withKids));
  const bySize = (entries: Loose[]): Loose[] =>
    entries.sort(
      (x, y) => lexicon.count(y.node) - lexicon.count(x.node) || y.node.nodeSize - x.node.nodeSize,
    );
  const earlier = bySize(all('earlier'));
  const later = bySize(all('later'));
  if (earlier.length === 0 || later.length === 0) return;
  const claim = (one: Loose, other: Loose): void => {
    const moved: Moved = {
      change: { id: -1 },
      earlier: [one.node],
      later: [other.node],
      body: pair(one.node, other.node),
      parents: { earlier: one.parent, later: other.parent },
      from: -1,
      to: -1,
      across: { from: -1, to: -1 },
      regrouped: false,
    };
    one.claim = other.claim = moved;
  };
  claimEqual(earlier, later, lexicon, enough, claim);
  claimSimilar(earlier, later, lexicon, enough, claim);
  claimBeside(later, earlier, claim);
}

function withKids(entry: Loose): Loose[] {
  return [entry, ...entry.kids.flatMap(withKids)];
}

function isFree(entry: Loose): boolean {
  for (let above: Loose | null = entry; above; above = above.above) if (above.claim) return false;
  return !holdsClaim(entry);
}

/** Whether a block, or one in it, was claimed. */
export function holdsClaim(entry: Loose): boolean {
  return entry.claim !== null || entry.kids.some(holdsClaim);
}

type Claim = (one: Loose, other: Loose) => void;

function claimEqual(
  earlier: readonly Loose[],
  later: readonly Loose[],
  lexicon: Lexicon,
  enough: Enough,
  claim: Claim,
): void {
  const leaving = new Map<number, Loose[]>();
  for (const entry of earlier) {
    const number = lexicon.block(entry.node);
    const list = leaving.get(number);
    if (list) list.push(entry);
    else leaving.set(number, [entry]);
  }
  const coming = new Map<number, number>();
  for (const { node } of later) coming.set(lexicon.block(node), (coming.get(lexicon.block(node)) ?? 0) + 1);
  for (const entry of later) {
    const number = lexicon.block(entry.node);
    const same = leaving.get(number);
    if (!same || !isMovable(entry, lexicon, enough, same.length === 1 && coming.get(number) === 1)) continue;
    const found = isFree(entry) ? same.find(isFree) : undefined;
    if (found) claim(found, entry);
  }
}

/** Claims what stands beside something that moved on both sides, and is equal there, however short: a heading goes with what stands under it. */
function claimBeside(later: readonly Loose[], earlier: readonly Loose[], claim: Claim): void {
  const before = new Map<Moved, Loose>();
  for (const entry of earlier) if (entry.claim) before.set(entry.claim, entry);
  const beside = (entry: Loose, by: 1 | -1): Loose | undefined => entry.row[entry.at + by];
  for (const entry of later)
    for (const by of [-1, 1] as const) {
      let [one, other] = [entry.claim ? before.get(entry.claim) : undefined, entry as Loose | undefined];
      while (one?.claim && other?.claim === one.claim) {
        [one, other] = [beside(one, by), beside(other, by)];
        if (one && other && isFree(one) && isFree(other) && one.node.eq(other.node)) claim(one, other);
      }
    }
}

/** Whether a block may be told as moved: it has words enough, or, in a list or a table, is the only one of its kind. */
function isMovable({ node }: Loose, lexicon: Lexicon, enough: Enough, isOnly: boolean): boolean {
  const words = lexicon.count(node);
  if (words >= enough.blockWords || (isOnly && words > 0 && /^(item|row)$/.test(roleOf(node) ?? '')))
    return true;
  return node.isTextblock && node.children.some((child) => roleOf(child) === 'picture');
}

function claimSimilar(
  earlier: readonly Loose[],
  later: readonly Loose[],
  lexicon: Lexicon,
  enough: Enough,
  claim: Claim,
): void {
  const candidates = earlier.filter(
    (entry) => lexicon.count(entry.node) >= enough.editedWords && isFree(entry),
  );
  const homes = new Map<number, number[]>();
  candidates.forEach((entry, i) => {
    let last = -1;
    for (const word of lexicon.bags.words(entry.node)) {
      if (word === last) continue;
      last = word;
      const list = homes.get(word);
      if (list) list.push(i);
      else homes.set(word, [i]);
    }
  });
  for (const entry of later) {
    if (lexicon.count(entry.node) < enough.editedWords || !isFree(entry)) continue;
    const votes = new Map<number, number>();
    for (const word of lexicon.bags.words(entry.node)) {
      const list = homes.get(word) ?? [];
      if (list.length <= COMMON) for (const i of list) votes.set(i, (votes.get(i) ?? 0) + 1);
    }
    const likely = [...votes].sort((x, y) => y[1] - x[1] || x[0] - y[0]).slice(0, CANDIDATES);
    let best: Loose | null = null;
    let bestLike: number = enough.editedLikeness;
    for (const [i] of likely) {
      const other = candidates[i] as Loose;
      if (!mayMove(other.node, entry.node) || !isFree(other)) continue;
      const like = lexicon.bags.similarity(other.node, entry.node);
      if (like > bestLike || (like === bestLike && !best)) [best, bestLike] = [other, like];
    }
    if (best) claim(best, entry);
  }
}

/** Whether one block may have become another on its way: rows only of as many cells. */
function mayMove(a: Node, b: Node): boolean {
  return mayPair(a, b) && a.childCount > 0 && (roleOf(a) !== 'row' || a.childCount === b.childCount);
}

/** Marks loose later blocks that stand word for word in the earlier document, as copies. */
export function markCopies(blocks: LooseBlocks, earlier: Node, lexicon: Lexicon): void {
  let places: Map<number, { from: number; to: number }> | null = null;
  const visit = (entry: Loose): void => {
    if (entry.claim) return;
    if (lexicon.count(entry.node) >= MOVED.copyWords && !holdsClaim(entry)) {
      places ??= placesOf(earlier, lexicon);
      entry.copyOf = places.get(lexicon.block(entry.node)) ?? null;
      if (entry.copyOf) return;
    }
    entry.kids.forEach(visit);
  };
  for (const { later } of blocks.values()) later.forEach(visit);
}

function placesOf(doc: Node, lexicon: Lexicon): Map<number, { from: number; to: number }> {
  const out = new Map<number, { from: number; to: number }>();
  doc.descendants((node, position) => {
    const number = lexicon.block(node);
    if (!out.has(number)) out.set(number, { from: position, to: position + node.nodeSize });
    return !node.isTextblock && !(roleOf(node) === 'table' && isRectangular(node));
  });
  return out;
}

/**
 * Children of two nodes that moved among each other, of those that `matches` leaves without a counterpart; with what was split
 * off them, or joined to them, on the way.
 */
export function movedAmong(
  a: readonly Node[],
  b: readonly Node[],
  matches: readonly BlockMatch[],
  lexicon: Lexicon,
): BlockMatch[] {
  const gaps: { part: Difference; a: number; b: number }[] = [];
  let [x, y] = [0, 0];
  for (const match of [...matches, { a: a.length, aEnd: 0, b: b.length, bEnd: 0 }]) {
    if (match.a > x || match.b > y)
      gaps.push({ part: difference(a.slice(x, match.a), b.slice(y, match.b)), a: x, b: y });
    [x, y] = [match.aEnd, match.bEnd];
  }
  const blocks: LooseBlocks = new Map();
  for (const { part } of gaps) gather(part, { earlier: '', later: '' }, blocks);
  claimMoves(blocks, lexicon, (_, other) => keep(other), BROUGHT);
  const from = new Map<Moved, number>();
  const out: { a: number; b: number }[] = [];
  for (const gap of gaps)
    for (const entry of blocks.get(gap.part)?.earlier ?? [])
      if (entry.claim) from.set(entry.claim, gap.a + entry.at);
  for (const gap of gaps)
    for (const entry of blocks.get(gap.part)?.later ?? []) {
      const start = entry.claim ? from.get(entry.claim) : undefined;
      if (start !== undefined) out.push({ a: start, b: gap.b + entry.at });
    }
  return seamsAmong(out, matches, a, b, lexicon);
}
