import { Crossing, keepCarried, mapsOf } from '@oxbow/core/history';
import type { PendingEdit, SentEdit } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { Transform } from 'prosemirror-transform';

/** An edit as it fits the page, after those before it. */
export type Fitted = Pick<PendingEdit, 'steps' | 'sources' | 'cause'>;

/**
 * A draft's edits as they fit a page: they were made on the accepted document, which the page is with `waiting` on top.
 * What has no place there any more is left out.
 */
export function onTop(page: Node, edits: readonly SentEdit[], waiting: readonly Step[]): Fitted[] {
  const crossing = new Crossing(mapsOf(waiting));
  const tr = new Transform(page);
  const fits = (step: Step): boolean => !tr.maybeStep(step).failed;
  return edits.flatMap(({ steps, sources, cause }) => {
    const carried = steps.map((step) => crossing.carry(step, fits));
    const known = sources.flatMap((source) => ('counter' in source ? [] : [source]));
    const kept = keepCarried(carried, known);
    return kept.steps.length > 0 ? [{ ...kept, cause }] : [];
  });
}
