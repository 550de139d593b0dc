import type { Step } from 'prosemirror-transform';
import { MOST_STEPS, MUCH_JSON } from '../bounds/index.js';
import type { Cause, MomentSource, Source } from './edit.js';

/** Most edits sent at once. */
const MOST_SENT = 200;

/** What kind of edit a writer can make by themselves. */
export type OwnCause = Extract<Cause, { kind: 'writing' | 'undo' | 'redo' | 'carry' }>;

/** An edit that this writer made and that is not accepted yet. */
export interface PendingEdit {
  readonly counter: number;
  readonly steps: readonly Step[];
  readonly sources: readonly (Source | MomentSource)[];
  readonly writtenAt: number;
  readonly cause: OwnCause;
}

/** Where returning content comes from, as the authority can look it up. */
export type OwnSource = { readonly step: number; readonly at: number; readonly length: number } & (
  | { readonly seq: number; readonly offset: number }
  | { readonly moment: number; readonly position: number }
  | { readonly counter: number; readonly offset: number }
);

/** A pending edit in the form in which it is sent, and kept on a device. */
export type SentEdit = Omit<PendingEdit, 'sources'> & { readonly sources: readonly OwnSource[] };

/** A pending edit with what takes it back, and whether it is on its way. */
export interface Pending extends PendingEdit {
  readonly inverted: readonly Step[];
  readonly sent: boolean;
}

/** How many edits, from the first on, are sent at once: all together weigh no more than `most`, but one goes at least. */
export function countToSend(
  edits: readonly PendingEdit[],
  weigh: (edit: PendingEdit) => number,
  most: number,
): number {
  let [count, steps, sources, weight] = [0, 0, 0, 0];
  for (const edit of edits) {
    steps += edit.steps.length;
    sources += edit.sources.length;
    weight += weigh(edit);
    if (count > 0 && (count >= MOST_SENT || steps > MOST_STEPS || sources > MOST_STEPS || weight > most))
      break;
    count++;
  }
  return count;
}

/** Steps that are few enough to be light, whatever they hold: what is typed. */
const FEW = 8;

/** Letters of the JSON that a step is told in. */
function weightOf(step: Step): number {
  return JSON.stringify(step.toJSON()).length;
}

/** Whether steps fit into one edit. */
export function fitTogether(steps: readonly Step[]): boolean {
  if (steps.length > MOST_STEPS) return false;
  return steps.length <= FEW || steps.reduce((sum, step) => sum + weightOf(step), 0) <= MUCH_JSON;
}

/** Steps with their sources, no more to a part than one edit may hold, nor much more than a message should. */
export function partsOf(
  steps: readonly Step[],
  sources: PendingEdit['sources'],
): { steps: readonly Step[]; sources: PendingEdit['sources'] }[] {
  if (steps.length === 1 || (fitTogether(steps) && sources.length <= MOST_STEPS)) return [{ steps, sources }];
  const out: { steps: Step[]; sources: (Source | MomentSource)[] }[] = [];
  const byStep = new Map<number, (Source | MomentSource)[]>();
  for (const source of sources) byStep.set(source.step, [...(byStep.get(source.step) ?? []), source]);
  let [first, weight] = [0, 0];
  for (const [i, step] of steps.entries()) {
    const heavy = weightOf(step);
    const own = (byStep.get(i) ?? []).slice(0, MOST_STEPS);
    let part = out.at(-1);
    if (
      !part ||
      part.steps.length >= MOST_STEPS ||
      part.sources.length + own.length > MOST_STEPS ||
      weight + heavy > MUCH_JSON
    ) {
      out.push((part = { steps: [], sources: [] }));
      [first, weight] = [i, 0];
    }
    weight += heavy;
    part.steps.push(step);
    part.sources.push(...own.map((source) => ({ ...source, step: i - first })));
  }
  return out;
}
