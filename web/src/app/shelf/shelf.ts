import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import {
  CdkFixedSizeVirtualScroll,
  CdkVirtualForOf,
  CdkVirtualScrollViewport,
  CdkVirtualScrollableWindow,
} from '@angular/cdk/scrolling';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import type { DocumentSummary } from '@oxbow/contract';
import { READ_ENDINGS } from '@oxbow/core/formats/about';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Acting } from '../acting/acting';
import { ACTS } from '../acting/acts';
import { What } from '../acting/what';
import { Api, saidOf } from '../api/api';
import { ArrivalEvents, arrivals } from '../arrivals/arrivals.store';
import { ARCHIVE, Filing } from '../filing/filing';
import { Preferring } from '../session/preferring';
import { recentOf } from '../session/recent';
import { session } from '../session/session.store';
import { Notices } from '../notices/notices';
import { SigningOut } from '../drafts/signing-out';
import { Stranded } from '../drafts/stranded';
import { KINDS_ON_SCREEN, NEW_KINDS } from '../document/kinds';
import type { Kind } from '../document/kinds';
import { Paper } from '../look/paper';
import { FirstVisit } from '../guide/first-visit';
import { FindAll } from './find-all';
import { arranged } from './arranging';
import type { Row } from './arranging';
import { Browsing } from './browsing';
import { ShelfRow } from './row';
import { RowActs } from './row-acts';
import { ShelfTools } from './shelf-tools';
import type { Board } from '../documents/shelf.store';
import { ShelfEvents, shelf } from '../documents/shelf.store';

/** All documents under their collections. */
@Component({
  selector: 'ox-shelf',
  imports: [
    FindAll,
    FirstVisit,
    FormsModule,
    CdkFixedSizeVirtualScroll,
    CdkVirtualForOf,
    CdkVirtualScrollViewport,
    CdkVirtualScrollableWindow,
    RowActs,
    ShelfRow,
    ShelfTools,
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    MatProgressBarModule,
    Notices,
    ReactiveFormsModule,
    RouterLink,
    SigningOut,
    Stranded,
    What,
  ],
  providers: [Browsing],
  templateUrl: './shelf.html',
  styleUrl: './shelf.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(dragover)': 'dragged($event)',
    '(dragleave)': 'over.set(null)',
    '(drop)': 'dropped($event, null)',
  },
})
export class Shelf {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly filing = inject(Filing);
  protected readonly browsing = inject(Browsing);
  private readonly preferring = inject(Preferring);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly acting = inject(Acting);
  protected readonly paper = inject(Paper);
  protected readonly acts = ACTS;
  private readonly leaving = viewChild.required<SigningOut>('leaving');
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');

  protected readonly boards = this.store.selectSignal(shelf.selectBoards);
  protected readonly documents = this.store.selectSignal(shelf.selectDocuments);
  protected readonly status = this.store.selectSignal(shelf.selectStatus);
  protected readonly trouble = this.store.selectSignal(shelf.selectTrouble);
  /** How many files wait in Arrivals. */
  protected readonly waiting = this.store.selectSignal(arrivals.selectWaiting);
  protected readonly me = this.store.selectSignal(session.selectPerson);

  /** What is being named: a new document, a new collection, or a collection (by id) again. */
  protected readonly naming = signal<'document' | 'collection' | { collection: string } | null>(null);
  /** The collection that one is asked about before it is deleted. */
  protected readonly deleting = signal<Board | null>(null);
  /** What was put in the bin just now. */
  protected readonly binned = signal<DocumentSummary | null>(null);
  protected readonly name = new FormControl('', { nonNullable: true });
  protected readonly accepted = [...READ_ENDINGS, ARCHIVE].join(',');
  protected readonly busy = signal('');
  /** Whether a file is being taken, which may be broken off. */
  protected readonly mayBreakOff = signal(false);
  /** What the document that is being named will be. */
  protected readonly kind = signal<Kind>('text');
  private readonly onScreen = inject(KINDS_ON_SCREEN);
  protected readonly kinds = NEW_KINDS.map((kind) => ({ kind, ...this.onScreen[kind] }));
  protected readonly over = signal<string | null>(null);
  private target: DocumentSummary | null = null;
  protected readonly count = computed(() => {
    const count = this.documents().length;
    return count === 1 ? $localize`1 document` : $localize`${count} documents`;
  });
  protected readonly dense = computed(() => this.me()?.preferences.dense ?? false);
  protected readonly favourites = computed(() => new Set(this.me()?.preferences.favourites ?? []));
  protected readonly rows = computed<readonly Row[]>(() => {
    const marks = { favourites: this.favourites(), recent: recentOf(this.me()?.id ?? '') };
    return arranged(this.boards(), this.browsing.wish(), marks, this.browsing.narrowed());
  });
  /** How many documents are shown. */
  protected readonly found = computed(() => this.rows().filter(({ kind }) => kind === 'document').length);
  protected readonly byId = (_: number, { id }: Row): string => id;

