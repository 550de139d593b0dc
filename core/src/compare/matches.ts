import type { Node } from 'prosemirror-model';
import type { Match } from '../history/index.js';
import type { Comparison } from './compare.js';
import type { Difference } from './union.js';
import { depthIn, sizeOf, textOf, walk } from './union.js';

/**
 * What both documents of a comparison share, as stretches of positions in order: what `compileSteps` leaves untouched. Of
 * what moved, that is what stayed in order.
 */
export function matchesOf(comparison: Comparison): Match[] {
  return inOrder(foundIn(comparison));
}

/** The same with all that moved, by places in the later document. */
export function sharedOf(comparison: Comparison): Match[] {
  const out: Match[] = [];
  for (const match of foundIn(comparison).sort((x, y) => x.b - y.b || y.length - x.length)) {
    const last = out.at(-1);
    if (match.length === 0 || (last && match.b < last.b + last.length)) continue;
    if (last && last.a + last.length === match.a && last.b + last.length === match.b)
      out[out.length - 1] = { ...last, length: last.length + match.length };
    else out.push(match);
  }
  return out;
}

function foundIn({ union, earlier, later }: Comparison): Match[] {
  const found: Match[] = [];
  walk(union, -1, -1, (part, a, b) => {
    const ends = (one: readonly Node[], other: readonly Node[]): void => {
      const [first, second] = [one[0] as Node, other[0] as Node];
      const depth = part.kind === 'seams' ? depthIn(first) : 1;
      if (first.type === second.type) found.push({ a, b, length: depth });
      found.push({ a: a + sizeOf(one) - depth, b: b + sizeOf(other) - depth, length: depth });
    };
    if (part.kind === 'keep') found.push({ a, b, length: part.node.nodeSize });
    else if (part.kind === 'difference')
      for (const end of sharedEnds(part)) found.push({ a: a + end.a, b: b + end.b, length: end.length });
    else if (part.kind === 'seams') ends(part.earlier, part.later);
    else if (part.kind === 'move') {
      const { body, from, earlier: was, later: is } = part.moved;
      const isStill = !body && sizeOf(was) === sizeOf(is) && textOf(was) === textOf(is);
      if (part.at === 'later' && isStill) found.push({ a: from, b, length: sizeOf(is) });
    } else if (part.kind === 'pair' && part.earlier !== earlier) {
      if (part.earlier.isLeaf) found.push({ a, b, length: part.earlier.nodeSize });
      else ends([part.earlier], [part.later]);
    }
  });
  return found.filter(
    ({ a, b, length }) =>
      a >= 0 && b >= 0 && a + length <= earlier.content.size && b + length <= later.content.size,
  );
}

/** Matches sorted, those out of order dropped, neighbours as one. */
function inOrder(found: Match[]): Match[] {
  const out: Match[] = [];
  for (const match of found.sort((x, y) => x.b - y.b || x.a - y.a)) {
    const last = out.at(-1);
    const [a, b] = last ? [last.a + last.length, last.b + last.length] : [0, 0];
    if (match.length === 0 || match.a < a || match.b < b) continue;
    if (last && match.a === a && match.b === b)
      out[out.length - 1] = { ...last, length: last.length + match.length };
    else out.push(match);
  }
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
