import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { childrenOf } from '../content/index.js';
import type { Outlook } from './align.js';
import { alignBlocks } from './align.js';
import type { Anchor } from './anchors.js';
import { longestIncreasing } from './anchors.js';
import { shared } from './bags.js';
import type { Cell, Difference, Grid, Handle, Keep, Line, Moved, Pair, Union } from './union.js';
import { difference } from './union.js';
import { LIKENESS, MOVED } from './thresholds.js';

/**
 * Compares two tables whose columns differ: columns are aligned by the words in them, wherever they went, and rows by what stands
 * in the columns both have. Null when the columns answer to each other one for one, so that the rows can be compared as any
 * children.
 */
export function compareGrid(
  a: Node,
  b: Node,
  outlook: Outlook,
  pair: (a: Node, b: Node) => Keep | Pair,
): { kids: Union[]; grid: Grid } | null {
  const { kept, moved } = alignColumns(a, b, outlook);
  const [widthA, widthB] = [a.firstChild?.childCount ?? 0, b.firstChild?.childCount ?? 0];
  if (kept.length === widthA && kept.length === widthB) return null;
  const columns = merge(kept, moved, widthA, widthB);
  const rows = alignRows(
    a,
    b,
    [...kept, ...moved].sort((x, y) => x.a - y.a),
    outlook,
  );
  const kids: Union[] = [];
  const grid: Grid['rows'][number][] = [];
  for (const { a: x, b: y, side, change } of merge(rows, [], a.childCount, b.childCount)) {
    const [earlier, later] = [x === null ? null : a.child(x), y === null ? null : b.child(y)];
    const { cells, parts } = rowOf(earlier, later, columns, pair);
    grid.push({ side, change, cells });
    kids.push(
      earlier && later
        ? { kind: 'pair', earlier, later, form: null, kids: parts }
        : soleLine(earlier, later, change),
    );
  }
  return {
    kids,
    grid: { columns: columns.map(({ side, change, moved }) => ({ side, change, moved })), rows: grid },
  };
}

/** A row or a column, and where it stands on either side. */
interface Numbered extends Line {
  readonly a: number | null;
  readonly b: number | null;
}

/** The cells of a row that one side has or both, for every column, and what they are told as. */
function rowOf(
  earlier: Node | null,
  later: Node | null,
  columns: readonly Numbered[],
  pair: (a: Node, b: Node) => Keep | Pair,
): { cells: readonly Cell[]; parts: readonly Union[] } {
  const went = new Map<Handle, Moved>();
  const cells: Cell[] = [];
  const parts: Union[] = [];
  for (const { a, b, side, change, moved } of columns) {
    const p = a === null ? null : (earlier?.maybeChild(a) ?? null);
    const q = b === null ? null : (later?.maybeChild(b) ?? null);
    const known = change ? went.get(change) : undefined;
    const both = known?.body ?? (p && q ? pair(p, q) : null);
    cells.push({ earlier: p, later: q, both });
    if (moved && change && side && p && q && both) {
      const cell = known ?? cellMoved(p, q, both, change);
      went.set(change, cell);
      parts.push({ kind: 'move', at: side, moved: cell });
    } else parts.push(both ?? soleLine(p, q, change));
  }
  return { cells, parts };
}

function cellMoved(earlier: Node, later: Node, body: Keep | Pair, change: Handle): Moved {
  return {
    change,
    earlier: [earlier],
    later: [later],
    body,
    parents: { earlier: '', later: '' },
    from: -1,
    to: -1,
    across: { from: -1, to: -1 },
    regrouped: false,
    ofColumn: true,
  };
}

/** A row or a cell that one side has. */
function soleLine(earlier: Node | null, later: Node | null, change: Handle | null): Difference {
  return difference(earlier ? [earlier] : [], later ? [later] : [], change ?? undefined);
}

/**
 * Both sides' lines in one order: those of the earlier side first where only one side has them. What moved stands at both its
 * places, under one change.
 */
