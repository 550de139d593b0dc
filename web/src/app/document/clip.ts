import { tokensOf } from '@oxbow/core/content';
import type { Token } from '@oxbow/core/content';
import { broughtBy } from '@oxbow/core/compare';
import type { InstanceRange, PendingEdit } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';

/**
 * What was last copied, cut or picked up to be dragged on this desk. The clipboard carries the content; this knows where it
 * comes from, so that credit stays with who wrote it. `moment` is the one it was taken from, null for the present page.
 */
export interface Clip {
  readonly tokens: readonly Token[];
  readonly moment: number | null;
  /** The edit that the writer's knowledge began with when it was taken from the present page: the names of instances hold as long. */
  readonly began?: number;
  /** Where the tokens come from, `from` counted within them. */
  readonly origins: readonly ((InstanceRange | { readonly position: number; readonly length: number }) & {
    readonly from: number;
  })[];
}

/** Stretches of a past moment. */
export function pastClip(doc: Node, moment: number, what: readonly { from: number; to: number }[]): Clip {
  const all = tokensOf(doc.content);
  let before = 0;
  const origins = what.map(({ from, to }) => {
    const origin = { from: before, position: from, length: to - from };
    before += to - from;
    return origin;
  });
  return { tokens: what.flatMap(({ from, to }) => all.slice(from, to)), moment, origins };
}

/** A stretch of the page as it is now, with the instances that fill it. */
export function presentClip(
  doc: Node,
  from: number,
  to: number,
  instances: readonly (InstanceRange & { readonly from: number })[],
  began: number,
): Clip {
  const tokens = tokensOf(doc.content).slice(from, to);
  return {
    tokens,
    moment: null,
    began,
    origins: instances.map((one) => ({ ...one, from: one.from - from })),
  };
}

/** The sources of what some steps put in, when all of its text is the clip's; none when something else was put in. */
export function sourcesOf(steps: readonly Step[], { tokens, origins, moment }: Clip): PendingEdit['sources'] {
  return broughtBy(steps, tokens).flatMap(({ step, at, length, position }) =>
    origins.flatMap((origin): PendingEdit['sources'] => {
      const from = Math.max(position, origin.from);
      const end = Math.min(position + length, origin.from + origin.length);
      if (from >= end) return [];
      const put = { step, at: at + from - position, length: end - from };
      return 'seq' in origin
        ? [{ ...put, seq: origin.seq, offset: origin.offset + from - origin.from }]
        : [{ ...put, moment: moment ?? 0, position: origin.position + from - origin.from }];
    }),
  );
}
