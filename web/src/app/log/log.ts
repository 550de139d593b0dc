import { CdkFixedSizeVirtualScroll, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { MatSortModule } from '@angular/material/sort';
import type { Sort } from '@angular/material/sort';
import { MatTableModule } from '@angular/material/table';
import type { Person, Version } from '@oxbow/contract';
import type { Cause, Trace } from '@oxbow/core/history';
import { What } from '../acting/what';
import { Choice } from '../look/choice';
import type { Chosen } from '../look/choice';
import { colourOf } from '../look/colours';
import { Now } from '../look/now';
import { Paper } from '../look/paper';
import { dayAndTime } from '../look/time';
import type { Pick } from '../tideline/tideline';
import { usual } from '../tideline/layout';
import type { LogFilter, LogRow, LogSort } from './log-rows';
import { CAUSES, NO_FILTER, logRows } from './log-rows';

const GAUGE = 54;
/** Moments closer than this show their seconds. */
const CLOSE = 2 * 60_000;

/** The history as a plain table: sittings, the versions within them, the edits within those. */
@Component({
  selector: 'ox-log',
  imports: [
    What,
    CdkFixedSizeVirtualScroll,
    CdkVirtualScrollViewport,
    Choice,
    FormsModule,
    MatButtonModule,
    MatCheckboxModule,
    MatIconModule,
    MatSortModule,
    MatTableModule,
  ],
  templateUrl: './log.html',
  styleUrl: './log.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Log {
  readonly traces = input.required<readonly Trace[]>();
  readonly causes = input.required<ReadonlyMap<number, Cause>>();
  readonly versions = input.required<readonly Version[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly pick = input.required<Pick | null>();
  readonly chosen = output<Pick>();

  protected readonly filter = signal<LogFilter>(NO_FILTER);
  private readonly sort = signal<LogSort>({ by: 'at', ascending: false });
  private readonly unfolded = signal<ReadonlySet<string>>(new Set());
  /** Rows picked to be compared, two at most. */
  protected readonly marked = signal<readonly LogRow[]>([]);
  protected readonly columns = ['mark', 'at', 'moment', 'who', 'gist', 'words', 'cause'];
  protected readonly causeNames = [['', $localize`Cut at anything`], ...Object.entries(CAUSES)] as const;
  protected readonly authors = computed((): Chosen<string>[] => {
    const ids = new Set(this.versions().flatMap(({ authors }) => authors));
    const people = [...ids].flatMap((id) => this.people().get(id) ?? []);
    return [['', $localize`Everybody`], ...people.map(({ id, name }): Chosen<string> => [id, name])];
  });
  private readonly now = inject(Now);
  protected readonly paper = inject(Paper);
  private readonly list = computed(() =>
    logRows(
      { traces: this.traces(), causes: this.causes(), versions: this.versions() },
      this.filter(),
      this.sort(),
      this.unfolded(),
    ),
  );
  protected readonly rows = computed(() => {
    const list = this.list();
    const most = usual(
      list.filter(({ kind }) => kind === 'sitting').map((row) => row.wordsIn + row.wordsOut),
    );
    const width = (words: number): number => Math.sqrt(Math.min(1, words / most)) * (GAUGE / 2);
    return list.map((row, i) => {
      const near = [list[i - 1], list[i + 1]].some((one) => one && Math.abs(one.at - row.at) < CLOSE);
      return {
        ...row,
        when: dayAndTime(row.at, new Date(), row.kind === 'edit' || near),
        ago: this.now.ago(row.at),
        who: row.authors.flatMap((id) => this.people().get(id) ?? []),
        open: this.unfolded().has(row.id),
        put: width(row.wordsIn),
        took: width(row.wordsOut),
      };
    });
  });
  protected readonly gauge = GAUGE;
  protected readonly filtered = computed(() => this.filter() !== NO_FILTER);
  protected readonly colourOf = colourOf;

  protected narrow(part: Partial<LogFilter>): void {
    this.filter.update((filter) => ({ ...filter, ...part }));
  }

  protected clear(): void {
    this.filter.set(NO_FILTER);
  }

  protected sorted({ active, direction }: Sort): void {
    this.sort.set(
      direction === ''
        ? { by: 'at', ascending: false }
        : { by: active === 'words' ? 'words' : 'at', ascending: direction === 'asc' },
    );
  }

  protected toggle(row: LogRow): void {
    this.unfolded.update((open) => {
      const next = new Set(open);
      if (!next.delete(row.id)) next.add(row.id);
      return next;
    });
  }

  protected foldingSaid({ open, when }: { readonly open: boolean; readonly when: string }): string {
    return open ? $localize`Fold ${when}` : $localize`Unfold ${when}`;
  }

  protected look(row: LogRow): void {
    this.chosen.emit({ earlier: row.before, later: row.seq });
  }

  protected isMarked(row: LogRow): boolean {
    return this.marked().some(({ id }) => id === row.id);
  }

  protected mark(row: LogRow): void {
    this.marked.update((marked) =>
      this.isMarked(row) ? marked.filter(({ id }) => id !== row.id) : [...marked, row].slice(-2),
    );
  }

  protected compare(): void {
    const seqs = this.marked()
      .map(({ seq }) => seq)
      .sort((a, b) => a - b);
    const [earlier, later] = seqs;
    if (earlier !== undefined && later !== undefined) this.chosen.emit({ earlier, later });
    this.marked.set([]);
  }

  protected keyOf(_index: number, row: LogRow): string {
    return row.id;
  }
}