function merge(kept: readonly Anchor[], moved: readonly Anchor[], n: number, m: number): Numbered[] {
  const [leaving, coming] = [new Map<number, Numbered>(), new Map<number, Numbered>()];
  for (const { a, b } of moved) {
    const change: Handle = { id: -1 };
    leaving.set(a, { a, b, side: 'earlier', change, moved: true });
    coming.set(b, { a, b, side: 'later', change, moved: true });
  }
  const gone = (a: number): Numbered => leaving.get(a) ?? { a, b: null, side: 'earlier', change: { id: -1 } };
  const come = (b: number): Numbered => coming.get(b) ?? { a: null, b, side: 'later', change: { id: -1 } };
  const out: Numbered[] = [];
  let [x, y] = [0, 0];
  for (const { a, b } of [...kept, { a: n, b: m }]) {
    while (x < a) out.push(gone(x++));
    while (y < b) out.push(come(y++));
    if (a < n) out.push({ a: x++, b: y++, side: null, change: null });
  }
  return out;
}

/** Columns that are the same ones: those that kept their order, and those that moved across them. */
function alignColumns(
  a: Node,
  b: Node,
  { lexicon }: Outlook,
): { kept: readonly Anchor[]; moved: readonly Anchor[] } {
  const bags = (table: Node): Int32Array[] => {
    const columns: number[][] = [];
    table.forEach((row) =>
      row.forEach((cell, _offset, i) => (columns[i] ??= []).push(...lexicon.bags.words(cell))),
    );
    return columns.map((words) => Int32Array.from(words).sort());
  };
  const [one, other] = [bags(a), bags(b)];
  const heading = (table: Node, column: number): number => {
    const cell = table.firstChild?.maybeChild(column);
    return cell && cell.textContent !== '' ? lexicon.piece(cell.textContent) : -1;
  };
  const pairs: (Anchor & { like: number })[] = [];
  one.forEach((words, i) =>
    other.forEach((more, j) => {
      const all = words.length + more.length;
      const like = all === 0 ? LIKENESS.column : (2 * shared(words, more)) / all;
      const same = heading(a, i) === heading(b, j) && heading(a, i) >= 0 ? 1 : 0;
      if (like + same >= LIKENESS.column) pairs.push({ a: i, b: j, like: like + same });
    }),
  );
  const found = longestIncreasing(
    pairs.sort((x, y) => x.a - y.a || y.b - x.b),
    ({ like }) => like,
  );
  const moved = movedAmong(pairs, found);
  const count = found.length + moved.length;
  const byPlace = count === 0 || (one.length === other.length && count * 2 <= one.length);
  return byPlace
    ? {
        kept: Array.from({ length: Math.min(one.length, other.length) }, (_, i) => ({ a: i, b: i })),
        moved: [],
      }
    : { kept: found, moved };
}

/** Of pairs of columns the ones most alike, none of which is in another or among those that kept their order. */
function movedAmong(
  pairs: readonly (Anchor & { like: number })[],
  kept: readonly Anchor[],
): readonly Anchor[] {
  const taken = { a: new Set(kept.map(({ a }) => a)), b: new Set(kept.map(({ b }) => b)) };
  const out: Anchor[] = [];
  for (const { a, b, like } of [...pairs].sort((x, y) => y.like - x.like)) {
    if (like < MOVED.editedLikeness || taken.a.has(a) || taken.b.has(b)) continue;
    taken.a.add(a);
    taken.b.add(b);
    out.push({ a, b });
  }
  return out;
}

/** Aligns rows by what stands in the columns both tables have. */
function alignRows(a: Node, b: Node, columns: readonly Anchor[], outlook: Outlook): Anchor[] {
  const cut = (table: Node, side: 'a' | 'b'): Node[] =>
    childrenOf(table).map((row) =>
      row.copy(Fragment.fromArray(columns.map((column) => row.child(column[side])))),
    );
  return alignBlocks(cut(a, 'a'), cut(b, 'b'), outlook);
}
