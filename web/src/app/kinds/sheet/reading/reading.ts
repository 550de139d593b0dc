import {
  ChangeDetectionStrategy,
  Component,
  Injector,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  untracked,
  viewChildren,
} from '@angular/core';
import type { ComparedChange, Person } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import type { Look, Mode } from '../../../reading/look';
import { Calculating } from '../calculating';
import { booksOf, marksOf, sheetName } from './compared-books';
import type { Side } from './placed';
import type { ReadDrawing } from './read-line';
import { ReadTable } from './read-table';
import { SheetDigest } from './sheet-digest';
import { summaryOf } from './told-sheets';

/** Two books to be read against each other: as one grid with marks, side by side in step, or only what differs. */
@Component({
  selector: 'ox-sheet-reading',
  imports: [ReadTable, SheetDigest],
  templateUrl: './reading.html',
  styleUrl: './reading.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(click)': 'clicked($event)', '(mouseover)': 'touched($event)', '(focusin)': 'touched($event)' },
})
export class SheetReading {
  readonly look = input.required<Look>();
  readonly mode = input.required<Mode>();
  readonly shown = input.required<readonly ComparedChange[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly at = input.required<number | null>();
  readonly decisions = input.required<ReadonlyMap<number, Decision> | null>();
  readonly changed = input.required<(change: number) => void>();
  readonly decided = input.required<(decision: { change: number; take: Decision }) => void>();
  readonly noted = input.required<(noted: { element: HTMLElement; change: number }) => void>();
  readonly opened = input.required<(change: number) => void>();

  private readonly tables = viewChildren(ReadTable);
  private readonly calculating = (['earlier', 'later'] as const).map((side) => ({
    side,
    by: Injector.create({ providers: [Calculating], parent: inject(Injector) }).get(Calculating),
  }));
  protected readonly books = computed(() => booksOf(this.look()));
  protected readonly marks = computed(() => marksOf(this.books(), this.shown()));
  protected readonly values = computed(() => {
    const [earlier, later] = this.calculating.map(({ by }) => by.values());
    return { earlier: earlier ?? new Map(), later: later ?? new Map() };
  });
  protected readonly summary = computed(() =>
    summaryOf(this.books(), this.values().earlier, this.values().later),
  );
  /** The sheets of both, with how many of the changes that are shown are in each. */
  protected readonly tabs = computed(() => {
    const counts = new Map<string, number>();
    for (const { sheet } of this.marks().first.values()) counts.set(sheet, (counts.get(sheet) ?? 0) + 1);
    return this.books().sheets.map((sheet) => ({
      id: sheet.id,
      name: sheetName(this.books(), sheet),
      count: counts.get(sheet.id) ?? 0,
      gone: sheet.later === null,
    }));
  });
  /** The sheet in view: that of the change in hand, until another is chosen. */
  protected readonly open = linkedSignal<string>(() => {
    const place = this.marks().first.get(this.at() ?? -1);
    return place?.sheet ?? this.books().sheets[0]?.id ?? '';
  });
  protected readonly sheet = computed(
    () => this.books().sheets.find(({ id }) => id === this.open()) ?? this.books().sheets[0] ?? null,
  );
  protected readonly sides = computed<readonly (Side | null)[]>(() =>
    this.mode() === 'facing' ? ['earlier', 'later'] : [null],
  );
  protected readonly drawings = computed(() =>
    this.sides().map((side): ReadDrawing => ({
      books: this.books(),
      sheet: this.sheet()?.id ?? '',
      columns: this.sheet()?.columns ?? [],
      side,
      marks: this.marks(),
      values: this.values(),
      people: this.people(),
      at: this.at(),
      decisions: this.decisions(),
      decide: (change, take) => this.decided()({ change, take }),
    })),
  );
  protected readonly labels: Readonly<Record<Side | 'both', string>> = {
    earlier: $localize`The sheet as it was earlier`,
    later: $localize`The sheet as it is later`,
    both: $localize`The sheet, with marks for what changed`,
  };

  constructor() {
    effect(() => {
      const { earlier, later } = this.books();
      for (const { side, by } of this.calculating) by.begin((side === 'earlier' ? earlier : later).doc);
    });
    effect(() => {
      const [place, sheet, tables] = [this.marks().first.get(this.at() ?? -1), this.sheet(), this.tables()];
      if (!place || !sheet || place.sheet !== sheet.id) return;
      const row = sheet.rows.findIndex(({ id }) => id === place.row);
      const column = sheet.columns.findIndex(({ id }) => id === place.column);
      untracked(() =>
        setTimeout(() => tables.forEach((table) => table.reveal(Math.max(0, row), Math.max(0, column)))),
      );
    });
  }

  protected inStep(scroller: HTMLElement): void {
    for (const table of this.tables()) table.follow(scroller);
  }

  protected clicked(event: MouseEvent): void {
    const found = changeAt(event.target);
    if (found) this.changed()(found.change);
  }

  protected touched(event: Event): void {
    const found = changeAt(event.target);
    if (found) this.noted()(found);
  }
}

function changeAt(target: EventTarget | null): { element: HTMLElement; change: number } | null {
  const element = (target as HTMLElement).closest<HTMLElement>('[data-change]');
  return element ? { element, change: Number(element.dataset['change']) } : null;
}
