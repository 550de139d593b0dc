import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  untracked,
  viewChild,
} from '@angular/core';
import { isFormula } from '@oxbow/core/kinds/sheet';
import type { EditorState } from 'prosemirror-state';
import type { Standpoint } from '../../document/kinds';
import { LiveDocument } from '../../document/live-document';
import { Calculating } from './calculating';
import { fill, typeInto } from './cell-acts';
import { CellTools } from './cell-tools';
import { Clipboard } from './clipboard';
import { FindInSheet } from './find-in-sheet';
import { FormulaLine } from './formula-line';
import { Grid } from './grid';
import { a1 } from './grid-line';
import { GridNotes } from './grid-notes';
import { moveTo } from './moves';
import { SheetActs } from './sheet-acts';
import { SheetDesk } from './sheet-desk';
import { SheetTabs } from './sheet-tabs';

/** What a formula may end with when pressing a cell puts its name there. */
const OPEN = /[=(,;:+\-*/^&<>]\s*$/;

/** A book one writes in: its sheets, the line for the cell in hand, and the cells. */
@Component({
  selector: 'ox-sheet-editor',
  imports: [CellTools, FindInSheet, FormulaLine, Grid, SheetTabs],
  providers: [Calculating, Clipboard, GridNotes, SheetActs, SheetDesk],
  templateUrl: './editor.html',
  styleUrl: './editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(copy)': 'clipboard.copy($event)',
    '(cut)': 'clipboard.cut($event)',
    '(paste)': 'clipboard.paste($event)',
  },
})
export class SheetEditor {
  readonly id = input.required<string>();
  readonly start = input.required<EditorState>();
  readonly writable = input.required<boolean>();
  readonly inView = input(true);
  readonly selection = input<Standpoint | null>(null);
  readonly since = input<number | null>(null);
  readonly head = input(0);
  readonly selected = input.required<(standpoint: Standpoint) => void>();
  readonly toLife = input.required<(position: number) => void>();

  private readonly live = inject(LiveDocument);
  protected readonly desk = inject(SheetDesk);
  protected readonly acts = inject(SheetActs);
  protected readonly clipboard = inject(Clipboard);
  protected readonly grid = viewChild.required(Grid);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly typing = this.desk.typing;
  /** The column at which typing along a row with Tab began; null while one does not. */
  private rowBegan: number | null = null;
  /** Where the field over the cell stands; null while nothing is typed in a cell. */
  protected readonly box = computed(() => {
    const typing = this.typing();
    if (!typing || typing.above) return null;
    const { row, column } = this.desk.at();
    return this.grid().boxOf(row, column);
  });

  constructor() {
    effect(() => this.desk.writable.set(this.writable()));
    effect(() => this.desk.inView.set(this.inView()));
    afterNextRender(() => {
      const page = this.desk.begin(this.start(), this.grid(), this.selection());
      this.live.attach(page);
      this.grid().focus();
    });
    effect((onCleanup) => onCleanup(() => this.live.attach(null)));
    effect(() => {
      this.desk.selected();
      const standpoint = untracked(() => this.desk.standpoint());
      if (!standpoint) return;
      this.selected()(standpoint);
      untracked(() => this.live.present(standpoint.anchor, standpoint.head));
    });
    this.acts.offer({
      grid: () => this.grid(),
      life: () => {
        const at = this.desk.standpoint();
        if (at) this.toLife()(at.head);
      },
    });
  }

  /** Begins to type into the cell in hand: from what it holds, or anew. */
  protected begin(text = this.desk.typed(), above = false): void {
    const selected = this.desk.selected();
    if (!selected || !this.desk.writable()) return;
    this.typing.set({ sheet: selected.sheet, spot: selected.anchor, text, above });
    if (above) return;
    const field = this.field().nativeElement;
    field.value = text;
    field.focus({ preventScroll: true });
  }

  protected typed(text: string): void {
    this.typing.update((typing) => typing && { ...typing, text });
  }

  /** Puts what was typed into its cell, and goes on from there: with Tab along the row, and then with Enter to the start of the next. */
  protected put(down: number, right: number): void {
    this.keep();
    const { row, column } = this.desk.at();
    if (right > 0) this.rowBegan ??= column;
    if (down > 0 && row === (this.desk.sheet()?.rows.length ?? 0) - 1) this.acts.addRows(1);
    this.desk.selectAt(row + down, down > 0 ? (this.rowBegan ?? column) : column + right);
    if (right <= 0) this.rowBegan = null;
    this.grid().focus();
  }

