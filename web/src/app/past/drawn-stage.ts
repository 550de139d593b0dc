import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { DrawDocument, DrawnMark } from '../document/kinds';
import type { Stage } from './replay';

/** Lines that are drawn, round what was changed. */
const LINES = 60;

/** A page of a document that is drawn anew after each step, by whoever draws its kind. */
export class DrawnStage implements Stage {
  constructor(
    private readonly page: HTMLElement,
    private shown: Node,
    private readonly draw: DrawDocument,
    private readonly document: string,
  ) {
    page.setAttribute('role', 'document');
    page.setAttribute('aria-label', $localize`The document as it was`);
    this.mark([], false);
  }

  get doc(): Node {
    return this.shown;
  }

  end(): void {
    this.page.replaceChildren();
  }

  show(doc: Node): void {
    this.shown = doc;
    this.mark([], false);
  }

  take(steps: readonly Step[]): void {
    for (const step of steps) {
      const { doc, failed } = step.apply(this.shown);
      if (!doc) throw new RangeError(failed ?? 'a step that does not fit');
      this.shown = doc;
    }
  }

  mark(marks: readonly DrawnMark[], follow: boolean): void {
    this.page.replaceChildren(this.draw(this.shown, marks, { lines: LINES, document: this.document }));
    const [first] = marks;
    if (first && follow) this.page.querySelector(`.${first.name}`)?.scrollIntoView({ block: 'nearest' });
  }
}
