import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { childrenOf } from '../content/index.js';
import type { Outlook } from './align.js';
import { alignBlocks } from './align.js';
import type { Anchor } from './anchors.js';
import { longestIncreasing } from './anchors.js';
import { shared } from './bags.js';
import type { Cell, Difference, Grid, Handle, Keep, Line, Pair, Union } from './union.js';
import { difference } from './union.js';
import { LIKENESS } from './thresholds.js';

/**
 * Compares two tables whose columns differ: columns are aligned by the words in them, rows by what stands in the columns
 * both have. Null when the columns answer to each other one for one, so that the rows can be compared as any children.
 */
export function compareGrid(
  a: Node,
  b: Node,
  outlook: Outlook,
  pair: (a: Node, b: Node) => Keep | Pair,
): { kids: Union[]; grid: Grid } | null {
  const columns = alignColumns(a, b, outlook);
  const [widthA, widthB] = [a.firstChild?.childCount ?? 0, b.firstChild?.childCount ?? 0];
  if (columns.length === widthA && columns.length === widthB) return null;
  const lines = merge(columns, widthA, widthB);
  const rows = alignRows(a, b, columns, outlook);
  const kids: Union[] = [];
  const grid: (Line & { cells: Cell[] })[] = [];
  const nodes = (row: Node | null): Node[] => (row ? childrenOf(row) : []);
  for (const { a: x, b: y, side, change } of merge(rows, a.childCount, b.childCount)) {
    const [earlier, later] = [x === null ? null : a.child(x), y === null ? null : b.child(y)];
    const [one, other] = [nodes(earlier), nodes(later)];
    const cells = lines.map((line): Cell & { change: Line['change'] } => {
      const [p, q] = [
        line.a === null ? null : (one[line.a] ?? null),
        line.b === null ? null : (other[line.b] ?? null),
      ];
      return { earlier: p, later: q, both: p && q ? pair(p, q) : null, change: line.change };
    });
    grid.push({ side, change, cells });
    kids.push(
      earlier && later
        ? { kind: 'pair', earlier, later, form: null, kids: cells.map(cellPart) }
        : soleLine(earlier, later, change),
    );
  }
  return { kids, grid: { columns: lines.map(({ side, change }) => ({ side, change })), rows: grid } };
}

function cellPart({ earlier, later, both, change }: Cell & { change: Line['change'] }): Union {
  return both ?? soleLine(earlier, later, change);
}

/** A row or a cell that one side has. */
function soleLine(earlier: Node | null, later: Node | null, change: Handle | null): Difference {
  return difference(earlier ? [earlier] : [], later ? [later] : [], change ?? undefined);
}

/** Both sides' lines in one order: those of the earlier side first where only one side has them. */
function merge(pairs: readonly Anchor[], n: number, m: number) {
  const out: (Line & { a: number | null; b: number | null })[] = [];
  let [x, y] = [0, 0];
  for (const { a, b } of [...pairs, { a: n, b: m }]) {
    while (x < a) out.push({ a: x++, b: null, side: 'earlier', change: { id: -1 } });
    while (y < b) out.push({ a: null, b: y++, side: 'later', change: { id: -1 } });
    if (a < n) out.push({ a: x++, b: y++, side: null, change: null });
  }
  return out;
}

function alignColumns(a: Node, b: Node, { lexicon }: Outlook): Anchor[] {
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
  const byPlace = found.length === 0 || (one.length === other.length && found.length * 2 <= one.length);
  return byPlace
    ? Array.from({ length: Math.min(one.length, other.length) }, (_, i) => ({ a: i, b: i }))
    : found;
}

/** Aligns rows by what stands in the columns both tables have. */
function alignRows(a: Node, b: Node, columns: readonly Anchor[], outlook: Outlook): Anchor[] {
  const cut = (table: Node, side: 'a' | 'b'): Node[] =>
    childrenOf(table).map((row) =>
      row.copy(Fragment.fromArray(columns.map((column) => row.child(column[side])))),
    );
  return alignBlocks(cut(a, 'a'), cut(b, 'b'), outlook);
}