  /** Puts what was typed into its cell. */
  protected keep(): void {
    const typing = this.typing();
    if (!typing) return;
    this.typing.set(null);
    this.desk.act((tr, view, sheet) => {
      const [row, column] = [
        view.places.row(sheet.id, typing.spot.row),
        view.places.column(sheet.id, typing.spot.column),
      ];
      if (row >= 0 && column >= 0 && typing.text !== this.desk.typed())
        typeInto(tr, view, sheet, { row, column }, [[typing.text]]);
    });
  }

  protected leave(): void {
    this.typing.set(null);
    this.grid().focus();
  }

  /** Keys of the field over the cell. */
  protected fieldKey(event: KeyboardEvent): void {
    if (event.isComposing) return;
    const acts: Record<string, () => void> = {
      Enter: () => this.put(event.shiftKey ? -1 : 1, 0),
      Tab: () => this.put(0, event.shiftKey ? -1 : 1),
      Escape: () => this.leave(),
    };
    event.stopPropagation();
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }

  /** The focus left the field: what was typed is kept. */
  protected left(): void {
    if (this.typing()?.above === false) this.keep();
  }

  /** Keys of the grid. */
  protected key(event: KeyboardEvent): void {
    const { key, ctrlKey, metaKey, altKey, shiftKey } = event;
    const mod = ctrlKey || metaKey;
    if (!mod && !altKey && key.length === 1 && key !== ' ') {
      event.stopPropagation();
      if (this.desk.writable()) this.begin('');
      return;
    }
    const whole: Record<string, (() => void) | undefined> = {
      F2: () => this.begin(),
      Enter: () => (this.rowBegan === null ? this.begin() : this.put(1, 0)),
      Delete: () => this.acts.emptyCells(),
      Backspace: () => this.acts.emptyCells(),
      ' ': shiftKey
        ? () => this.grid().selectRows(this.desk.at().row)
        : mod
          ? () => this.grid().selectColumns(this.desk.at().column)
          : () => this.begin(''),
      a: mod ? () => this.grid().selectAll() : undefined,
    };
    const along = key === 'Tab' && !mod && !altKey && this.rowBegan !== null;
    if (along) whole['Tab'] = () => this.put(0, shiftKey ? -1 : 1);
    else if (key !== 'Shift' && key !== 'Enter') this.rowBegan = null;
    const act = altKey ? undefined : whole[key];
    const to = act || altKey ? null : moveTo(event, this.desk, this.grid().pageLength());
    if (!act && !to) return;
    event.preventDefault();
    event.stopPropagation();
    if (act) act();
    else if (to) this.desk.selectAt(to.row, to.column, shiftKey);
  }

  /** A cell was pressed: while a formula is typed that can take it, its name goes there. */
  protected pointed({ event, row, column }: { event: MouseEvent; row: number; column: number }): void {
    const typing = this.typing();
    this.rowBegan = null;
    if (!typing) return;
    if (!typing.text.startsWith('=') || (isFormula(typing.text) && !OPEN.test(typing.text))) {
      this.keep();
      return;
    }
    event.preventDefault();
    this.typed(typing.text + a1(row, column));
    if (typing.above) return;
    const field = this.field().nativeElement;
    field.value = typing.text + a1(row, column);
    field.focus({ preventScroll: true });
  }

  /** The handle was drawn to a cell: the selection goes on to there, down or to the right. */
  protected drawnTo(to: { row: number; column: number }): void {
    const from = this.desk.block();
    const [down, right] = [to.row - from.bottom, to.column - from.right];
    if (down <= 0 && right <= 0) return;
    const way = down >= right ? 'down' : 'right';
    const block = way === 'down' ? { ...from, bottom: to.row } : { ...from, right: to.column };
    const count = way === 'down' ? from.bottom - from.top + 1 : from.right - from.left + 1;
    this.desk.selectBlock(block);
    this.desk.actOnCells((tr, view, sheet) => fill(tr, view, sheet, block, way, count));
  }
}
