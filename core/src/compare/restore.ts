import type { Node } from 'prosemirror-model';
import type { Compiled, Inserted, Match, PlacedRun, PlacedRuns, Proposal, Source } from '../history/index.js';
import { compileSteps } from '../history/index.js';
import { compare } from './compare.js';
import { matchesOf } from './matches.js';

/** The runs, with their positions, that hold what a stretch of some document holds. */
export type Origin = Pick<PlacedRuns, 'between'>;

/** The steps that turn the present document into `target`, as few and small as may be, and what of it they insert. */
export function turning(now: Node, target: Node): Compiled {
  return compileSteps(now, target, matchesOf(compare(now, target)));
}

/** Where what is inserted came from, as far as `origin`, told in positions of the target, knows. */
export function returning(inserted: readonly Inserted[], origin: Origin): Source[] {
  return inserted.flatMap(({ step, at, length, b }) =>
    origin.between(b, b + length).map((run): Source => ({
      step,
      at: at + run.from - b,
      seq: run.seq,
      offset: run.offset,
      length: run.length,
    })),
  );
}

/**
 * The edit that turns the present document into `target`. `origin`, when the target has content of an earlier moment of
 * the same document, tells which runs that is, so that what comes back keeps its origin.
 */
export function becoming(now: Node, target: Node, origin: Origin | null = null): Proposal {
  const { steps, inserted } = turning(now, target);
  return { steps, sources: origin ? returning(inserted, origin) : [] };
}

/** What two documents share, as stretches of the first and where they stand in the second. */
export function sharedBy(earlier: Node, target: Node): Match[] {
  return matchesOf(compare(earlier, target));
}

/** Of what stands in a target, the runs of an earlier moment that hold it, by what the two share. */
export function originBy(shared: readonly Match[], placed: Origin): Origin {
  return {
    between(from, to) {
      const out: PlacedRun[] = [];
      let i = firstPast(shared, from);
      for (let match = shared[i]; match && match.b < to; match = shared[++i]) {
        const [start, end, shift] = [
          Math.max(from, match.b),
          Math.min(to, match.b + match.length),
          match.b - match.a,
        ];
        for (const run of placed.between(start - shift, end - shift))
          out.push({ ...run, from: run.from + shift, to: run.to + shift });
      }
      return out;
    },
  };
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
