import type { Node } from 'prosemirror-model';
import type { PlacedRuns, Source } from '../history/index.js';
import { compileSteps } from '../history/index.js';
import type { Proposal } from '../history/index.js';
import { compare } from './compare.js';
import { matchesOf } from './matches.js';

/** The runs, with their positions, that hold what a stretch of some document holds. */
export type Origin = Pick<PlacedRuns, 'between'>;

/**
 * The edit that turns the present document into `target`, in minimal steps. `origin`, when the target has content of an
 * earlier moment of the same document, tells which runs that is, so that what comes back keeps its origin.
 */
export function becoming(now: Node, target: Node, origin: Origin | null = null): Proposal {
  const { steps, inserted } = compileSteps(now, target, matchesOf(compare(now, target)));
  const sources = inserted.flatMap(({ step, at, length, b }) =>
    (origin?.between(b, b + length) ?? []).map((run): Source => ({
      step,
      at: at + run.from - b,
      seq: run.seq,
      offset: run.offset,
      length: run.length,
    })),
  );
  return { steps, sources };
}

/** Of what stands in `target`, the runs of an earlier moment that hold it: what the two documents share. */
export function originIn(target: Node, earlier: Node, placed: PlacedRuns): Origin {
  const matches = matchesOf(compare(earlier, target));
  return {
    between: (from, to) =>
      matches.flatMap(({ a, b, length }) => {
        const [start, end] = [Math.max(from, b), Math.min(to, b + length)];
        if (start >= end) return [];
        return placed
          .between(a + start - b, a + end - b)
          .map((run) => ({ ...run, from: run.from - a + b, to: run.to - a + b }));
      }),
  };
}
