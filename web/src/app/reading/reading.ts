import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  output,
  untracked,
  viewChild,
} from '@angular/core';
import type { ComparedChange, Person } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import { fullTime } from '../look/time';
import type { Look } from './look';
import { drawSwitch, showTaken, switchesOf } from './switch';
import type { Pages, Row } from './rows';
import { box, drawFacing, drawFlowing, drawTab, guessHeight, pagesOf, tabsOf } from './rows';

/** How far outside the window rows are drawn already, in pixels. */
const AHEAD = '900px 0px';
/** How long rows take to be drawn after scrolling, in milliseconds. */
const SETTLE = 90;

/**
 * A comparison to be read: flowing, as one text with marks, or facing, as two columns in step. Only rows near the window
 * are drawn, so that a long document shows its first marks at once.
 */
@Component({
  selector: 'ox-reading',
  template: `<div #rows class="rows" role="document" tabindex="0" [attr.aria-label]="label()"></div>`,
  styleUrl: './reading.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '[class.facing]': 'facing()',
    '[class.deciding]': 'decisions() !== null',
    '(click)': 'clicked($event)',
    '(mouseover)': 'touched($event)',
    '(focusin)': 'touched($event)',
    '(window:resize)': 'retab()',
  },
})
export class Reading {
  readonly look = input.required<Look>();
  /** The changes that are marked. */
  readonly shown = input.required<readonly ComparedChange[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly facing = input.required<boolean>();
  /** What stands beside what, in the order in which it is read; as the comparison has it where none are given. */
  readonly rows = input<readonly Row[] | null>(null);
  /** The change in hand, or null. */
  readonly at = input.required<number | null>();
  /** Whether one's place in the text is kept when another pair comes, rather than going to the change in hand. */
  readonly stay = input(false);
  /** What was decided about each change, while one assembles; null otherwise. */
  readonly decisions = input<ReadonlyMap<number, Decision> | null>(null);
  readonly changed = output<number>();
  readonly decided = output<{ change: number; take: Decision }>();
  /** A mark under the pointer or the focus, and its change. */
  readonly noted = output<{ element: HTMLElement; change: number }>();

  private readonly host = viewChild.required<ElementRef<HTMLElement>>('rows');
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly pages = computed(() =>
    pagesOf(this.look(), this.shown(), this.people(), this.rows() ?? undefined),
  );
  protected readonly label = computed(() =>
    this.facing()
      ? $localize`The two documents, paragraph beside paragraph`
      : $localize`The document as it was, with marks for what changed`,
  );
  private observer: IntersectionObserver | null = null;
  private drawn = new Set<number>();
  /** The row at the top of the window before the pair changed. */
  private place: { text: string; index: number } | null = null;
  private revealed: Look | null = null;

  constructor() {
    effect(() => {
      const [pages, facing] = [this.pages(), this.facing()];
      untracked(() => this.lay(pages, facing));
    });
    effect(() => {
      const [at, pages] = [this.at(), this.pages()];
      this.facing();
      const stays = pages.look !== this.revealed && untracked(this.stay);
      this.revealed = pages.look;
      if (at !== null && !stays) untracked(() => requestAnimationFrame(() => this.reveal(at, pages)));
    });
    effect(() => {
      this.decisions();
      untracked(() => this.retab());
    });
    effect((onCleanup) => onCleanup(() => this.observer?.disconnect()));
  }

  /** Lays out empty rows of about the right height; those near the window are drawn. */
  private lay(pages: Pages, facing: boolean): void {
    const host = this.host().nativeElement;
    this.remember();
    this.observer?.disconnect();
    this.drawn = new Set();
    this.observer = new IntersectionObserver(
      (entries) => {
        for (const entry of entries)
          if (entry.isIntersecting)
            this.draw(Number((entry.target as HTMLElement).dataset['row']), pages, facing);
      },
      { rootMargin: AHEAD },
    );
    const rows = pages.rows.map((_, index) => {
      const row = box('row');
      row.dataset['row'] = String(index);
      row.style.minHeight = `${guessHeight(pages, index, facing)}px`;
      return row;
    });
    host.replaceChildren(...rows);
    for (const row of rows) this.observer.observe(row);
    this.comeBack(pages);
  }

  private draw(index: number, pages: Pages, facing: boolean): void {
    if (this.drawn.has(index)) return;
    this.drawn.add(index);
    const row = this.row(index);
    if (!row) return;
    this.observer?.unobserve(row);
    row.style.minHeight = '';
    const between = box(facing ? 'between' : 'margin');
    if (facing) {
      const [earlier, later] = drawFacing(pages, index);
      row.replaceChildren(earlier, between, later);
    } else row.replaceChildren(between, drawFlowing(pages, index));
    const marks = [...row.querySelectorAll<HTMLElement>('[data-change]')];
    row.classList.toggle('changed', marks.length > 0);
    for (const [i, mark] of marks.entries())
      if (marks.findIndex(({ dataset }) => dataset['change'] === mark.dataset['change']) === i)
        mark.tabIndex = 0;
    this.tab(row, index, pages);
    this.mark(row, this.at());
  }

  private tab(row: HTMLElement, index: number, pages: Pages): void {
    const between = row.querySelector('.between, .margin');
    const changes = pages.changes.filter((change) => pages.rowsOf.get(change.id)?.includes(index));
    const [people, decisions] = [this.people(), this.decisions()];
    if (decisions) {
      const decide = (change: number, take: Decision): void => this.decided.emit({ change, take });
      between?.replaceChildren(...switchesOf(row, changes).map((one) => drawSwitch(one, decisions, decide)));
      showTaken(row, decisions);
      return;
    }
    const tabs = tabsOf(row, changes).map((tab) => {
      const names = tab.people.map((id) => people.get(id)?.name ?? $localize`somebody`).join(' and ');
      return drawTab(tab, people, `${names}, ${fullTime(tab.at)}`, (change) => this.changed.emit(change));
    });
    between?.replaceChildren(...tabs);
  }

  /** Puts the tabs in line again after the window changed. */
  protected retab(): void {
    const pages = this.pages();
    for (const index of this.drawn) {
      const row = this.row(index);
      if (row) this.tab(row, index, pages);
    }
  }

  private row(index: number): HTMLElement | null {
    return (this.host().nativeElement.children[index] as HTMLElement | undefined) ?? null;
  }

  private mark(within: ParentNode, at: number | null): void {
    for (const element of within.querySelectorAll('.at-hand')) element.classList.remove('at-hand');
    if (at === null) return;
    for (const element of within.querySelectorAll(`[data-change="${at}"]`)) element.classList.add('at-hand');
  }

  /** Brings a change into the middle of the window. Rows drawn on the way may push it away again, so it is seen to. */
  private reveal(change: number, pages: Pages, tries = 6): void {
    if (this.pages() !== pages || this.at() !== change) return;
    const rows = pages.rowsOf.get(change) ?? [];
    const facing = this.facing();
    for (const index of rows) this.draw(index, pages, facing);
    this.mark(this.host().nativeElement, change);
    const mark = rows.flatMap(
      (index) => this.row(index)?.querySelector(`[data-change="${change}"]`) ?? [],
    )[0];
    mark?.scrollIntoView({ block: 'center' });
    if (!mark || tries === 0) return;
    const top = mark.getBoundingClientRect().top;
    setTimeout(() => {
      if (Math.abs(mark.getBoundingClientRect().top - top) > 2) this.reveal(change, pages, tries - 1);
    }, SETTLE);
  }

  /** Keeps one's place in the text for when the pair changes. */
  private remember(): void {
    const top = this.element.nativeElement.parentElement?.parentElement?.getBoundingClientRect().top ?? 0;
    const rows = [...this.host().nativeElement.children] as HTMLElement[];
    const index = rows.findIndex((row) => row.getBoundingClientRect().bottom > top + 1);
    const row = rows[index];
    this.place = row ? { text: row.textContent, index } : null;
  }

  private comeBack(pages: Pages): void {
    const { place } = this;
    if (!place || !this.stay()) return;
    const texts = pages.rows.map(({ later }) => pages.later.doc.textBetween(later.from, later.to));
    const same = texts.findIndex((text) => text !== '' && place.text.includes(text));
    const index = same >= 0 ? same : Math.min(place.index, pages.rows.length - 1);
    this.draw(index, pages, this.facing());
    this.row(index)?.scrollIntoView({ block: 'start' });
  }

  protected clicked(event: MouseEvent): void {
    const change = this.changeAt(event.target);
    if (change) this.changed.emit(change.change);
  }

  protected touched(event: Event): void {
    const change = this.changeAt(event.target);
    if (change) this.noted.emit(change);
  }

  private changeAt(target: EventTarget | null): { element: HTMLElement; change: number } | null {
    const element = (target as HTMLElement).closest<HTMLElement>('[data-change]');
    return element ? { element, change: Number(element.dataset['change']) } : null;
  }
}
