import type { Match } from '../history/index.js';
import type { Comparison } from './compare.js';
import { walk } from './union.js';

/** What both documents of a comparison share, as stretches of positions in order: what `compileSteps` leaves untouched. */
export function matchesOf({ union, earlier, later }: Comparison): Match[] {
  const out: Match[] = [];
  const add = (a: number, b: number, length: number): void => {
    const last = out.at(-1);
    if (last && last.a + last.length === a && last.b + last.length === b) {
      out[out.length - 1] = { ...last, length: last.length + length };
    } else if (length > 0) out.push({ a, b, length });
  };
  const closes: { a: number; b: number }[] = [];
  const flush = (a: number, b: number): void => {
    for (let close = closes.at(-1); close && (close.a < a || close.b < b); close = closes.at(-1)) {
      closes.pop();
      if (close.a < earlier.content.size && close.b < later.content.size) add(close.a, close.b, 1);
    }
  };
  walk(union, -1, -1, (part, a, b) => {
    flush(a, b);
    if (part.kind === 'keep') add(a, b, part.node.nodeSize);
    if (part.kind !== 'pair' || part.earlier === earlier) return;
    if (part.earlier.isLeaf) add(a, b, part.earlier.nodeSize);
    else {
      if (part.earlier.type === part.later.type) add(a, b, 1);
      closes.push({ a: a + part.earlier.nodeSize - 1, b: b + part.later.nodeSize - 1 });
    }
  });
  flush(Infinity, Infinity);
  return out;
}
