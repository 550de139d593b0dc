import { Injectable, computed, inject, linkedSignal, signal } from '@angular/core';
import type { CellForm, SheetView } from '@oxbow/core/kinds/sheet';
import { cellAt, isFormula } from '@oxbow/core/kinds/sheet';
import { valueOf } from '@oxbow/core/calculate';
import type { EditorState, Transaction } from 'prosemirror-state';
import { TextSelection } from 'prosemirror-state';
import type { PlaceMark } from '../../carry/place-mark';
import { placeKey } from '../../carry/place-mark';
import { LiveDocument } from '../../document/live-document';
import { Calculating, cellName } from './calculating';
import { MOST_CELLS, sizeOf } from './cell-acts';
import { changedIn, isReversal } from '../../document/changed';
import type { Drawn } from './sheet-page';
import { SheetPage } from './sheet-page';
import type { Block, Selected, Spot } from './spots';
import { blockOf, linesIn, rowAt, shownAt, spotAt, spotOf, standpointOf } from './spots';
import type { View } from './views';
import { cellsOf, typedOf, viewOf } from './views';
import type { Standpoint } from '../../document/kinds';

/** A cell that is being typed into. */
export interface Typing {
  readonly sheet: string;
  readonly spot: Spot;
  readonly text: string;
  /** Whether it is typed into in the line above the grid. */
  readonly above: boolean;
}

/** An open book: what it holds, what is selected in it, and what is done to it. */
@Injectable()
export class SheetDesk {
  private readonly live = inject(LiveDocument);
  private readonly calculating = inject(Calculating);
  private readonly opened = signal<SheetPage | null>(null);
  private readonly wanted = signal<Selected | null>(null);
  private readonly placed = signal<PlaceMark | null>(null);
  /** Where something of the past would go; null while nothing would. */
  readonly place = this.placed.asReadonly();

  readonly values = this.calculating.values;
  readonly writable = signal(false);
  readonly inView = signal(true);
  /** The book as it is now; null before it is there. */
  readonly view = computed<View | null>(() => {
    const page = this.opened();
    return page && viewOf(page.book().doc);
  });
  readonly state = computed<EditorState | null>(() => this.opened()?.book() ?? null);
  /** The sheet in hand. */
  readonly sheet = computed<SheetView | null>(() => {
    const view = this.view();
    return view && (view.places.sheet(this.wanted()?.sheet ?? '') ?? view.sheets[0] ?? null);
  });
  /** What is selected: the first cell where nothing else was chosen, or what was is gone. */
  readonly selected = computed<Selected | null>(() => {
    const [view, sheet, wanted] = [this.view(), this.sheet(), this.wanted()];
    if (!view || !sheet) return null;
    if (wanted?.sheet === sheet.id) {
      const [anchor, head] = [wanted.anchor, wanted.head].map((spot) => {
        const { row, column } = shownAt(view, sheet.id, spot);
        return spotAt(sheet, row, column);
      });
      if (anchor && head) return { sheet: sheet.id, anchor, head };
    }
    const first = spotAt(sheet, 0, 0);
    return { sheet: sheet.id, anchor: first, head: first };
  });
  readonly block = computed<Block>(() => {
    const [view, selected] = [this.view(), this.selected()];
    return view && selected ? blockOf(view, selected) : { top: 0, left: 0, bottom: 0, right: 0 };
  });
  /** Where the cell in hand is shown: the one that selecting began at. */
  readonly at = computed(() => this.shown('anchor'));
  /** Where what is selected ends. */
  readonly end = computed(() => this.shown('head'));
  /** What one would type for the cell in hand. */
  readonly typed = computed(() => {
    const [view, sheet] = [this.view(), this.sheet()];
    return view && sheet ? typedOf(this.cellInHand() ?? undefined, view, sheet.id) : '';
  });
  readonly cellInHand = computed(() => {
    const [sheet, { row, column }] = [this.sheet(), this.at()];
    const [line, across] = [sheet?.rows[row], sheet?.columns[column]];
    return (line && across && cellsOf(line.node).get(across.id)) ?? null;
  });
  readonly form = computed<CellForm>(() => {
    const {
      format = '',
      align = '',
      bold = false,
      fill = '',
    } = (this.cellInHand()?.attrs ?? {}) as Partial<CellForm>;
    return { format, align, bold, fill };
  });
  /** What several selected cells hold together: their numbers, and how many are filled. Of very many nothing is told. */
  readonly together = computed(() => {
    const [sheet, block, values] = [this.sheet(), this.block(), this.values()];
    const numbers: number[] = [];
    let filled = 0;
    if (!sheet || sizeOf(block) < 2 || sizeOf(block) > 10 * MOST_CELLS) return { numbers, filled };
    const { rows, columns } = linesIn(sheet, block);
    for (const { id, node } of rows)
      for (const column of columns) {
        const text = cellsOf(node).get(column.id)?.textContent;
        if (!text) continue;
        filled++;
        const value = isFormula(text) ? values.get(cellName(sheet.id, id, column.id)) : valueOf(text);
        if (typeof value === 'number') numbers.push(value);
      }
    return { numbers, filled };
  });
  /** What is being typed into; another cell in hand ends it. */
  readonly typing = linkedSignal<SheetView | null, Typing | null>({
    source: this.sheet,
    computation: (sheet, before) => (before?.value?.sheet === sheet?.id ? (before?.value ?? null) : null),
  });

