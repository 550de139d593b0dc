import type { Node } from 'prosemirror-model';
import type { Common } from './common-runs.js';

/** Equal blocks that must stand in a row after a few that differ, for both sides to be in step again. */
const STEP = 2;
/** How many blocks may have come, gone or changed between two such runs. */
const STRIDE = 4;

/**
 * Runs of equal blocks found by walking both sides in step, for a document of which little changed: blocks are compared
 * as they stand, without numbering them. It gives up where both sides fall out of step, save for their common end.
 */
export function equalRuns(a: readonly Node[], b: readonly Node[]): Common[] {
  const equal = (x: number, y: number): boolean => {
    const [p, q] = [a[x], b[y]];
    return p !== undefined && q !== undefined && (p === q || (p.nodeSize === q.nodeSize && p.eq(q)));
  };
  let tail = 0;
  while (tail < a.length && tail < b.length && equal(a.length - 1 - tail, b.length - 1 - tail)) tail++;
  const [aEnd, bEnd] = [a.length - tail, b.length - tail];
  const inStep = (x: number, y: number): boolean => {
    for (let i = 0; i < STEP; i++) {
      if (x + i === aEnd && y + i === bEnd) return i > 0;
      if (x + i >= aEnd || y + i >= bEnd || !equal(x + i, y + i)) return false;
    }
    return true;
  };
  const runs: Common[] = [];
  let [x, y] = [0, 0];
  for (;;) {
    let length = 0;
    while (x + length < aEnd && y + length < bEnd && equal(x + length, y + length)) length++;
    if (length > 0) runs.push({ a: x, b: y, length });
    const next = resume(x + length, y + length, inStep);
    if (!next) break;
    [x, y] = next;
  }
  if (tail > 0) runs.push({ a: aEnd, b: bEnd, length: tail });
  return runs;
}

/** The nearest places past `x` and `y` from which both sides are in step; those with as many blocks on either side first. */
function resume(x: number, y: number, inStep: (x: number, y: number) => boolean): [number, number] | null {
  for (const [i, j] of NEAREST) if (inStep(x + i, y + j)) return [x + i, y + j];
  return null;
}

const NEAREST = Array.from({ length: (STRIDE + 1) ** 2 - 1 }, (_, n): [number, number] => [
  Math.floor((n + 1) / (STRIDE + 1)),
  (n + 1) % (STRIDE + 1),
]).sort((p, q) => Number(p[0] !== p[1]) - Number(q[0] !== q[1]) || p[0] + p[1] - (q[0] + q[1]));
