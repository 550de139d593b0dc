import { TestBed } from '@angular/core/testing';
import { blankBook } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';
import { Calculating, cellName } from '../calculating';
import { calculatingHere } from './calculating-here';
import { PageRoom } from '../../testing/page-room';
import { SheetEditor } from '../editor';
import { drawnCell } from '../drawn-cell';
import { cellsOf, typedOf, viewOf } from '../views';

/** An open book with nobody else in it: what was written is applied at once, and kept here. */
export class SheetRoom extends PageRoom<SheetEditor> {
  static async open(book: Node = blankBook(), writable = true): Promise<SheetRoom> {
    const room = new SheetRoom();
    calculatingHere();
    await room.openPage(SheetEditor, book, writable);
    return room;
  }

  protected override get focused(): HTMLElement {
    return this.grid;
  }

  get grid(): HTMLElement {
    return this.one('[role=grid]');
  }

  /** Types a text into the cell in hand, as from the keyboard, and ends with a key. */
  async type(text: string, end = 'Enter'): Promise<void> {
    await this.press(text.charAt(0));
    const field = this.one<HTMLInputElement>('.field');
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await this.press(end);
  }

  /** Presses the mouse on a cell, by where it is shown. */
  async point(row: number, column: number, init: MouseEventInit = {}): Promise<void> {
    const cell = this.one(`#cell-${row}-${column}`);
    const { left, top } = cell.getBoundingClientRect();
    const at = { clientX: left + 4, clientY: top + 4, bubbles: true, cancelable: true, ...init };
    cell.dispatchEvent(new MouseEvent('mousedown', at));
    dispatchEvent(new MouseEvent('mouseup', at));
    await this.settle();
  }

  /** What the cells of the first sheets show, without what is empty at the ends; formulas by what they come to. */
  shown(sheet = 0): string[][] {
    return this.lines(sheet, (cell, name) => {
      const calculated = TestBed.runInInjectionContext(() =>
        this.fixture.debugElement.injector.get(Calculating),
      ).values();
      return drawnCell(cell, calculated.get(name)).text;
    });
  }

  /** What was typed into them. */
  typed(sheet = 0): string[][] {
    const view = viewOf(this.page.state.doc);
    return this.lines(sheet, (cell) => typedOf(cell, view, view.sheets[sheet]?.id ?? ''));
  }

  private lines(sheet: number, text: (cell: Node | undefined, name: string) => string): string[][] {
    const of = viewOf(this.page.state.doc).sheets[sheet];
    const trimmed = <T>(list: readonly T[], isEmpty: (one: T | undefined) => boolean): T[] => {
      let end = list.length;
      while (end > 0 && isEmpty(list[end - 1])) end--;
      return list.slice(0, end);
    };
    const rows = (of?.rows ?? []).map((row) =>
      trimmed(
        (of?.columns ?? []).map(({ id }) =>
          text(cellsOf(row.node).get(id), cellName(of?.id ?? '', row.id, id)),
        ),
        (one) => one === '',
      ),
    );
    return trimmed(rows, (one) => one?.length === 0);
  }
}
