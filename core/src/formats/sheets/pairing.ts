import { commonRuns } from '../../compare/index.js';
import { isFormula } from '../../kinds/sheet/index.js';

/** Largest table of likenesses filled at once; longer stretches are paired as they stand. */
const TABLE = 1 << 16;
/** Share of equal cells, or of equal texts, from which two rows, or two columns, are the same one. */
const SAME = 0.5;

/** Columns by their heading and by the texts they share, the most alike first; what is left where it stands. */
export function pairedColumns(
  one: readonly (readonly string[])[],
  width: number,
  two: readonly (readonly string[])[],
  other: number,
): Map<number, number> {
  const bag = (rows: readonly (readonly string[])[], column: number): Map<string, number> => {
    const out = new Map<string, number>();
    for (const row of rows) {
      const text = row[column] ?? '';
      if (text !== '') out.set(text, (out.get(text) ?? 0) + 1);
    }
    return out;
  };
  const size = (of: ReadonlyMap<string, number>): number =>
    [...of.values()].reduce((sum, count) => sum + count, 0);
  const own = Array.from({ length: width }, (_, i) => bag(one, i));
  const known = Array.from({ length: other }, (_, i) => bag(two, i));
  const pairs: { a: number; b: number; like: number }[] = [];
  own.forEach((texts, a) =>
    known.forEach((more, b) => {
      const all = size(texts) + size(more);
      let common = 0;
      for (const [text, count] of texts) common += Math.min(count, more.get(text) ?? 0);
      const heading = one[0]?.[a] ?? '';
      const same = heading !== '' && heading === two[0]?.[b] ? 1 : 0;
      const like = (all === 0 ? 0 : (2 * common) / all) + same;
      if (like >= SAME) pairs.push({ a, b, like: like + (a === b ? 0.001 : 0) });
    }),
  );
  const out = new Map<number, number>();
  const taken = new Set<number>();
  const take = (a: number, b: number): void => {
    out.set(a, b);
    taken.add(b);
  };
  for (const { a, b } of pairs.sort((x, y) => y.like - x.like)) if (!out.has(a) && !taken.has(b)) take(a, b);
  for (let i = 0; i < Math.min(width, other); i++) if (!out.has(i) && !taken.has(i)) take(i, i);
  return out;
}

/**
 * Rows with equal cells in the columns both have, in order and then wherever they went; then those of one name, wherever they went; between those in
 * order, rows with most cells equal.
 */
export function pairedRows(
  one: readonly (readonly string[])[],
  two: readonly (readonly string[])[],
  columns: ReadonlyMap<number, number>,
): Map<number, number> {
  const lines = [...columns];
  const numbers = new Map<string, number>();
  const numbered = (rows: readonly (readonly string[])[], side: 0 | 1): Int32Array =>
    Int32Array.from(rows, (row) => {
      const key = JSON.stringify(lines.map((pair) => row[pair[side]] ?? ''));
      const known = numbers.get(key) ?? numbers.size;
      numbers.set(key, known);
      return known;
    });
  const [own, known] = [numbered(one, 0), numbered(two, 1)];
  const out = new Map<number, number>();
  const taken = new Set<number>();
  const take = (a: number, b: number): void => {
    out.set(a, b);
    taken.add(b);
  };
  const runs = commonRuns(own, known);
  for (const { a, b, length } of runs) for (let i = 0; i < length; i++) take(a + i, b + i);
  const homes = new Map<number, number[]>();
  known.forEach((number, b) => {
    if (!taken.has(b) && !homes.get(number)?.push(b)) homes.set(number, [b]);
  });
  own.forEach((number, a) => {
    const b = out.has(a) ? undefined : homes.get(number)?.shift();
    if (b !== undefined) take(a, b);
  });
  const first = Math.min(...columns.keys());
  const named = rowsByName(two, columns.get(first) ?? 0);
  for (const [name, a] of rowsByName(one, first)) {
    const b = named.get(name);
    if (b !== undefined && !out.has(a) && !taken.has(b)) take(a, b);
  }
  let [x, y] = [0, 0];
  for (const { a, b, length } of [...runs, { a: own.length, b: known.length, length: 0 }]) {
    const left = range(x, a).filter((i) => !out.has(i));
    const right = range(y, b).filter((i) => !taken.has(i));
    for (const [i, j] of alike(left, right, (i, j) => likeness(one[i] ?? [], two[j] ?? [], lines)))
      take(i, j);
    [x, y] = [a + length, b + length];
  }
  return out;
}

/** Rows by what they are called: what stands in their first column, where it is words and stands there once. */
function rowsByName(rows: readonly (readonly string[])[], column: number): Map<string, number> {
  const out = new Map<string, number>();
  const often = new Set<string>();
  rows.forEach((row, i) => {
    const text = row[column] ?? '';
    if (!/\p{L}/u.test(text) || isFormula(text)) return;
    if (out.has(text)) often.add(text);
    out.set(text, i);
  });
  for (const text of often) out.delete(text);
  return out;
}

function range(from: number, to: number): number[] {
  return Array.from({ length: to - from }, (_, i) => from + i);
}

/** Share of cells that are equal, of those that hold something on either side. */
function likeness(
  one: readonly string[],
  other: readonly string[],
  columns: readonly (readonly [number, number])[],
): number {
  let [same, all] = [0, 0];
  for (const [a, b] of columns) {
    const [p, q] = [one[a] ?? '', other[b] ?? ''];
    if (p === '' && q === '') continue;
    all++;
    if (p === q) same++;
  }
  return all === 0 ? 0 : same / all;
}

/** Pairs in order whose likenesses add to most; where that table would be too large, those that stand in one place. */
function alike(
  left: readonly number[],
  right: readonly number[],
  like: (i: number, j: number) => number,
): [number, number][] {
  const [n, m] = [left.length, right.length];
  if (n * m > TABLE)
    return left.slice(0, m).flatMap((i, k): [number, number][] => {
      const j = right[k] as number;
      return like(i, j) >= SAME ? [[i, j]] : [];
    });
  const weight = left.map((i) => right.map((j) => like(i, j)));
  const best = Array.from({ length: n + 1 }, () => new Float64Array(m + 1));
  const at = (i: number, j: number): number => best[i]?.[j] ?? 0;
  const worth = (i: number, j: number): number => weight[i]?.[j] ?? 0;
  for (let i = n - 1; i >= 0; i--)
    for (let j = m - 1; j >= 0; j--) {
      const skip = Math.max(at(i + 1, j), at(i, j + 1));
      const take = worth(i, j) >= SAME ? worth(i, j) + at(i + 1, j + 1) : 0;
      (best[i] as Float64Array)[j] = Math.max(skip, take);
    }
  const out: [number, number][] = [];
  for (let i = 0, j = 0; i < n && j < m;) {
    if (worth(i, j) >= SAME && at(i, j) === worth(i, j) + at(i + 1, j + 1))
      out.push([left[i++] as number, right[j++] as number]);
    else if (at(i, j) === at(i + 1, j)) i++;
    else j++;
  }
  return out;
}
