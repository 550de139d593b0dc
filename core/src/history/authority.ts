import type { Node } from 'prosemirror-model';
import type { Step, StepMap } from 'prosemirror-transform';
import type { Token, Work } from '../content/index.js';
import { finished, sameContent, tokensIn } from '../content/index.js';
import { Refusal, canonicalSteps, checkOutcome, checkPlace, touchedBlocks, wholenessSteps } from './admit.js';
import type { Source } from './edit.js';
import { Crossing, keepCarried } from './rebase.js';

/** An edit as a writer proposes it; its steps follow on those of the edits before it in the same batch. */
export interface Proposal<S extends Source = Source> {
  readonly steps: readonly Step[];
  readonly sources: readonly S[];
}

/** What the authority makes of a proposal: the steps as they fit now, or why nothing of it was taken. */
export type Verdict<S extends Source = Source> =
  | {
      readonly taken: true;
      readonly steps: readonly Step[];
      readonly sources: readonly S[];
      readonly doc: Node;
      /** The document after each step. */
      readonly docs: readonly Node[];
    }
  | { readonly taken: false; readonly refusal: Refusal };

/**
 * Orders a batch of proposals behind what was accepted since their base, whose maps are `between`: carries each over them,
 * checks its outcome, and brings its text into canonical form. A stale proposal is carried, never refused for being stale.
 */
export function orderBatch<S extends Source>(
  doc: Node,
  proposals: readonly Proposal<S>[],
  between: readonly StepMap[],
): Verdict<S>[] {
  return finished(new Ordering(between).take(doc, proposals));
}

/** One writer's batch on its way to the present document. It may be taken in parts, with edits of others in between. */
export class Ordering {
  private readonly crossing: Crossing;

  /** `between`: the maps of what others did since the base of the batch. */
  constructor(between: readonly StepMap[] = []) {
    this.crossing = new Crossing(between);
  }

  /** How many maps each step is carried over. */
  get width(): number {
    return this.crossing.width;
  }

  /** Others went on. */
  follow(maps: readonly StepMap[]): void {
    for (const map of maps) this.crossing.follow(map);
  }

  /** The writer's next steps are in the document already, as when a batch is sent again. */
  accepted(steps: readonly Step[]): void {
    for (const step of steps) this.crossing.carry(step, () => true);
  }

  /** Orders the batch's next proposals on top of a document. Rests after each step, so that others can have their turn. */
  *take<S extends Source>(doc: Node, proposals: readonly Proposal<S>[]): Work<Verdict<S>[]> {
    const { crossing } = this;
    const verdicts: Verdict<S>[] = [];
    let current = doc;
    for (const { steps, sources } of proposals) {
      const [before, mark] = [current, crossing.mark()];
      const isStale = crossing.width > 0;
      const fit = (step: Step): boolean => {
        const next = tryStep(current, step);
        if (!next && crossing.width === 0)
          throw new Refusal('steps', 'does not fit the document it is based on');
        current = next ?? current;
        return next !== null;
      };
      try {
        const carried: (Step | null)[] = [];
        const docs: Node[] = [];
        for (const step of steps) {
          const fitting = crossing.carry(step, fit);
          carried.push(fitting);
          if (fitting) docs.push(current);
          yield;
        }
        const kept = keepCarried(carried, sources);
        const fixes: Step[] = [];
        let touched = touchedBlocks(before, current);
        const mend = (steps: readonly Step[]): void => {
          if (steps.length === 0) return;
          for (const step of steps) docs.push((current = requireStep(current, step)));
          fixes.push(...steps);
          touched = touchedBlocks(before, current);
        };
        mend(yield* canonicalSteps(touched));
        if (isStale) mend(wholenessSteps(before, touched, () => crossing.unseen(mark)));
        yield* checkOutcome(current, touched);
        for (const fix of fixes) crossing.follow(fix.getMap());
        const { steps: fitting, sources: named } = kept;
        verdicts.push({ taken: true, steps: [...fitting, ...fixes], sources: named, doc: current, docs });
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        crossing.back(mark);
        for (const step of steps) crossing.leave(step);
        current = before;
        verdicts.push({ taken: false, refusal: error });
      }
    }
    return verdicts;
  }
}

function tryStep(doc: Node, step: Step): Node | null {
  checkPlace(doc, step, 'steps');
  try {
    return step.apply(doc).doc;
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

function requireStep(doc: Node, step: Step): Node {
  const { doc: next, failed } = step.apply(doc);
  if (!next) throw new Refusal('steps', failed ?? 'does not apply');
  return next;
}

/**
 * Checks that what a proposal says came back is what it inserts, token by token, so that nobody can claim another
 * person's words or have theirs credited to somebody else. `tokens` gives what the edit that a source names once inserted.
 * Rests now and then. Throws `Refusal`.
 */
export function* checkSources(proposal: Proposal, tokens: (source: Source) => readonly Token[]): Work<void> {
  let end = 0;
  let step = -1;
  let put: readonly Token[] = [];
  for (const [i, source] of proposal.sources.entries()) {
    const path = `sources/${i}`;
    const named = proposal.steps[source.step];
    if (!named) throw new Refusal(`${path}/step`, 'names a step that is not there');
    if (source.step !== step) [step, end, put] = [source.step, 0, yield* tokensIn([named])];
    if (source.at < end) throw new Refusal(`${path}/at`, 'sources must be in order and must not overlap');
    end = source.at + source.length;
    const given = put.slice(source.at, end);
    const held = tokens(source).slice(source.offset, source.offset + source.length);
    if (given.length !== source.length || held.length !== source.length)
      throw new Refusal(path, 'reaches beyond what is there');
    if (!given.every((token, k) => sameContent(token, held[k] as Token)))
      throw new Refusal(path, 'is not what it says it is');
    yield;
  }
}
