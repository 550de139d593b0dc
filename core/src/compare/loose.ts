import type { Node } from 'prosemirror-model';
import { isRectangular } from '../content/index.js';
import { mayPair } from './kinship.js';
import type { Lexicon } from './lexicon.js';
import type { Difference, Keep, Moved, Pair, Side, Union } from './union.js';
import { MOVED } from './thresholds.js';

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
    if (part.kind !== 'difference' || part.inline) return;
    if ([...part.earlier, ...part.later].some(isCell)) return;
    const entries = (side: Side): Loose[] => part[side].map((node) => loose(node, side, parents[side], null));
    out.set(part, { earlier: entries('earlier'), later: entries('later') });
  };
  visit(root, { earlier: '', later: '' });
  return out;
}

function isCell(node: Node): boolean {
  return node.type.spec['tableRole'] === 'cell' || node.type.spec['tableRole'] === 'header_cell';
}

function loose(node: Node, side: Side, parent: string, above: Loose | null): Loose {
  const kids: Loose[] = [];
  const entry: Loose = { node, side, parent, above, kids, claim: null, copyOf: null };
  if (!node.isTextblock && !node.type.spec['tableRole'])
    node.forEach((child) => kids.push(loose(child, side, node.type.name, entry)));
  return entry;
}

/** Claims loose blocks of both sides for each other: equal ones first, the largest first, then ones edited on the way. */
export function claimMoves(
  blocks: LooseBlocks,
  lexicon: Lexicon,
  pair: (a: Node, b: Node) => Keep | Pair,
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
  claimEqual(earlier, later, lexicon, claim);
  claimSimilar(earlier, later, lexicon, claim);
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
  claim: Claim,
): void {
  const leaving = new Map<number, Loose[]>();
  for (const entry of earlier) {
    const number = lexicon.block(entry.node);
    const list = leaving.get(number);
    if (list) list.push(entry);
    else leaving.set(number, [entry]);
  }
  for (const entry of later) {
    if (!isMovable(entry.node, lexicon) || !isFree(entry)) continue;
    const found = leaving.get(lexicon.block(entry.node))?.find(isFree);
    if (found) claim(found, entry);
  }
}

function isMovable(node: Node, lexicon: Lexicon): boolean {
  if (lexicon.count(node) >= MOVED.blockWords) return true;
  return node.isTextblock && lexicon.holdsImage(node);
}

function claimSimilar(
  earlier: readonly Loose[],
  later: readonly Loose[],
  lexicon: Lexicon,
  claim: Claim,
): void {
  const candidates = earlier.filter(
    (entry) => lexicon.count(entry.node) >= MOVED.editedWords && isFree(entry),
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
    if (lexicon.count(entry.node) < MOVED.editedWords || !isFree(entry)) continue;
    const votes = new Map<number, number>();
    for (const word of lexicon.bags.words(entry.node)) {
      const list = homes.get(word) ?? [];
      if (list.length <= COMMON) for (const i of list) votes.set(i, (votes.get(i) ?? 0) + 1);
    }
    const likely = [...votes].sort((x, y) => y[1] - x[1] || x[0] - y[0]).slice(0, CANDIDATES);
    let best: Loose | null = null;
    let bestLike: number = MOVED.editedLikeness;
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
  return mayPair(a, b) && a.childCount > 0 && (a.type.name !== 'table_row' || a.childCount === b.childCount);
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
    return !node.isTextblock && !(node.type.name === 'table' && isRectangular(node));
  });
  return out;
}
