import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatInputModule } from '@angular/material/input';
import type { DocumentSummary } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import type { Board } from '../documents/shelf.store';
import { ShelfEvents } from '../documents/shelf.store';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { saidOf } from '../api/api';
import { Choice } from '../look/choice';
import type { Chosen } from '../look/choice';
import { Preferring } from '../session/preferring';
import { session } from '../session/session.store';
import type { Order, Selection } from './arranging';
import { Browsing } from './browsing';

const SELECTED: readonly (readonly [Selection, string])[] = [
  ['all', $localize`All`],
  ['favourites', $localize`Favourites`],
  ['recent', $localize`Recent`],
  ['new', $localize`New to me`],
];
const ORDERED: readonly Chosen<Order>[] = [
  ['changed', $localize`Last changed`],
  ['title', $localize`Title`],
  ['made', $localize`Last made`],
  ['new', $localize`Most that is new`],
];

/** Narrows and orders the shelf, and says how close its lines stand. */
@Component({
  selector: 'ox-shelf-tools',
  imports: [Choice, FormsModule, MatButtonModule, MatButtonToggleModule, MatInputModule],
  templateUrl: './shelf-tools.html',
  styleUrl: './shelf-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'group', '[attr.aria-label]': 'ownName' },
})
export class ShelfTools {
  protected readonly ownName = $localize`Which documents are shown`;
  readonly boards = input.required<readonly Board[]>();
  readonly documents = input.required<readonly DocumentSummary[]>();
  /** How many documents are shown. */
  readonly shown = input.required<number>();

  protected readonly browsing = inject(Browsing);
  private readonly onScreen = inject(KINDS_ON_SCREEN);
  private readonly preferring = inject(Preferring);
  private readonly store = inject(Store);
  private readonly me = this.store.selectSignal(session.selectPerson);
  private readonly people = this.store.selectSignal(session.selectPeopleById);
  protected readonly selected = SELECTED;
  protected readonly ordered = ORDERED;
  protected readonly dense = computed(() => this.me()?.preferences.dense ?? false);
  /** Kinds of document there are, where there is more than one. */
  protected readonly kinds = computed((): Chosen<string>[] => {
    const kinds = [...new Set(this.documents().map(({ kind }) => kind))];
    return kinds.length > 1
      ? [
          ['', $localize`Of every kind`],
          ...kinds.map((one): Chosen<string> => [one, this.onScreen[one]?.label ?? one]),
        ]
      : [];
  });
  protected readonly collections = computed((): Chosen<string>[] => [
    ['', $localize`In every collection`],
    ...this.boards().map(({ id, name }): Chosen<string> => [id ?? 'none', name]),
  ]);
  /** Whoever wrote in one of the documents. */
  protected readonly writers = computed((): Chosen<string>[] => {
    const ids = new Set(
      this.documents().flatMap(({ changedBy, gauge }) => [
        changedBy,
        ...gauge.flatMap(({ shares }) => shares.map(([person]) => person)),
      ]),
    );
    const people = [...ids].flatMap((id) => this.people().get(id) ?? []);
    people.sort((a, b) => a.name.localeCompare(b.name));
    return [
      ['', $localize`By anybody`],
      ...people.map(({ id, name }): Chosen<string> => [id, $localize`By ${name}`]),
    ];
  });

  protected lines(dense: boolean): void {
    this.preferring.change({ dense }).subscribe({
      error: (error: unknown) => this.store.dispatch(ShelfEvents.callFailed({ why: saidOf(error) })),
    });
  }
}
