import { ScrollingModule, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { RowView } from '@oxbow/core/kinds/sheet';
import { lettersOf } from '@oxbow/core/kinds/sheet';
import type { Drawn } from './sheet-page';
import { SheetDesk } from './sheet-desk';
import type { Across, Drawing } from './grid-line';
import { GridLine, cellId } from './grid-line';
import { GridNotes } from './grid-notes';
import { nameOf } from './views';

/** Height of a row and width of the numbers before it, in pixels. */
export const ROW = 26;
export const NUMBERS = 48;
/** How many columns beside the window are drawn already. */
const BESIDE = 2;
const NARROWEST = 24;

/** The cells of a sheet: a window on as many as there are. */
@Component({
  selector: 'ox-grid',
  imports: [GridLine, ScrollingModule],
  templateUrl: './grid.html',
  styleUrl: './grid.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Grid implements Drawn {
  /** A key that the grid has no use for by itself. */
  readonly pressed = output<KeyboardEvent>();
  /** Asks to type into the cell in hand. */
  readonly asked = output();
  /** Asks for more rows at the end. */
  readonly further = output();
  /** A cell was pressed while something is typed; what is to be done is said by `preventDefault`. */
  readonly pointed = output<{ event: MouseEvent; row: number; column: number }>();
  /** The handle at the corner of the selection was drawn as far as this cell. */
  readonly drawnTo = output<{ row: number; column: number }>();

  protected readonly desk = inject(SheetDesk);
  private readonly notes = inject(GridNotes);
  private readonly scroller = viewChild.required<ElementRef<HTMLElement>>('scroller');
  private readonly cells = viewChild.required<ElementRef<HTMLElement>>('cells');
  private readonly viewport = viewChild.required(CdkVirtualScrollViewport);
  private readonly window = signal({ left: 0, width: 1200 });
  private readonly sizing = signal<{ column: string; width: number } | null>(null);
  protected readonly row = ROW;
  protected readonly lettersOf = lettersOf;
  protected readonly label = computed(() => {
    const [sheet, view] = [this.desk.sheet(), this.desk.view()];
    return sheet && view ? nameOf(sheet, view.sheets.indexOf(sheet)) : '';
  });
  protected readonly frozenRows = computed(() => {
    const sheet = this.desk.sheet();
    return sheet?.rows.slice(0, Number(sheet.node.attrs['frozenRows'])) ?? [];
  });
  protected readonly rest = computed<readonly RowView[]>(
    () => this.desk.sheet()?.rows.slice(this.frozenRows().length) ?? [],
  );
  /** Where each column begins, from the left of the first, and where the last ends. */
  private readonly edges = computed(() => {
    const sizing = this.sizing();
    let at = 0;
    const edges = [0];
    for (const { id, node } of this.desk.sheet()?.columns ?? [])
      edges.push((at += sizing?.column === id ? sizing.width : Number(node.attrs['width'])));
    return edges;
  });
  protected readonly width = computed(() => NUMBERS + (this.edges().at(-1) ?? 0));
  protected readonly template = computed(() => {
    const edges = this.edges();
    return `${NUMBERS}px ${edges
      .slice(1)
      .map((edge, i) => `${edge - (edges[i] ?? 0)}px`)
      .join(' ')}`;
  });
  /** The columns that are in view, and those that stand fast. */
  protected readonly across = computed<readonly Across[]>(
    () => {
      const [sheet, edges, { left, width }] = [this.desk.sheet(), this.edges(), this.window()];
      const fast = Number(sheet?.node.attrs['frozenColumns'] ?? 0);
      const first = edges.findIndex((edge) => edge > left) - 1 - BESIDE;
      const found = edges.findIndex((edge) => edge > left + width);
      const last = (found < 0 ? edges.length : found) + BESIDE;
      return (sheet?.columns ?? []).flatMap(({ id }, index): Across[] => {
        if (index < fast) return [{ id, index, fast: NUMBERS + (edges[index] ?? 0) }];
        return index >= first && index <= last ? [{ id, index, fast: null }] : [];
      });
    },
    { equal: isSame },
  );
  protected readonly drawing = computed<Drawing>(() => ({
    sheet: this.desk.sheet()?.id ?? '',
    across: this.across(),
    values: this.desk.values(),
    block: this.desk.block(),
    at: this.desk.at(),
    guests: this.notes.guests(),
    notes: this.notes.notes(),
  }));
  protected readonly inHand = computed(() => {
    const { row, column } = this.desk.at();
    return cellId(row, column);
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const scroller = this.scroller().nativeElement;
      const watch = new ResizeObserver(() => {
        this.viewport().checkViewportSize();
        this.look();
      });
      watch.observe(scroller);
      destroy.onDestroy(() => watch.disconnect());
      this.reveal();
    });
    effect(() => {
      this.desk.end();
      untracked(() => this.reveal());
    });
  }

  protected readonly byId = (_: number, row: RowView): string => row.id;

  focus(): void {
    this.cells().nativeElement.focus({ preventScroll: true });
  }

  /** How many whole rows are in view. */
  pageLength(): number {
    return Math.max(
      1,
      Math.floor(this.scroller().nativeElement.clientHeight / ROW) - this.frozenRows().length - 2,
    );
  }

  /** What is in view from the side. */
  protected look(): void {
    const { scrollLeft, clientWidth } = this.scroller().nativeElement;
    const { left, width } = this.window();
    if (left !== scrollLeft || width !== clientWidth - NUMBERS)
      this.window.set({ left: scrollLeft, width: clientWidth - NUMBERS });
  }

  /** Brings the end of the selection into view. */
  reveal(): void {
    const scroller = this.scroller().nativeElement;
    const [{ row, column }, edges, frozen] = [this.desk.end(), this.edges(), this.frozenRows().length];
    const fast = Number(this.desk.sheet()?.node.attrs['frozenColumns'] ?? 0);
    if (row >= frozen) {
      const heads = ROW * (1 + frozen);
      const top = ROW * (row - frozen);
      if (top < scroller.scrollTop) scroller.scrollTop = top;
      else if (top + ROW + heads > scroller.scrollTop + scroller.clientHeight)
        scroller.scrollTop = top + ROW + heads - scroller.clientHeight;
    }
    if (column < fast) return;
    const [left, right] = [edges[column] ?? 0, edges[column + 1] ?? 0];
    const before = NUMBERS + (edges[fast] ?? 0);
    if (NUMBERS + left < scroller.scrollLeft + before) scroller.scrollLeft = NUMBERS + left - before;
    else if (NUMBERS + right > scroller.scrollLeft + scroller.clientWidth)
      scroller.scrollLeft = NUMBERS + right - scroller.clientWidth;
  }

  /** Where a cell is drawn, from the top and left of the grid. */
  boxOf(row: number, column: number): { top: number; left: number; width: number; height: number } {
    const { scrollTop, scrollLeft } = this.scroller().nativeElement;
    const [edges, frozen] = [this.edges(), this.frozenRows().length];
    const fast = Number(this.desk.sheet()?.node.attrs['frozenColumns'] ?? 0);
    const [left = 0, right = 0] = [edges[column], edges[column + 1]];
    return {
      top: ROW * (row + 1) - (row >= frozen ? scrollTop : 0),
      left: NUMBERS + left - (column >= fast ? scrollLeft : 0),
      width: right - left,
      height: ROW,
    };
  }

  heightOf(position: number): number | null {
    const index = (this.desk.sheet()?.rows ?? []).findIndex(
      ({ at, node }) => position >= at && position < at + node.nodeSize,
    );
    if (index < 0) return null;
    return this.scroller().nativeElement.getBoundingClientRect().top + this.boxOf(index, 0).top;
  }

  positionAt(top: number): number | null {
    const scroller = this.scroller().nativeElement;
    const [frozen, y] = [this.frozenRows().length, top - scroller.getBoundingClientRect().top - ROW];
    const index = Math.floor((y < frozen * ROW ? y : y + scroller.scrollTop) / ROW);
    return this.desk.sheet()?.rows[Math.max(0, index)]?.at ?? null;
  }

  /** The cell that the pointer is on. */
  private cellAt({ target }: MouseEvent): { row: number; column: number } | null {
    const cell = target instanceof HTMLElement ? target.closest<HTMLElement>('[data-row]') : null;
    if (!cell || !this.scroller().nativeElement.contains(cell)) return null;
    return { row: Number(cell.dataset['row']), column: Number(cell.dataset['column'] ?? -1) };
  }

  protected down(event: MouseEvent): void {
    if (event.button !== 0) return;
    const target = event.target as HTMLElement;
    const letter = target.closest<HTMLElement>('[data-letter]');
    if (target.closest('[data-edge]')) return this.size(event, Number(letter?.dataset['letter']));
    if (target.closest('.every')) return this.selectAll();
    if (letter) return this.selectColumns(Number(letter.dataset['letter']), event.shiftKey);
    const at = this.cellAt(event);
    if (!at) return;
    if (at.column < 0) return this.selectRows(at.row, event.shiftKey);
    this.pointed.emit({ event, ...at });
    if (event.defaultPrevented) return;
    if (target.classList.contains('corner') && this.isHandle(target, event)) return this.drawHandle(event);
    this.desk.selectAt(at.row, at.column, event.shiftKey);
    this.follow((to) => to.column >= 0 && this.desk.selectAt(to.row, to.column, true));
  }

  /** Whether the pointer is on the handle at the corner of the selection. */
  private isHandle(cell: HTMLElement, { clientX, clientY }: MouseEvent): boolean {
    const { right, bottom } = cell.getBoundingClientRect();
    return this.desk.writable() && right - clientX < 9 && bottom - clientY < 9;
  }

  private drawHandle(event: MouseEvent): void {
    event.preventDefault();
    let last: { row: number; column: number } | null = null;
    this.follow(
      (to) => (last = to),
      () => last && last.column >= 0 && this.drawnTo.emit(last),
    );
  }

  /** Follows the pointer until it is let go. */
  private follow(
    moved: (at: { row: number; column: number }) => void,
    done: () => void = () => undefined,
  ): void {
    const move = (event: MouseEvent): void => {
      const at = this.cellAt(event);
      if (at) moved(at);
    };
    const up = (): void => {
      removeEventListener('mousemove', move);
      done();
    };
    addEventListener('mousemove', move);
    addEventListener('mouseup', up, { once: true });
  }

  private size(event: MouseEvent, index: number): void {
    event.preventDefault();
    const column = this.desk.sheet()?.columns[index];
    if (!column || !this.desk.writable()) return;
    const before = Number(column.node.attrs['width']);
    const move = ({ clientX }: MouseEvent): void =>
      this.sizing.set({
        column: column.id,
        width: Math.max(NARROWEST, Math.min(2000, before + clientX - event.clientX)),
      });
    addEventListener('mousemove', move);
    addEventListener(
      'mouseup',
      () => {
        removeEventListener('mousemove', move);
        const width = Math.round(this.sizing()?.width ?? before);
        if (width !== before) this.desk.act((tr) => tr.setNodeAttribute(column.at, 'width', width));
        this.sizing.set(null);
      },
      { once: true },
    );
  }

  selectAll(): void {
    const sheet = this.desk.sheet();
    if (sheet)
      this.desk.selectBlock({
        top: 0,
        left: 0,
        bottom: sheet.rows.length - 1,
        right: sheet.columns.length - 1,
      });
  }

  selectColumns(column: number, extend = false): void {
    const sheet = this.desk.sheet();
    const from = extend ? this.desk.at().column : column;
    if (sheet)
      this.desk.selectBlock({
        top: 0,
        bottom: sheet.rows.length - 1,
        left: Math.min(from, column),
        right: Math.max(from, column),
      });
  }

  selectRows(row: number, extend = false): void {
    const sheet = this.desk.sheet();
    const from = extend ? this.desk.at().row : row;
    if (sheet)
      this.desk.selectBlock({
        left: 0,
        right: sheet.columns.length - 1,
        top: Math.min(from, row),
        bottom: Math.max(from, row),
      });
  }
}

function isSame(one: readonly Across[], other: readonly Across[]): boolean {
  return (
    one.length === other.length &&
    one.every(({ id, index, fast }, i) => {
      const same = other[i];
      return same?.id === id && same.index === index && same.fast === fast;
    })
  );
}
