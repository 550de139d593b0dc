import { Injectable, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import type { CellForm } from '@oxbow/core/kinds/sheet';
import { moveLines, removeSheet } from '@oxbow/core/kinds/sheet';
import { Acting } from '../../acting/acting';
import type { ActId } from '../../acting/acts';
import { LiveDocument } from '../../document/live-document';
import {
  addLines,
  empty,
  fill,
  lookLike,
  newSheet,
  plain,
  removeLines,
  shiftLines,
  sortRows,
} from './cell-acts';
import { SheetDesk } from './sheet-desk';
import { nameOf } from './views';

/** What the acts of a sheet lead to on its page. */
export interface SheetWays {
  readonly grid: () => { focus(): void };
  readonly life: () => void;
}

/** What can be done to an open book, by buttons, keys, menus and the list of commands alike. */
@Injectable()
export class SheetActs {
  private readonly acting = inject(Acting);
  private readonly desk = inject(SheetDesk);
  private readonly dialog = inject(MatDialog);
  private readonly live = inject(LiveDocument);
  private ways: SheetWays | null = null;
  /** Whether the finder is open. */
  readonly finding = signal(false);
  /** The sheet whose name is being typed. */
  readonly naming = signal<string | null>(null);

  /** Offers what can be done, as long as the page is there. */
  offer(ways: SheetWays): void {
    this.ways = ways;
    const { acting } = this;
    acting.offer(
      { undo: () => this.reverse('undo'), redo: () => this.reverse('redo') },
      (id) => this.free() && this.live.acts.can(id === 'undo' ? 'undo' : 'redo'),
    );
    acting.offer({ findHere: () => this.finding.set(true), cellLife: () => this.ways?.life() }, () =>
      this.free(),
    );
    acting.offer(this.runs, (id) => this.free() && this.can(id));
  }

  private readonly runs: Partial<Record<ActId, () => void>> = {
    bold: () => this.look({ bold: !this.desk.form().bold }),
    alignStart: () => this.align('start'),
    alignCenter: () => this.align('center'),
    alignEnd: () => this.align('end'),
    plainCells: () => this.onCells((tr, _view, sheet, block) => plain(tr, sheet, block)),
    emptyCells: () => this.emptyCells(),
    fillDown: () => this.onCells((tr, view, sheet, block) => fill(tr, view, sheet, block, 'down')),
    fillRight: () => this.onCells((tr, view, sheet, block) => fill(tr, view, sheet, block, 'right')),
    rowAbove: () => this.add('rows', 0),
    rowBelow: () => this.add('rows', 1),
    columnBefore: () => this.add('columns', 0),
    columnAfter: () => this.add('columns', 1),
    removeRow: () => this.take('rows'),
    removeColumn: () => this.take('columns'),
    moveUp: () => this.shift('rows', -1),
    moveDown: () => this.shift('rows', 1),
    moveBefore: () => this.shift('columns', -1),
    moveAfter: () => this.shift('columns', 1),
    sortUp: () => this.sort(false),
    sortDown: () => this.sort(true),
    freeze: () => this.freeze(),
    addSheet: () => this.addSheet(),
    renameSheet: () => this.naming.set(this.desk.sheet()?.id ?? null),
    sheetBefore: () => this.moveSheet(-1),
    sheetAfter: () => this.moveSheet(1),
    removeSheet: () => this.removeSheet(),
  };

  /** Whether an act can be done now. */
  can(id: ActId): boolean {
    const [block, sheet, view] = [this.desk.block(), this.desk.sheet(), this.desk.view()];
    if (!this.desk.writable() || !sheet || !view) return false;
    const index = view.sheets.findIndex((one) => one.id === sheet.id);
    const needs: Partial<Record<ActId, boolean>> = {
      fillDown: block.bottom > block.top,
      fillRight: block.right > block.left,
      removeRow: sheet.rows.length > 1,
      removeColumn: sheet.columns.length > 1,
      moveUp: block.top > 0,
      moveDown: block.bottom < sheet.rows.length - 1,
      moveBefore: block.left > 0,
      moveAfter: block.right < sheet.columns.length - 1,
      sheetBefore: index > 0,
      sheetAfter: index < view.sheets.length - 1,
      removeSheet: view.sheets.length > 1,
    };
    return needs[id] ?? true;
  }

  /** Does an act, if it can be done now. */
  run(id: ActId): void {
    if (id === 'undo' || id === 'redo') this.reverse(id);
    else if (id === 'cellLife') return this.ways?.life();
    else if (this.can(id)) this.runs[id]?.();
    if (this.naming() === null) this.ways?.grid().focus();
  }

  /** A menu was closed: one is in the cells again, unless something is typed elsewhere. */
  back(): void {
    if (this.naming() === null && this.dialog.openDialogs.length === 0) this.ways?.grid().focus();
  }

  private free(): boolean {
    const at = document.activeElement;
    return (
      this.desk.inView() &&
      this.dialog.openDialogs.length === 0 &&
      !(at instanceof HTMLInputElement && !at.classList.contains('hidden'))
    );
  }

  /** Undoes or redoes this writer's own last act, and goes to what it changed. */
  reverse(which: 'undo' | 'redo'): void {
    this.live.acts.undo(which);
  }

  emptyCells(): void {
    this.onCells((tr, _view, sheet, block) => empty(tr, sheet, block));
  }

  look(form: Partial<CellForm>): void {
    this.onCells((tr, _view, sheet, block) => lookLike(tr, sheet, block, form));
  }

  private align(align: string): void {
    this.look({ align: this.desk.form().align === align ? '' : align });
  }

  private onCells(run: Parameters<SheetDesk['actOnCells']>[0]): void {
    this.desk.actOnCells(run);
  }

  /** Adds as many rows or columns as are selected, before or behind them. */
  private add(which: 'rows' | 'columns', behind: 0 | 1): void {
    const { top, bottom, left, right } = this.desk.block();
    const [from, to] = which === 'rows' ? [top, bottom] : [left, right];
    const at = behind ? to + 1 : from;
    this.desk.act((tr, _view, sheet) => addLines(tr, sheet, which, at, Math.min(1000, to - from + 1)));
    if (which === 'rows') this.desk.selectAt(at, left);
    else this.desk.selectAt(top, at);
  }

  /** Adds rows behind the last. */
  addRows(count: number): void {
    this.desk.act((tr, _view, sheet) => addLines(tr, sheet, 'rows', sheet.rows.length, count));
  }

  private take(which: 'rows' | 'columns'): void {
    const { top, bottom, left, right } = this.desk.block();
    const [from, to] = which === 'rows' ? [top, bottom] : [left, right];
    this.desk.act((tr, _view, sheet) => removeLines(tr, sheet, which, from, to));
    if (which === 'rows') this.desk.selectAt(from, left);
    else this.desk.selectAt(top, from);
  }

  private shift(which: 'rows' | 'columns', by: -1 | 1): void {
    const { top, bottom, left, right } = this.desk.block();
    const [from, to] = which === 'rows' ? [top, bottom] : [left, right];
    this.desk.act((tr, _view, sheet) => shiftLines(tr, sheet, which, from, to, by < 0 ? from - 1 : to + 2));
  }

  /** Sorts the rows below those that stand fast, or those that are selected if they are several. */
  private sort(descending: boolean): void {
    const [block, values] = [this.desk.block(), this.desk.values()];
    this.desk.act((tr, _view, sheet) => {
      const column = sheet.columns[this.desk.at().column]?.id ?? '';
      const all = { top: Number(sheet.node.attrs['frozenRows']), bottom: sheet.rows.length - 1 };
      const several = block.bottom > block.top && block.bottom - block.top < sheet.rows.length - 1;
      sortRows(tr, sheet, several ? block : all, column, values, descending);
    });
  }

  /** What is above and left of the cell in hand stays in view; where it does already, nothing does. */
  private freeze(): void {
    const { row, column } = this.desk.at();
    this.desk.act((tr, _view, { at, node }) => {
      const { frozenRows, frozenColumns } = node.attrs;
      const same = frozenRows === row && frozenColumns === column;
      const next = {
        frozenRows: same ? 0 : Math.min(row, 100),
        frozenColumns: same ? 0 : Math.min(column, 100),
      };
      for (const [name, value] of Object.entries(next))
        if (node.attrs[name] !== value) tr.setNodeAttribute(at, name, value);
    });
  }

  /** Adds a sheet and goes to it. */
  addSheet(): void {
    let id = '';
    const count = this.desk.view()?.sheets.length ?? 0;
    const taken = new Set(this.desk.view()?.sheets.map((sheet, i) => nameOf(sheet, i).toLowerCase()));
    let number = count + 1;
    while (taken.has($localize`Sheet ${number}`.toLowerCase())) number++;
    this.desk.act((tr) => (id = newSheet(tr, $localize`Sheet ${number}`)));
    if (id) this.desk.goToSheet(id);
  }

  /** Calls a sheet something else. Answers why that cannot be, or nothing. */
  rename(id: string, name: string): string {
    const [view, clean] = [this.desk.view(), name.replace(/\s+/g, ' ').trim()];
    const sheet = view?.places.sheet(id);
    if (!view || !sheet || clean === sheet.name || clean === '') return '';
    if (view.sheets.some((one, i) => one.id !== id && nameOf(one, i).toLowerCase() === clean.toLowerCase()))
      return $localize`Another sheet is called that.`;
    this.desk.act((tr) => tr.setNodeAttribute(sheet.at, 'name', clean));
    return '';
  }

  private moveSheet(by: -1 | 1): void {
    this.desk.act((tr, view, sheet) => {
      const index = view.sheets.findIndex(({ id }) => id === sheet.id);
      moveLines(tr, view.sheets, [sheet], by < 0 ? index - 1 : index + 2);
    });
  }

  /** Removes the sheet in hand, and says how to bring it back. */
  private removeSheet(): void {
    const [view, sheet] = [this.desk.view(), this.desk.sheet()];
    if (!view || !sheet || view.sheets.length < 2) return;
    const name = nameOf(sheet, view.sheets.indexOf(sheet));
    this.desk.act((tr) => removeSheet(tr, sheet));
    this.live.said.next($localize`“${name}” is removed. Undo brings it back.`);
  }
}
