import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  effect,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { selectParentNode } from 'prosemirror-commands';
import { keymap } from 'prosemirror-keymap';
import type { Node } from 'prosemirror-model';
import { EditorState, NodeSelection, Plugin, PluginKey, TextSelection } from 'prosemirror-state';
import type { Selection } from 'prosemirror-state';
import { CellSelection, tableEditing } from 'prosemirror-tables';
import { Decoration, DecorationSet, EditorView } from 'prosemirror-view';
import { erasedBars, withoutErased } from '../document/erased';
import { nodeViews } from '../document/drawn';
import { noteNumbering } from '../document/notes';
import { pageOf } from '../document/page-view';
import { Picking } from './picking';
import type { Picked } from './picking';

const goneKey = new PluginKey<DecorationSet>('gone');

/** A page of the past to pick from: it has a caret and selections, but nothing on it can be changed. */
@Component({
  selector: 'ox-past-page',
  template: '<div #page class="page-text" (pointerdown)="pressed.set(true)"></div>',
  styleUrl: './past-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(document:pointerup)': 'pressed.set(false)',
    '(document:pointercancel)': 'pressed.set(false)',
  },
})
export class PastPage extends Picking {
  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private view: EditorView | null = null;
  /** Whether a button or finger is down on the page: what is drawn anew meanwhile would take the selection that is being made. */
  protected readonly pressed = signal(false);

  constructor() {
    super();
    afterNextRender(() => this.begin());
    effect((onCleanup) => onCleanup(() => this.view?.destroy()));
    effect(() => {
      const [doc, gone] = [this.doc(), this.gone()];
      if (this.pressed()) return;
      if (this.view && !this.view.state.doc.eq(doc)) this.view.updateState(this.stateOf(doc));
      this.view?.dispatch(this.view.state.tr.setMeta(goneKey, gone));
    });
  }

  private stateOf(doc: Node): EditorState {
    return EditorState.create({
      doc,
      plugins: [
        erasedBars(),
        new Plugin<DecorationSet>({
          key: goneKey,
          state: {
            init: () => DecorationSet.empty,
            apply(tr, held) {
              const gone = tr.getMeta(goneKey) as Picked | undefined;
              return gone
                ? DecorationSet.create(
                    tr.doc,
                    gone.flatMap((one) => drawGone(tr.doc, one)),
                  )
                : held;
            },
          },
          props: { decorations: (state) => goneKey.getState(state) },
          filterTransaction: (tr) => !tr.docChanged,
        }),
        keymap({
          'Alt-ArrowUp': selectParentNode,
          Enter: () => {
            this.sent.emit();
            return true;
          },
        }),
        tableEditing(),
        noteNumbering(),
      ],
    });
  }

  private begin(): void {
    const takes = (): boolean => {
      this.taken.emit(pickedOf(view.state.selection));
      return false;
    };
    const view: EditorView = new EditorView(
      { mount: this.page().nativeElement },
      {
        state: this.stateOf(this.doc()),
        nodeViews: nodeViews(this.document()),
        transformCopied: withoutErased,
        attributes: {
          role: 'textbox',
          'aria-multiline': 'true',
          'aria-readonly': 'true',
          'aria-label': $localize`The page as it was`,
          inputmode: 'none',
          spellcheck: 'false',
        },
        dispatchTransaction: (tr) => {
          view.updateState(view.state.apply(tr));
          if (tr.selectionSet) this.picked.emit(pickedOf(view.state.selection));
        },
        handleDrop: () => true,
        handleDOMEvents: {
          copy: takes,
          dragstart: takes,
          beforeinput: (_view, event) => {
            event.preventDefault();
            return true;
          },
        },
      },
    );
    this.view = view;
    view.dispatch(view.state.tr.setMeta(goneKey, this.gone()));
  }

  override widen(): void {
    if (this.view) selectParentNode(this.view.state, (tr) => this.view?.dispatch(tr));
    this.view?.focus();
  }

  override pick(from: number, to: number): void {
    const { view } = this;
    if (!view) return;
    const { doc } = view.state;
    const node = doc.nodeAt(from);
    const whole = node && !node.isText && from + node.nodeSize === to;
    view.dispatch(
      view.state.tr.setSelection(whole ? NodeSelection.create(doc, from) : between(view, from, to)),
    );
    const top = view.coordsAtPos(from).top - this.element.nativeElement.getBoundingClientRect().top;
    this.element.nativeElement.closest('.past')?.scrollTo({ top: top - 120 });
    view.focus();
  }

  override positionAt(top: number): number | null {
    return this.view && pageOf(this.view).positionAt(top);
  }

  override heightOf(position: number): number | null {
    return this.view && pageOf(this.view).heightOf(Math.min(position, this.view.state.doc.content.size));
  }
}

function between({ state }: EditorView, from: number, to: number): Selection {
  return TextSelection.between(state.doc.resolve(from), state.doc.resolve(to));
}

/** What a selection holds: whole rows as a stretch of them, other cells one by one, a single cell as what is in it. */
export function pickedOf(selection: Selection): Picked {
  if (!(selection instanceof CellSelection)) return selection.empty ? [] : [selection];
  const { $anchorCell, $headCell } = selection;
  if (selection.isRowSelection()) {
    const [first, last] =
      $anchorCell.pos < $headCell.pos ? [$anchorCell, $headCell] : [$headCell, $anchorCell];
    return [{ from: first.before(), to: last.after() }];
  }
  const cells: { from: number; to: number }[] = [];
  selection.forEachCell((cell, position) => cells.push({ from: position, to: position + cell.nodeSize }));
  const [only] = cells;
  return cells.length === 1 && only ? [{ from: only.from + 1, to: only.to - 1 }] : cells;
}

/** Text is marked letter by letter; a block that is gone whole, as a block too. */
function drawGone(doc: Node, { from, to }: Picked[number]): Decoration[] {
  const end = Math.min(to, doc.content.size);
  const out = [Decoration.inline(from, end, { class: 'gone' })];
  doc.nodesBetween(from, end, (node, position) => {
    const whole = position >= from && position + node.nodeSize <= end;
    if (whole && node.isBlock)
      out.push(Decoration.node(position, position + node.nodeSize, { class: 'gone-block' }));
    return !whole;
  });
  return out;
}
