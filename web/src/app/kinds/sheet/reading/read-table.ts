import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import type { MergedLine } from '@oxbow/core/kinds/sheet';
import type { ReadDrawing } from './read-line';
import { ReadLine, lettersOfColumn } from './read-line';

/** Least width of a column in which a cell shows what it was and what it is. */
const TWO = 150;
/** Height of a row, and width of what stands before its cells, in pixels. */
const ROW = 26;
const MARGIN = 64;
const NUMBERS = 44;

/** The rows of a compared sheet, of both books as one or of one of them. */
@Component({
  selector: 'ox-read-table',
  imports: [ReadLine, ScrollingModule],
  template: `
    <div
      #scroller
      class="scroller"
      cdkVirtualScrollingElement
      role="grid"
      tabindex="0"
      aria-readonly="true"
      [attr.aria-label]="label()"
      [attr.aria-rowcount]="rows().length + 1"
      [attr.aria-colcount]="drawing().columns.length + 1"
      [style.--columns]="template()"
      (scroll)="scrolled.emit(scroller)"
    >
      <div class="line heads" role="row" [style.width.px]="width()">
        <span class="margin" role="presentation"></span>
        <span class="number" role="columnheader"><span i18n class="unseen">Row</span></span>
        @for (column of drawing().columns; track column.id) {
          <span
            class="letter"
            role="columnheader"
            [class.was-added]="change(column) !== null && !column.earlier"
            [class.was-removed]="change(column) !== null && !column.later"
            [class.was-moved]="change(column) !== null && column.earlier && column.later"
            [attr.data-change]="change(column)"
            [class.at-hand]="change(column) !== null && change(column) === drawing().at"
            >{{ letters(column) }}</span
          >
        }
      </div>
      <cdk-virtual-scroll-viewport
        role="rowgroup"
        [itemSize]="row"
        [minBufferPx]="row * 12"
        [maxBufferPx]="row * 24"
        [style.width.px]="width()"
      >
        <ox-read-line
          *cdkVirtualFor="let line of rows(); trackBy: byId; templateCacheSize: 60"
          [row]="line"
          [drawing]="drawing()"
        />
      </cdk-virtual-scroll-viewport>
    </div>
  `,
  styleUrl: './read-table.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReadTable {
  readonly rows = input.required<readonly MergedLine[]>();
  readonly drawing = input.required<ReadDrawing>();
  readonly label = input.required<string>();
  readonly scrolled = output<HTMLElement>();

  private readonly scroller = viewChild.required<ElementRef<HTMLElement>>('scroller');
  private readonly viewport = viewChild.required(CdkVirtualScrollViewport);
  protected readonly row = ROW;
  /** Columns in which a cell was changed. */
  private readonly twofold = computed(() => {
    const { marks, sheet } = this.drawing();
    const own = [...marks.first.values()].filter((place) => place.sheet === sheet && place.row !== null);
    return new Set(
      own.flatMap(({ column, change }) => (column !== null && change.kind !== 'form' ? [column] : [])),
    );
  });
  private readonly widths = computed(() =>
    this.drawing().columns.map(({ id, earlier, later }) =>
      Math.max(this.twofold().has(id) ? TWO : 56, Number((later ?? earlier)?.node.attrs['width'] ?? 96)),
    ),
  );
  protected readonly template = computed(
    () =>
      `${MARGIN}px ${NUMBERS}px ${this.widths()
        .map((width) => `${width}px`)
        .join(' ')}`,
  );
  protected readonly width = computed(() =>
    this.widths().reduce((sum, width) => sum + width, MARGIN + NUMBERS),
  );

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const watch = new ResizeObserver(() => this.viewport().checkViewportSize());
      watch.observe(this.scroller().nativeElement);
      destroy.onDestroy(() => watch.disconnect());
    });
  }

  protected readonly byId = (_: number, line: MergedLine): string => line.id;

  protected letters(column: MergedLine): string {
    return lettersOfColumn(column, this.drawing());
  }

  protected change({ id }: MergedLine): number | null {
    const { marks, sheet } = this.drawing();
    return marks.either(sheet, null, id)?.id ?? null;
  }

  /** Brings a row, and a column of it, into the middle of the window. */
  reveal(row: number, column: number): void {
    const scroller = this.scroller().nativeElement;
    const [top, half] = [row * ROW, scroller.clientHeight / 2];
    if (top < scroller.scrollTop || top + 2 * ROW > scroller.scrollTop + scroller.clientHeight)
      scroller.scrollTop = Math.max(0, top - half);
    const left =
      MARGIN +
      NUMBERS +
      this.widths()
        .slice(0, column)
        .reduce((sum, width) => sum + width, 0);
    if (
      left < scroller.scrollLeft + MARGIN + NUMBERS ||
      left + 80 > scroller.scrollLeft + scroller.clientWidth
    )
      scroller.scrollLeft = Math.max(0, left - scroller.clientWidth / 2);
  }

  /** Goes along with another table. */
  follow({ scrollTop, scrollLeft }: HTMLElement): void {
    const scroller = this.scroller().nativeElement;
    if (scroller.scrollTop !== scrollTop) scroller.scrollTop = scrollTop;
    if (scroller.scrollLeft !== scrollLeft) scroller.scrollLeft = scrollLeft;
  }
}
