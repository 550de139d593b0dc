import type { Node } from 'prosemirror-model';
import { ReplaceAroundStep, ReplaceStep } from 'prosemirror-transform';
import type { Step } from 'prosemirror-transform';
import type { Work } from '../content/index.js';
import { appendEdit, applySteps, tallyStep } from '../history/index.js';
import type { Edit, Provenance, Tally } from '../history/index.js';
import { blankedForm, blankedInsertion } from './blank-steps.js';
import type { Instances } from './instances.js';

/** An edit after erasing, with the words it begins and ends now; `changed` where any step is another than before. */
export interface Blanked extends Tally {
  readonly steps: readonly Step[];
  readonly changed: boolean;
}

/**
 * Goes through a history from some moment on and erases a set of instances where they were made: no step map changes, so that every
 * position, length and other letter stays. `doc` and `provenance` are those of the moment before, and follow.
 */
export class Blanking {
  constructor(
    private readonly set: Instances,
    public doc: Node,
    readonly provenance: Provenance,
  ) {}

  /** Takes the next edit. Rests now and then. */
  *take(edit: Pick<Edit, 'seq' | 'steps' | 'sources'>): Work<Blanked> {
    const spans = this.set.of(edit.seq);
    const steps: Step[] = [];
    const docs: Node[] = [];
    const runs = edit.steps.length > 1 && edit.steps.some((step) => !inserts(step));
    const within = runs ? { ...this.provenance, runs: this.provenance.runs.clone(), forms: [] } : null;
    let [before, wordsIn, wordsOut] = [0, 0, 0];
    let doc = this.doc;
    for (const step of edit.steps) {
      const blanked = inserts(step)
        ? blankedInsertion(step, spans, before)
        : this.touches(step, within ?? this.provenance)
          ? blankedForm(step, doc)
          : step;
      const after = applySteps(doc, [blanked]);
      const tally = yield* tallyStep(doc, after, blanked);
      wordsIn += tally.wordsIn;
      wordsOut += tally.wordsOut;
      const map = blanked.getMap();
      if (within) within.runs.append(edit.seq, [map], [], before);
      map.forEach((_oldStart, _oldEnd, start, end) => (before += end - start));
      steps.push(blanked);
      docs.push(after);
      doc = after;
    }
    this.doc = appendEdit(this.provenance, this.doc, { ...edit, steps }, docs);
    return { steps, wordsIn, wordsOut, changed: steps.some((step, i) => step !== edit.steps[i]) };
  }

  /** Whether a step that inserts nothing changes the form of anything in the set. */
  private touches(step: Step, { runs }: Pick<Provenance, 'runs'>): boolean {
    const { from, to, pos } = step as Step & { from?: number; to?: number; pos?: number };
    const stretch = pos === undefined ? [from ?? 0, to ?? 0] : [pos, pos + 1];
    return runs
      .between(stretch[0] as number, stretch[1] as number)
      .some((run) => this.set.within(run).length > 0);
  }
}

function inserts(step: Step): boolean {
  return step instanceof ReplaceStep || step instanceof ReplaceAroundStep;
}
