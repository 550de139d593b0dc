import type { WireEdit } from '@oxbow/contract';
import type { Node } from 'prosemirror-model';
import { AttrStep, Mapping, Step } from 'prosemirror-transform';
import type { DrawnMark } from '../document/kinds';
import type { Frame } from './frames';

/** States that are kept as they were, so that stepping back is no slower than stepping on. */
const KEPT = 200;

/** What writing is re-enacted on: it shows one document after another, and what was changed last. */
export interface Stage {
  /** The document that is shown. */
  readonly doc: Node;
  /** Shows another document, with nothing marked. */
  show(doc: Node): void;
  /** Takes steps on what is shown. */
  take(steps: readonly Step[]): void;
  /** Marks what was changed, and brings it into view when asked. */
  mark(marks: readonly DrawnMark[], follow: boolean): void;
  end(): void;
}

/** Re-enacts writing on a stage. */
export class Replay {
  private at = 0;
  private readonly first: Node;
  private kept: { readonly frame: number; readonly doc: Node }[] = [];

  /** `colour` gives a person's colour. */
  constructor(
    private readonly stage: Stage,
    private readonly colour: (author: string) => string,
  ) {
    this.first = stage.doc;
  }

  /** The document that is shown. */
  get doc(): Node {
    return this.stage.doc;
  }

  end(): void {
    this.stage.end();
  }

  /** Goes to the beginning, for frames that are cut otherwise. */
  restart(): void {
    this.kept = [];
    this.back(0);
  }

  /**
   * Shows the document after a number of frames: on from where it is, or on from the nearest state before it that is kept.
   * What the last of them changed is marked, and brought into view when asked.
   */
  goTo(target: number, frames: readonly Frame[], edits: readonly WireEdit[], follow: boolean): void {
    if (target <= this.at) this.back(target);
    while (this.at < target) {
      const frame = frames[this.at];
      if (!frame) return;
      const marks = this.advance(edits.slice(frame.start, frame.end + 1));
      if (this.at === target) this.stage.mark(marks, follow);
    }
  }

  private back(target: number): void {
    this.kept = this.kept.filter(({ frame }) => frame < target);
    const last = this.kept.at(-1);
    this.at = last?.frame ?? 0;
    this.stage.show(last?.doc ?? this.first);
  }

  private advance(edits: readonly WireEdit[]): DrawnMark[] {
    const mapping = new Mapping();
    const marks: { from: number; to: number; author: string; since: number }[] = [];
    const taken: Step[] = [];
    for (const { steps, author } of edits) {
      for (const json of steps) {
        const step = Step.fromJSON(this.doc.type.schema, json);
        taken.push(step);
        mapping.appendMap(step.getMap());
        if (step instanceof AttrStep)
          marks.push({ from: step.pos, to: step.pos + 1, author, since: mapping.maps.length });
        step
          .getMap()
          .forEach((_oldStart, _oldEnd, from, to) =>
            marks.push({ from, to, author, since: mapping.maps.length }),
          );
      }
    }
    this.stage.take(taken);
    this.at++;
    this.kept = [...this.kept.slice(-KEPT), { frame: this.at, doc: this.doc }];
    return marks.map(({ from, to, author, since }) => {
      const later = mapping.slice(since);
      return { from: later.map(from, -1), to: later.map(to, 1), name: 'was-added', who: this.colour(author) };
    });
  }
}
