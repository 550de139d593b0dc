import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { TextSelection } from 'prosemirror-state';
import type { EditorState, Transaction } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import type { Slice } from 'prosemirror-model';
import { changedIn, isReversal } from '../../document/changed';
import { nodeViews } from '../../document/drawn';
import type { Standpoint } from '../../document/kinds';
import { LiveDocument } from '../../document/live-document';
import { pageOf } from '../../document/page-view';
import type { PageView } from '../../document/page-view';
import { Finding } from '../../writing/finding';
import { WrittenPage } from '../../writing/written-page';
import { deckPlugins } from './commands';
import { DeckActs } from './deck-acts';
import { DeckDesk } from './deck-desk';
import { DeckTools } from './deck-tools';
import { inHand, slideAt } from './in-hand';
import { OrderStrip } from './order-strip';
import { ThingFrame } from './thing-frame';
import { addThings, isThing } from './things';

/** A deck one writes in: the order of its slides, the one in hand, and its notes. */
@Component({
  selector: 'ox-deck-editor',
  imports: [DeckTools, Finding, OrderStrip, ThingFrame],
  providers: [DeckActs, DeckDesk, WrittenPage],
  templateUrl: './editor.html',
  styleUrl: './editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeckEditor {
  readonly id = input.required<string>();
  readonly start = input.required<EditorState>();
  readonly writable = input.required<boolean>();
  readonly inView = input(true);
  readonly selection = input<Standpoint | null>(null);
  readonly since = input<number | null>(null);
  readonly head = input(0);
  readonly selected = input.required<(standpoint: Standpoint) => void>();
  readonly toLife = input.required<(position: number) => void>();

  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly tools = viewChild.required(DeckTools);
  private readonly live = inject(LiveDocument);
  private readonly written = inject(WrittenPage);
  private readonly acts = inject(DeckActs);
  protected readonly desk = inject(DeckDesk);
  protected readonly finding = signal(false);

  constructor() {
    this.acts.offer({
      document: () => this.id(),
      pickPicture: () => this.tools().pick(),
      find: () => this.finding.set(true),
    });
    effect(() => this.desk.inView.set(this.inView()));
    effect(() => {
      const writable = this.writable();
      this.desk.writable.set(writable);
      this.desk.view()?.setProps({ editable: () => writable });
    });
    afterNextRender(() => this.begin());
  }

  private begin(): void {
    const ways = {
      undo: (which: 'undo' | 'redo') => this.live.acts.undo(which),
      toTools: () => {
        this.tools().focus();
        return true;
      },
      toLife: (position: number) => this.toLife()(position),
      toSlide: (by: 1 | -1) => this.desk.goTo(this.desk.index() + by),
      mayWrite: () => this.writable(),
    };
    const view: EditorView = new EditorView(
      { mount: this.page().nativeElement },
      {
        ...this.written.props(),
        state: this.start().reconfigure({
          plugins: [...deckPlugins(ways), ...this.written.plugins()],
        }),
        editable: () => this.writable(),
        nodeViews: nodeViews(this.id()),
        attributes: {
          role: 'textbox',
          tabindex: '0',
          'aria-multiline': 'true',
          'aria-label': $localize`The slide in hand`,
          spellcheck: 'true',
        },
        dispatchTransaction: (tr) => this.took(view, tr),
        handlePaste: (_view, event, slice) =>
          this.takePictures(event.clipboardData?.files) || this.takeThings(slice),
        handleDrop: (_view, event) => this.takePictures(event.dataTransfer?.files),
      },
    );
    this.standAt(view, this.selection());
    this.desk.state.set(view.state);
    this.written.begin(view, this.pageOf(view));
  }

  private standAt(view: EditorView, place: Standpoint | null): void {
    const { doc, tr } = view.state;
    const [anchor, head] = [place?.anchor ?? 0, place?.head ?? 0].map((position) =>
      doc.resolve(Math.min(position, doc.content.size)),
    );
    if (anchor && head)
      view.dispatch(
        tr.setSelection(place ? TextSelection.between(anchor, head) : TextSelection.near(anchor)),
      );
  }

  /** The page as the document has it: what is not on the slide in hand has no height. */
  private pageOf(view: EditorView): PageView {
    const page = pageOf(view);
    return {
      get state() {
        return view.state;
      },
      get standpoint() {
        return page.standpoint;
      },
      dispatch: (tr) => page.dispatch(tr),
      heightOf: (position) =>
        slideAt(view.state.doc, position) === inHand(view.state) ? page.heightOf(position) : null,
      positionAt: (top) => page.positionAt(top),
    };
  }

  private took(view: EditorView, tr: Transaction): void {
    const { state, transactions } = view.state.applyTransaction(tr);
    view.updateState(state);
    for (const one of transactions) this.live.wrote(one);
    this.desk.state.set(view.state);
    if (tr.selectionSet || tr.docChanged) this.written.stand(view.state, this.selected());
    if (tr.docChanged && isReversal(tr)) this.goToChanged(view, tr);
  }

  /** Goes to the slide that something was undone on, so that it is seen. */
  private goToChanged(view: EditorView, tr: Transaction): void {
    const [first] = changedIn(tr);
    const { doc } = view.state;
    if (first === undefined || first > doc.content.size || slideAt(doc, first) === inHand(view.state)) return;
    view.dispatch(view.state.tr.setSelection(TextSelection.near(doc.resolve(first))));
  }

  protected stopFinding(): void {
    this.finding.set(false);
    this.desk.focus();
  }

  private takePictures(files: FileList | undefined): boolean {
    const pictures = [...(files ?? [])].filter((file) => file.type.startsWith('image/'));
    for (const file of pictures) void this.acts.insertPicture(file);
    return pictures.length > 0;
  }

  /** Boxes and pictures that were copied whole stand beside what is on the slide, not in it. */
  private takeThings({ content }: Slice): boolean {
    const things = content.content.filter(isThing);
    if (things.length === 0 || things.length < content.childCount) return false;
    return this.desk.act((tr, slide) => addThings(tr, slide, things));
  }
}
