import type { Match } from '../history/index.js';
import type { Comparison } from './compare.js';
import type { Difference } from './union.js';
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
    if (part.kind === 'difference') for (const end of sharedEnds(part)) add(a + end.a, b + end.b, end.length);
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

/**
 * Letters that a replaced word shares with what replaces it, at either end. A reader is shown whole words, but steps need
 * not touch letters that stay, and what somebody types beside them survives.
 */
function sharedEnds({ earlier, later }: Difference): Match[] {
  if (![...earlier, ...later].every((node) => node.isText)) return [];
  const [a, b] = [earlier.map((node) => node.text).join(''), later.map((node) => node.text).join('')];
  const most = Math.min(a.length, b.length);
  let head = 0;
  while (head < most && a[head] === b[head]) head++;
  if (isLead(a, head - 1)) head--;
  let tail = 0;
  while (tail < most - head && a[a.length - 1 - tail] === b[b.length - 1 - tail]) tail++;
  if (isLead(a, a.length - tail - 1)) tail--;
  return [
    { a: 0, b: 0, length: head },
    { a: a.length - tail, b: b.length - tail, length: tail },
  ].filter((end) => end.length > 0);
}

/** Whether the unit at an index is the first half of a surrogate pair. */
function isLead(text: string, index: number): boolean {
  return /[\ud800-\udbff]/.test(text.charAt(index));
}
