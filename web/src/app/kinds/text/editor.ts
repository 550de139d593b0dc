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
import { FormatError } from '@oxbow/core/formats/about';
import { Store } from '@ngrx/store';
import { TextSelection } from 'prosemirror-state';
import type { EditorState } from 'prosemirror-state';
import { DecorationSet, EditorView } from 'prosemirror-view';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../../api/api';
import { session } from '../../session/session.store';
import { Acting } from '../../acting/acting';
import { byAttributes } from './columns';
import { hearCaret } from '../../writing/caret';
import { Finding } from '../../writing/finding';
import { nodeViews } from '../../document/drawn';
import { withoutErased } from '../../document/erased';
import { pageOf } from '../../document/page-view';
import type { Standpoint } from '../../document/kinds';
import { placePlugin } from '../../carry/place-mark';
import { drawLedger, ledgerKey, ledgerPlugin } from '../../ledger/ledger';
import { DeskLedger } from '../../ledger/ledger-state';
import { LiveDocument } from '../../document/live-document';
import type { Caret } from '../../writing/presence';
import { presenceKey, presencePlugin } from '../../writing/presence';
import type { Ways } from '../../writing/keys';
import { writingPlugins } from './keys';
import { Outline } from './outline';
import { Starters } from './starters';
import { Tools } from './tools';

const PRESENCE_EVERY = 200;

/** The page one writes on, as it is now. */
@Component({
  selector: 'ox-editor',
  imports: [Finding, Outline, Starters, Tools],
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
  private readonly ledger = inject(DeskLedger);
  private readonly api = inject(Api);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  private lastPresence = 0;
  private clean: ((html: string) => string) | null = null;
  protected readonly shown = signal<EditorView | null>(null);
  protected readonly state = signal<EditorState | null>(null);
  protected readonly finding = signal(false);

  constructor() {
    inject(Acting).offer(
      { findHere: () => this.finding.set(true) },
      () => this.inView() && this.shown() !== null,
    );
    effect(() => {
      const [view, others, people] = [this.shown(), this.live.others(), this.people()];
      const carets = [...others].flatMap(([client, presence]): [string, Caret][] => {
        const person = people.get(presence.person);
        const head = this.live.here(presence.head, presence.seq) ?? presence.head;
        return person ? [[client, { client, person, head, told: presence }]] : [];
      });
      view?.dispatch(view.state.tr.setMeta(presenceKey, new Map(carets)));
    });
    effect(() => {
      const [view, drawn] = [this.shown(), this.ledger.drawn()];
      view?.dispatch(view.state.tr.setMeta(ledgerKey, drawn ? drawLedger(drawn) : () => DecorationSet.empty));
    });
    afterNextRender(() => this.begin());
    afterNextRender(async () => (this.clean = (await import('../../writing/pasting')).cleaned));
    effect((onCleanup) => {
      const view = this.shown();
      onCleanup(() => {
        if (!view) return;
        this.live.attach(null);
        view.destroy();
      });
    });
    effect(() => {
      const writable = this.writable();
      this.shown()?.setProps({ editable: () => writable });
    });
  }

  private begin(): void {
    const taken = (): boolean => {
      this.live.acts.tookHere(view.state.selection.from, view.state.selection.to);
      return false;
    };
    const view: EditorView = new EditorView(
      { mount: this.page().nativeElement },
      {
        state: this.start().reconfigure({
          plugins: [...writingPlugins(this.ways()), presencePlugin(), ledgerPlugin(), placePlugin()],
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
          if (tr.selectionSet || tr.docChanged) this.told(view.state);
        },
        handleClick: (_view, position, event) => this.tick(view, position, event),
        handleDOMEvents: { copy: taken, cut: taken, dragstart: taken, keydown: hearCaret },
        transformCopied: withoutErased,
        transformPasted: withoutErased,
        transformPastedHTML: (html) => this.cleaned(html),
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
    this.live.attach(pageOf(view));
    this.state.set(view.state);
    this.shown.set(view);
    view.focus();
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

  private told(state: EditorState): void {
    const { anchor, head } = state.selection;
    this.selected()({ anchor, head });
    const now = Date.now();
    if (now - this.lastPresence < PRESENCE_EVERY) return;
    this.lastPresence = now;
    this.live.present(anchor, head);
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

  /** What was copied elsewhere, cleaned; in the first moments, before what cleans has come, as much of it as the schema takes. */
  private cleaned(html: string): string {
    try {
      return this.clean?.(html) ?? html;
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      this.live.said.next($localize`What was copied cannot be put in. ${error.message}`);
      return '';
    }
  }

  private takeImages(view: EditorView, files: FileList | undefined, at: number | null): boolean {
    const images = [...(files ?? [])].filter((file) => file.type.startsWith('image/'));
    for (const file of images) void this.putImage(view, file, at);
    return images.length > 0;
  }

  private async putImage(view: EditorView, file: File, at: number | null): Promise<void> {
    try {
      const { hash } = await firstValueFrom(this.api.storeImage(this.id(), file));
      const image = textSchema.node('image', { hash, alt: file.name.replace(/\.\w+$/, '') });
      view.dispatch(
        at === null
          ? view.state.tr.replaceSelectionWith(image)
          : view.state.tr.insert(Math.min(at, view.state.doc.content.size), image),
      );
    } catch (error) {
      this.live.said.next(saidOf(error));
    }
  }
}