  constructor() {
    this.store.dispatch(ShelfEvents.opened());
    this.store.dispatch(ArrivalEvents.opened());
    this.acting.offer({
      newDocument: () => this.startNaming('document'),
      newCollection: () => this.startNaming('collection'),
      importFile: () => this.choose(null),
      signOut: () => void this.leaving().ask(),
    });
  }

  /** Documents that one has checked out oneself. */
  protected readonly checkedOut = computed(() =>
    this.documents().filter(({ checkOut }) => checkOut !== null && checkOut.by === this.me()?.id),
  );

  protected again(): void {
    this.store.dispatch(ShelfEvents.opened());
  }

  protected startNaming(what: 'document' | 'collection' | Board): void {
    const board = typeof what === 'object' ? what : null;
    this.kind.set('text');
    this.name.setValue(board?.name ?? '');
    this.naming.set(board?.id ? { collection: board.id } : typeof what === 'string' ? what : null);
    setTimeout(() => this.element.nativeElement.querySelector<HTMLInputElement>('.naming input')?.select());
  }

  protected isNaming(board: Board): boolean {
    const naming = this.naming();
    return typeof naming === 'object' && naming !== null && naming.collection === board.id;
  }

  protected async named(): Promise<void> {
    const naming = this.naming();
    const name = this.name.value.trim();
    this.naming.set(null);
    if (!name || naming === null) return;
    if (naming === 'document')
      await this.during($localize`Making the document`, async () =>
        this.enter(await firstValueFrom(this.api.createDocument(name, null, this.kind()))),
      );
    else
      this.store.dispatch(
        ShelfEvents.collectionAsked({ name, id: naming === 'collection' ? null : naming.collection }),
      );
  }

  protected deleteCollection({ id }: Board): void {
    this.deleting.set(null);
    if (id) this.store.dispatch(ShelfEvents.collectionDeletionAsked({ id }));
  }

  /** Makes a document a favourite, or takes the mark off. */
  protected mark({ id }: DocumentSummary, on: boolean): void {
    const others = [...this.favourites()].filter((one) => one !== id);
    this.preferring.change({ favourites: on ? [...others, id] : others }).subscribe({
      error: (error: unknown) => this.store.dispatch(ShelfEvents.callFailed({ why: saidOf(error) })),
    });
  }

  /** Puts a document in the bin; it can be put back at once. */
  protected async bin(document: DocumentSummary): Promise<void> {
    await this.during($localize`Putting ${document.title} in the bin`, async () => {
      await firstValueFrom(this.api.bin(document.id));
      this.store.dispatch(ShelfEvents.documentGone({ id: document.id }));
      this.binned.set(document);
    });
  }

  protected async unbin(document: DocumentSummary): Promise<void> {
    this.binned.set(null);
    await this.during($localize`Putting ${document.title} back`, async () => {
      const back = await firstValueFrom(this.api.putBack(document.id));
      this.store.dispatch(ShelfEvents.documentArrived({ document: back }));
    });
  }

  protected dismiss(): void {
    this.store.dispatch(ShelfEvents.troubleRead());
  }

  /** Lets a file be chosen: to become a document, or the next version of one. */
  protected choose(document: DocumentSummary | null): void {
    this.target = document;
    this.picker().nativeElement.value = '';
    this.picker().nativeElement.click();
  }

  protected async chosen(): Promise<void> {
    const file = this.picker().nativeElement.files?.[0];
    if (file) await this.take(file, this.target);
  }

  protected dragged(event: DragEvent, document: DocumentSummary | null = null): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    event.stopPropagation();
    this.over.set(document?.id ?? 'shelf');
  }

  protected async dropped(event: DragEvent, document: DocumentSummary | null): Promise<void> {
    event.preventDefault();
    event.stopPropagation();
    this.over.set(null);
    for (const file of event.dataTransfer?.files ?? []) await this.take(file, document);
  }

  private async take(file: File, document: DocumentSummary | null): Promise<void> {
    this.mayBreakOff.set(true);
    await this.taken(file, document);
    this.mayBreakOff.set(false);
  }

  private async taken(file: File, document: DocumentSummary | null): Promise<void> {
    if (!document) {
      await this.during($localize`Importing ${file.name}`, async () => {
        const made = await this.filing.bringIn(file);
        if (made) await this.enter(made);
      });
      return;
    }
    await this.during($localize`Importing ${file.name} into ${document.title}`, async () => {
      const outcome = await this.filing.onTop(file, document);
      if (!outcome) return;
      const { seq } = outcome;
      await this.router.navigate(['/documents', document.id], {
        queryParams: { earlier: seq - 1, later: seq },
      });
    });
  }

  private async during(what: string, act: () => Promise<void>): Promise<void> {
    this.busy.set(what);
    try {
      await act();
    } catch (error) {
      this.store.dispatch(ShelfEvents.callFailed({ why: saidOf(error) }));
    } finally {
      this.busy.set('');
    }
  }

  private async enter(document: DocumentSummary): Promise<void> {
    this.store.dispatch(ShelfEvents.documentArrived({ document }));
    await this.router.navigate(['/documents', document.id]);
  }
}
