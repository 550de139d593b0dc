import type { Node } from 'prosemirror-model';
import { longestIncreasing } from './anchors.js';
import type { Lexicon } from './lexicon.js';
import type { Loose } from './loose.js';
import { claimMoves, holdsClaim, looseBlocks, markCopies } from './loose.js';
import type { Difference, Handle, Keep, Moved, Pair, Sole, Union } from './union.js';
import type { Words } from './text-moves.js';
import { textMoves } from './text-moves.js';
import { difference, sizeOf, walk } from './union.js';

/**
 * Finds what moved among the differences of a union: blocks wherever they went, edited on the way or not, and stretches of
 * text. A block that stayed in the order of reading while what is round it changed, as when a paragraph is put into a
 * quote, has not moved: that is a change of form. Blocks that stand in the earlier document too are marked as copies.
 * Sources of the idea: Heckel 1978; W. F. Tichy, "The string-to-string correction problem with block moves", ACM TOCS 2
 * (1984).
 */
export function findMoves(
  root: Pair,
  earlier: Node,
  lexicon: Lexicon,
  pair: (a: Node, b: Node) => Keep | Pair,
  words: Words,
): Pair {
  const blocks = looseBlocks(root);
  claimMoves(blocks, lexicon, pair);
  markCopies(blocks, earlier, lexicon);
  const parts = new Map<Difference, readonly Union[]>();
  for (const [difference, sides] of blocks) {
    const special = [...sides.earlier, ...sides.later].some((entry) => holdsClaim(entry) || holdsCopy(entry));
    if (special) parts.set(difference, together(partsOf(sides.earlier), partsOf(sides.later)));
  }
  for (const [difference, moved] of textMoves(root, parts, lexicon, words)) parts.set(difference, moved);
  if (parts.size === 0 && !holdsMove(root)) return root;
  const union = rewritten(root, parts);
  settle(union);
  return union;
}

/** Whether a column of some table moved. */
function holdsMove(part: Union): boolean {
  if (part.kind !== 'pair' || part.earlier.isTextblock) return false;
  return part.grid ? part.grid.columns.some(({ moved }) => moved) : part.kids.some(holdsMove);
}

function holdsCopy(entry: Loose): boolean {
  return entry.copyOf !== null || entry.kids.some(holdsCopy);
}

/** One side of a difference as parts: what moved, containers of such, and the stretches between. */
function partsOf(entries: readonly Loose[], within: Handle | null = null): Union[] {
  const out: Union[] = [];
  let rest: Node[] = [];
  const side = entries[0]?.side ?? 'later';
  const one = (nodes: readonly Node[], copyOf?: Difference['copyOf']): Difference =>
    difference(side === 'earlier' ? nodes : [], side === 'later' ? nodes : [], within ?? { id: -1 }, copyOf);
  const flush = (): void => {
    if (rest.length > 0) out.push(one(rest));
    rest = [];
  };
  for (const entry of entries) {
    if (entry.claim) {
      flush();
      out.push({ kind: 'move', at: side, moved: entry.claim });
    } else if (holdsClaim(entry)) {
      flush();
      const change = within ?? { id: -1 };
      out.push({ kind: 'sole', change, side, shape: entry.node, kids: partsOf(entry.kids, change) });
    } else if (entry.copyOf && !within) {
      flush();
      out.push(one([entry.node], entry.copyOf));
    } else rest.push(entry.node);
  }
  flush();
  return out;
}

/** Both sides' parts in one row; when each has one plain stretch left, the two are one replacement. */
function together(earlier: readonly Union[], later: readonly Union[]): Union[] {
  const plain = (parts: readonly Union[]): Difference[] =>
    parts.flatMap((part) => (part.kind === 'difference' && !part.copyOf ? [part] : []));
  const [left, right] = [plain(earlier), plain(later)];
  const [one, other] = [left[0], right[0]];
  if (!one || !other || left.length > 1 || right.length > 1) return [...earlier, ...later];
  const [i, j] = [earlier.indexOf(one), later.indexOf(other)];
  const both = difference(one.earlier, other.later, one.change);
  return [...earlier.slice(0, i), ...later.slice(0, j), both, ...earlier.slice(i + 1), ...later.slice(j + 1)];
}

function rewritten<T extends Union>(part: T, parts: ReadonlyMap<Difference, readonly Union[]>): T {
  if (!('kids' in part) || part.kids.length === 0 || ('grid' in part && part.grid)) return part;
  const kids = part.kids.flatMap((kid): readonly Union[] =>
    kid.kind === 'difference' ? (parts.get(kid) ?? [kid]) : [rewritten(kid, parts)],
  );
  return { ...part, kids };
}

