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
import { textSchema } from '@oxbow/core/kinds/text';
import { TextSelection } from 'prosemirror-state';
import type { EditorState } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { Acting } from '../../acting/acting';
import { byAttributes } from './columns';
import { Finding } from '../../writing/finding';
import { nodeViews } from '../../document/drawn';
import { pageOf } from '../../document/page-view';
import type { Standpoint } from '../../document/kinds';
import { LiveDocument } from '../../document/live-document';
import type { Ways } from '../../writing/keys';
import { WrittenPage } from '../../writing/written-page';
import { writingPlugins } from './keys';
import { Outline } from './outline';
import { Starters } from './starters';
import { Tools } from './tools';

/** The page one writes on, as it is now. */
@Component({
  selector: 'ox-editor',
  imports: [Finding, Outline, Starters, Tools],
  providers: [WrittenPage],
  template: `
    @if (finding() && shown(); as editor) {
      @defer (on immediate) {
        <ox-finding [view]="editor" [state]="state()!" [writable]="writable()" (closed)="stopFinding()" />
      }
    }
    <div #page class="page-text"></div>
    @if (shown(); as editor) {
      <ox-outline [view]="editor" [state]="state()!" [document]="id()" [since]="since()" [head]="head()" />
      @if (writable()) {
        <ox-starters [view]="editor" [state]="state()!" />
        <ox-tools [view]="editor" [state]="state()!" [document]="id()" />
      }
    }
  `,
  styles: ':host { display: block; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Editor {
  readonly id = input.required<string>();
  readonly start = input.required<EditorState>();
  readonly writable = input.required<boolean>();
  readonly inView = input(true);
  /** Where the selection stood when this document was last open here. */
  readonly selection = input<Standpoint | null>(null);
  /** The edit that changes are told since, and the last one; null where there is nothing to compare. */
  readonly since = input<number | null>(null);
  readonly head = input(0);
  readonly selected = input.required<(standpoint: Standpoint) => void>();
  readonly toLife = input.required<(position: number) => void>();

  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly tools = viewChild(Tools);
  private readonly live = inject(LiveDocument);
  private readonly written = inject(WrittenPage);
  protected readonly shown = this.written.view;
  protected readonly state = signal<EditorState | null>(null);
  protected readonly finding = signal(false);

  constructor() {
    inject(Acting).offer(
      { findHere: () => this.finding.set(true) },
      () => this.inView() && this.shown() !== null,
    );
    afterNextRender(() => this.begin());
    effect(() => {
      const writable = this.writable();
      this.shown()?.setProps({ editable: () => writable });
    });
  }

  private begin(): void {
    const view: EditorView = new EditorView(
      { mount: this.page().nativeElement },
      {
        ...this.written.props(),
        state: this.start().reconfigure({
          plugins: [...writingPlugins(this.ways()), ...this.written.plugins()],
        }),
        editable: () => this.writable(),
        nodeViews: nodeViews(this.id()),
        attributes: {
          role: 'textbox',
          'aria-multiline': 'true',
          'aria-label': $localize`The document`,
          spellcheck: 'true',
        },
        dispatchTransaction: (tr) => {
          const { state, transactions } = view.state.applyTransaction(byAttributes(view.state, tr) ?? tr);
          view.updateState(state);
          for (const one of transactions) this.live.wrote(one);
          this.state.set(view.state);
          if (tr.selectionSet || tr.docChanged) this.written.stand(view.state, this.selected());
        },
        handleClick: (_view, position, event) => this.tick(view, position, event),
        handlePaste: (_view, event) => this.takeImages(view, event.clipboardData?.files, null),
        handleDrop: (_view, event) =>
          this.takeImages(
            view,
            event.dataTransfer?.files,
            view.posAtCoords({ left: event.clientX, top: event.clientY })?.pos ?? null,
          ),
      },
    );
    const place = this.selection();
    const size = view.state.doc.content.size;
    if (place)
      view.dispatch(
        view.state.tr.setSelection(
          TextSelection.between(
            view.state.doc.resolve(Math.min(place.anchor, size)),
            view.state.doc.resolve(Math.min(place.head, size)),
          ),
        ),
      );
    this.state.set(view.state);
    this.written.begin(view, pageOf(view));
  }

  private ways(): Ways {
    return {
      undo: (which) => this.live.acts.undo(which),
      toTools: () => {
        this.tools()?.focus();
        return true;
      },
      toLife: (position) => this.toLife()(position),
    };
  }

  protected stopFinding(): void {
    this.finding.set(false);
    this.shown()?.focus();
  }

  /** A click on the box of a check-list item ticks it. */
  private tick(view: EditorView, position: number, event: MouseEvent): boolean {
    const item = (event.target as HTMLElement).closest('li[data-checked]');
    if (!item || event.clientX > item.getBoundingClientRect().left + 24 || !this.writable()) return false;
    const $position = view.state.doc.resolve(position);
    for (let depth = $position.depth; depth > 0; depth--) {
      const node = $position.node(depth);
      if (node.type.name !== 'check_item') continue;
      view.dispatch(
        view.state.tr.setNodeAttribute($position.before(depth), 'checked', !node.attrs['checked']),
      );
      return true;
    }
    return false;
  }

  private takeImages(view: EditorView, files: FileList | undefined, at: number | null): boolean {
    const images = [...(files ?? [])].filter((file) => file.type.startsWith('image/'));
    for (const file of images) void this.putImage(view, file, at);
    return images.length > 0;
  }

  private async putImage(view: EditorView, file: File, at: number | null): Promise<void> {
    const stored = await this.written.store(this.id(), file);
    if (!stored) return;
    const image = textSchema.node('image', stored);
    view.dispatch(
      at === null
        ? view.state.tr.replaceSelectionWith(image)
        : view.state.tr.insert(Math.min(at, view.state.doc.content.size), image),
    );
  }
}
