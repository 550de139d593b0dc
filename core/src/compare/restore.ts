import type { Node } from 'prosemirror-model';
import type { Compiled, Inserted, Match } from '../history/index.js';
import { compileSteps } from '../history/index.js';
import { compare } from './compare.js';
import { matchesOf, sharedOf } from './matches.js';

/** The steps that turn the present document into `target`, as few and small as may be, and what of it they insert. */
export function turning(now: Node, target: Node): Compiled & { readonly shared: Match[] } {
  const comparison = compare(now, target);
  return { ...compileSteps(now, target, matchesOf(comparison)), shared: sharedOf(comparison) };
}

/** What a document and a target share, as stretches of the first and where they stand in the second, in that order. */
export function sharedBy(from: Node, target: Node): Match[] {
  return sharedOf(compare(from, target));
}

/** Content that an edit inserts and that stood at a position of some other document. */
export interface Returned {
  readonly step: number;
  readonly at: number;
  readonly length: number;
  readonly position: number;
}

/** Where what is inserted stood in a document that the target shares something with; null stands for all of it. */
export function returning(inserted: readonly Inserted[], shared: readonly Match[] | null): Returned[] {
  return inserted.flatMap(({ step, at, length, b }) => {
    if (!shared) return [{ step, at, length, position: b }];
    const out: Returned[] = [];
    let i = firstPast(shared, b);
    for (let match = shared[i]; match && match.b < b + length; match = shared[++i]) {
      const start = Math.max(b, match.b);
      const end = Math.min(b + length, match.b + match.length);
      out.push({ step, at: at + start - b, length: end - start, position: match.a + start - match.b });
    }
    return out;
  });
}

/** The first stretch that ends behind a position of the second document. Binary search. */
function firstPast(shared: readonly Match[], position: number): number {
  let [low, high] = [0, shared.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const { b, length } = shared[middle] as Match;
    if (b + length <= position) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What is inserted without what some of it is known to be already. */
export function unclaimed(inserted: readonly Inserted[], claimed: readonly Returned[]): Inserted[] {
  return inserted.flatMap((one) => {
    const out: Inserted[] = [];
    let at = one.at;
    const push = (to: number): void => {
      if (to > at) out.push({ step: one.step, at, length: to - at, b: one.b + at - one.at });
    };
    for (const held of claimed) {
      if (held.step !== one.step || held.at >= one.at + one.length || held.at + held.length <= at) continue;
      push(held.at);
      at = held.at + held.length;
    }
    push(one.at + one.length);
    return out;
  });
}