  private shown(which: 'anchor' | 'head'): { row: number; column: number } {
    const [view, selected] = [this.view(), this.selected()];
    return view && selected ? shownAt(view, selected.sheet, selected[which]) : { row: 0, column: 0 };
  }

  /** Begins with the state that the document was opened in. Answers the page. */
  begin(start: EditorState, drawn: Drawn, standpoint: Standpoint | null): SheetPage {
    const page = new SheetPage(
      start,
      drawn,
      (tr) => this.took(tr),
      () => this.standpoint(),
    );
    this.opened.set(page);
    this.calculating.begin(start.doc);
    const view = viewOf(start.doc);
    const spot = standpoint && spotOf(view, standpoint);
    if (spot) this.wanted.set({ sheet: spot.sheet, anchor: spot, head: spot });
    return page;
  }

  private took(tr: Transaction): void {
    const place = tr.getMeta(placeKey) as PlaceMark | null | undefined;
    if (place !== undefined) this.placed.set(place);
    if (!tr.docChanged) return;
    this.live.wrote(tr);
    this.calculating.change(tr.steps);
    if (isReversal(tr)) this.goToChanged(tr);
  }

  /** Goes to the first cell that a transaction changed, so that what was undone is seen. */
  private goToChanged(tr: Transaction): void {
    const view = viewOf(tr.doc);
    for (const position of changedIn(tr)) {
      const spot = spotOf(view, { anchor: position, head: position }) ?? rowAt(view, position);
      if (spot) return this.wanted.set({ sheet: spot.sheet, anchor: spot, head: spot });
    }
  }

  /** Selects from one cell to another, or one. */
  select(sheet: string, head: Spot, anchor: Spot = head): void {
    this.wanted.set({ sheet, head, anchor });
    this.tell();
  }

  /** Selects where cells are shown. */
  selectAt(row: number, column: number, extend = false): void {
    const [sheet, selected] = [this.sheet(), this.selected()];
    if (!sheet || !selected) return;
    const head = spotAt(sheet, row, column);
    this.select(sheet.id, head, extend ? selected.anchor : head);
  }

  selectBlock({ top, left, bottom, right }: Block): void {
    const sheet = this.sheet();
    if (sheet) this.select(sheet.id, spotAt(sheet, bottom, right), spotAt(sheet, top, left));
  }

  goToSheet(id: string): void {
    const sheet = this.view()?.places.sheet(id);
    if (sheet) this.select(id, spotAt(sheet, 0, 0));
  }

  /** Where one stands, as positions. */
  standpoint(): Standpoint | null {
    const [view, selected] = [this.view(), this.selected()];
    return view && selected && standpointOf(view, selected);
  }

  /** Tells the document where one stands: others see it, and what is erased or followed is what stands there. */
  private tell(): void {
    const page = this.opened();
    const [sheet, { row, column }] = [this.sheet(), this.at()];
    const [line, across] = [sheet?.rows[row], sheet?.columns[column]];
    const cell = line && across && cellAt(line, across.id);
    if (!page) return;
    const { doc, tr } = page.state;
    const [from, to] = cell ? [cell.at + 1, cell.at + 1 + cell.cell.content.size] : [0, 0];
    page.dispatch(tr.setSelection(TextSelection.between(doc.resolve(from), doc.resolve(to))));
  }

  /** Does something to the sheet in hand. Answers whether anything came of it. */
  act(run: (tr: Transaction, view: View, sheet: SheetView) => void): boolean {
    const [page, view, sheet] = [this.opened(), this.view(), this.sheet()];
    if (!page || !view || !sheet || !this.writable()) return false;
    const tr = page.state.tr;
    run(tr, view, sheet);
    if (tr.docChanged) page.dispatch(tr);
    return tr.docChanged;
  }

  /** Does something to the selected cells, unless they are too many. */
  actOnCells(run: (tr: Transaction, view: View, sheet: SheetView, block: Block) => void): boolean {
    const block = this.block();
    if (sizeOf(block) > MOST_CELLS) {
      this.live.said.next($localize`That is more than ${MOST_CELLS} cells at once. Select fewer.`);
      return false;
    }
    return this.act((tr, view, sheet) => run(tr, view, sheet, block));
  }
}
