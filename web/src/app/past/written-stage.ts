import type { Node } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import type { Step } from 'prosemirror-transform';
import { Decoration, DecorationSet, EditorView } from 'prosemirror-view';
import { nodeViews } from '../document/drawn';
import { erasedBars } from '../document/erased';
import type { DrawnMark } from '../document/kinds';
import { noteNumbering } from '../document/notes';
import type { Stage } from './replay';

/** A page of text on which writing is re-enacted: only the blocks that steps change are drawn anew. */
export class WrittenStage implements Stage {
  private readonly view: EditorView;

  constructor(page: HTMLElement, document: string, first: Node) {
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

  get doc(): Node {
    return this.view.state.doc;
  }

  end(): void {
    this.view.destroy();
  }

  show(doc: Node): void {
    this.view.updateState(EditorState.create({ doc, plugins: this.view.state.plugins }));
    this.view.setProps({ decorations: () => null });
  }

  take(steps: readonly Step[]): void {
    const { tr } = this.view.state;
    for (const step of steps) tr.step(step);
    this.view.dispatch(tr);
  }

  mark(marks: readonly DrawnMark[], follow: boolean): void {
    const decorations = marks.map(({ from, to, name, who }) => {
      const style = `--who: ${who}`;
      return from < to
        ? Decoration.inline(from, to, { class: name, style })
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
