import type { Node } from 'prosemirror-model';
import type { PlacedRuns, Source } from '../history/index.js';
import { compileSteps } from '../history/index.js';
import type { Proposal } from '../history/index.js';
import { compare } from './compare.js';
import { matchesOf } from './matches.js';

/**
 * The edit that turns the present document into `target`, in minimal steps. `placed`, when the target is an earlier
 * moment of the same document, gives its runs, so that what comes back keeps its origin.
 */
export function becoming(now: Node, target: Node, placed: PlacedRuns | null = null): Proposal {
  const { steps, inserted } = compileSteps(now, target, matchesOf(compare(now, target)));
  const sources = inserted.flatMap(({ step, at, length, b }) =>
    (placed?.between(b, b + length) ?? []).map((run): Source => ({
      step,
      at: at + run.from - b,
      seq: run.seq,
      offset: run.offset,
      length: run.length,
    })),
  );
  return { steps, sources };
}