/** Finds the places of what moved, tells moving from regrouping, and joins regrouping with the containers it is about. */
function settle(union: Pair): void {
  const kept: { a: number; b: number }[] = [];
  const moves = new Set<Moved>();
  const soles: Sole[] = [];
  walk(
    union,
    -1,
    -1,
    (part, a, b) => {
      if (part.kind === 'move') {
        moves.add(part.moved);
        const { moved } = part;
        if (part.at === 'earlier') [moved.from, moved.across.from] = [a, b];
        else [moved.to, moved.across.to] = [b, a];
      } else if (part.kind === 'sole') soles.push(part);
      else if (part.kind === 'seams' || (part.kind === 'pair' && part.earlier.isTextblock))
        kept.push({ a, b });
      else if (part.kind === 'keep' && part.node.isBlock) kept.push({ a, b });
    },
    false,
  );
  const blocks = [...moves].filter((moved) => moved.body !== null && !moved.ofColumn);
  markRegrouped(blocks, kept);
  joinMoves(blocks);
  joinContainers(soles);
  if (soles.length > 0) joinCuts(union);
}

/** Blocks that moved side by side, and stand side by side again, are one move: a section, or a few paragraphs. */
function joinMoves(moves: readonly Moved[]): void {
  const follows = new Map(moves.filter(({ regrouped }) => !regrouped).map((moved) => [moved.to, moved]));
  for (const moved of [...follows.values()].sort((a, b) => a.to - b.to)) {
    const next = follows.get(moved.to + sizeOf(moved.later));
    const isBeside = next?.from === moved.from + sizeOf(moved.earlier);
    if (next && isBeside && next.parents.later === moved.parents.later) next.change = moved.change;
  }
}

function markRegrouped(moves: readonly Moved[], kept: readonly { a: number; b: number }[]): void {
  const before = (side: 'a' | 'b', position: number): number => {
    let [low, high] = [0, kept.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((kept[middle] as { a: number; b: number })[side] < position) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  const still = moves
    .filter((moved) => before('a', moved.from) === before('b', moved.to))
    .map((moved) => ({ a: moved.from, b: moved.to, moved }))
    .sort((x, y) => x.a - y.a);
  for (const { moved } of longestIncreasing(still, ({ moved: { later } }) => sizeOf(later)))
    moved.regrouped = true;
}

/** A container that holds nothing but regrouped blocks comes and goes with them: one change. */
function joinContainers(soles: readonly Sole[]): void {
  const parents = new Map<Handle, Handle>();
  const find = (handle: Handle): Handle => {
    let root = handle;
    for (let next = parents.get(root); next; next = parents.get(root)) root = next;
    return root;
  };
  const nested = new Set(soles.flatMap((sole) => sole.kids.filter((kid) => kid.kind === 'sole')));
  const pure = soles.filter((sole) => !nested.has(sole) && isPure(sole));
  const inside = (part: Union): (Moved | Sole)[] =>
    part.kind === 'move' ? [part.moved] : part.kind === 'sole' ? [part, ...part.kids.flatMap(inside)] : [];
  for (const sole of pure) {
    for (const part of inside(sole)) {
      const [one, other] = [find(sole.change), find(part.change)];
      if (one !== other) parents.set(other, one);
    }
  }
  for (const part of pure.flatMap(inside)) part.change = find(part.change);
}

/**
 * A list, quote or the like that was cut in two by what was put between, or became one when that went: the cut is told with what was
 * put there.
 */
function joinCuts(part: Union): void {
  if (!('kids' in part)) return;
  part.kids.forEach((between, i) => {
    joinCuts(between);
    if (between.kind !== 'difference' || between.inline) return;
    for (const [cut, rest] of [
      [part.kids[i + 1], part.kids[i - 1]],
      [part.kids[i - 1], part.kids[i + 1]],
    ])
      if (cut?.kind === 'sole' && rest?.kind === 'pair' && isCut(cut, between, rest))
        carry(cut, between.change);
  });
}

function isCut(cut: Sole, { sizes: [gone, come] }: Difference, rest: Pair): boolean {
  const isBeside = cut.side === 'later' ? gone === 0 : come === 0;
  const { type, attrs, marks } = cut.shape;
  return isBeside && isPure(cut) && rest.form === null && rest.later.hasMarkup(type, attrs, marks);
}

/** Lets a change decide about a container and what was regrouped into it or out of it. */
function carry(sole: Sole, change: Handle): void {
  sole.change = change;
  for (const kid of sole.kids) {
    if (kid.kind === 'sole') carry(kid, change);
    else if (kid.kind === 'move') {
      kid.moved.change = change;
      kid.moved.carried = true;
    }
  }
}

function isPure(sole: Sole): boolean {
  return sole.kids.every(
    (kid) => (kid.kind === 'move' && kid.moved.regrouped) || (kid.kind === 'sole' && isPure(kid)),
  );
}
