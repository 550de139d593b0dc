import type { WireEdit } from '@oxbow/contract';
import type { Node } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import { Mapping, Step } from 'prosemirror-transform';
import { Decoration, DecorationSet, EditorView } from 'prosemirror-view';
import { erasedBars } from '../document/erased';
import { nodeViews } from '../document/drawn';
import { noteNumbering } from '../document/notes';
import type { Frame } from './frames';

/** States that are kept as they were, so that stepping back is no slower than stepping on. */
const KEPT = 200;

/** What a step put in or took out, and who did. */
interface Mark {
  readonly from: number;
  readonly to: number;
  readonly author: string;
}

/** A page on which writing is re-enacted: the view takes steps, and draws anew only the blocks that they change. */
export class Replay {
  private readonly view: EditorView;
  private at = 0;
  private kept: { readonly frame: number; readonly doc: Node }[] = [];

  /** Shows `first`, the state that playing begins at; `colour` gives a person's colour. */
  constructor(
    page: HTMLElement,
    document: string,
    private readonly first: Node,
    private readonly colour: (author: string) => string,
  ) {
    this.view = new EditorView(
      { mount: page },
      {
        state: EditorState.create({ doc: first, plugins: [noteNumbering(), erasedBars()] }),
        editable: () => false,
        nodeViews: nodeViews(document),
        attributes: { 'aria-label': $localize`The document as it was`, role: 'document' },
      },
    );
  }

  /** The document that is shown. */
  get doc(): Node {
    return this.view.state.doc;
  }

  end(): void {
    this.view.destroy();
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
      if (this.at === target) this.mark(marks, follow);
    }
  }

  private back(target: number): void {
    this.kept = this.kept.filter(({ frame }) => frame < target);
    const last = this.kept.at(-1);
    this.at = last?.frame ?? 0;
    this.view.updateState(
      EditorState.create({ doc: last?.doc ?? this.first, plugins: this.view.state.plugins }),
    );
    this.view.setProps({ decorations: () => null });
  }

  private advance(edits: readonly WireEdit[]): Mark[] {
    const tr = this.view.state.tr;
    const mapping = new Mapping();
    const marks: (Mark & { readonly since: number })[] = [];
    for (const { steps, author } of edits) {
      for (const json of steps) {
        const step = Step.fromJSON(this.doc.type.schema, json);
        tr.step(step);
        mapping.appendMap(step.getMap());
        step
          .getMap()
          .forEach((_oldStart, _oldEnd, from, to) =>
            marks.push({ from, to, author, since: mapping.maps.length }),
          );
      }
    }
    this.view.dispatch(tr);
    this.at++;
    this.kept = [...this.kept.slice(-KEPT), { frame: this.at, doc: this.doc }];
    return marks.map(({ from, to, author, since }) => {
      const later = mapping.slice(since);
      return { from: later.map(from, -1), to: later.map(to, 1), author };
    });
  }

  private mark(marks: readonly Mark[], follow: boolean): void {
    const decorations = marks.map(({ from, to, author }) => {
      const style = `--who: ${this.colour(author)}`;
      return from < to
        ? Decoration.inline(from, to, { class: 'was-added', style })
        : Decoration.widget(from, () => {
            const gap = document.createElement('span');
            gap.className = 'play-gap';
            gap.setAttribute('style', style);
            return gap;
          });
    });
    const set = DecorationSet.create(this.doc, decorations);
    this.view.setProps({ decorations: () => set });
    const last = marks.at(-1);
    if (!last || !follow) return;
    const { node } = this.view.domAtPos(Math.min(last.to, this.doc.content.size));
    const element = node instanceof Element ? node : node.parentElement;
    element?.scrollIntoView({ block: 'nearest' });
  }
}
