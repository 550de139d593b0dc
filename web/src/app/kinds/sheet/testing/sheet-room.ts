import { signal } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { blankBook } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import type { Transaction } from 'prosemirror-state';
import { Subject } from 'rxjs';
import type { Standpoint } from '../../../document/kinds';
import { LiveDocument } from '../../../document/live-document';
import type { PageView } from '../../../document/page-view';
import { DeskLedger } from '../../../ledger/ledger-state';
import { Room } from '../../../testing/room';
import { Acting } from '../../../acting/acting';
import type { ActId } from '../../../acting/acts';
import { Calculating, cellName } from '../calculating';
import { calculatingHere } from './calculating-here';
import { SheetEditor } from '../editor';
import { drawnCell } from '../drawn-cell';
import { cellsOf, typedOf, viewOf } from '../views';

/** An open book with nobody else in it: what was written is applied at once, and kept here. */
export class SheetRoom {
  readonly wrote: Transaction[] = [];
  readonly said: string[] = [];
  readonly reversed: string[] = [];
  readonly others = signal<ReadonlyMap<string, unknown>>(new Map());
  readonly ledger = signal<unknown>(null);
  readonly stood: Standpoint[] = [];
  readonly lived: number[] = [];
  page!: PageView;
  private fixture!: ComponentFixture<SheetEditor>;

  static async open(book: Node = blankBook(), writable = true): Promise<SheetRoom> {
    const room = new SheetRoom();
    calculatingHere();
    const said = new Subject<string>();
    said.subscribe((text) => room.said.push(text));
    const live = {
      wrote: (tr: Transaction) => room.wrote.push(tr),
      attach: (page: PageView | null) => page && (room.page = page),
      present: () => undefined,
      others: room.others,
      here: (position: number) => position,
      said,
      acts: {
        can: () => true,
        undo: (which: string) => room.reversed.push(which) > 0,
      },
    };
    const inputs = {
      id: 'budget',
      start: EditorState.create({ doc: book }),
      writable,
      selected: (at: Standpoint) => room.stood.push(at),
      toLife: (at: number) => room.lived.push(at),
    };
    const opened = await Room.open(
      SheetEditor,
      { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 } as never,
      inputs,
      {
        providers: [
          { provide: LiveDocument, useValue: live },
          { provide: DeskLedger, useValue: { drawn: room.ledger } },
        ],
      },
    );
    room.fixture = opened.fixture;
    const host = opened.fixture.nativeElement as HTMLElement;
    host.style.cssText = 'display:block;width:900px;height:420px';
    await room.settle();
    return room;
  }

  get element(): HTMLElement {
    return this.fixture.nativeElement as HTMLElement;
  }

  get grid(): HTMLElement {
    return this.one('[role=grid]');
  }

  one<T extends HTMLElement>(selector: string): T {
    const found = this.element.querySelector<T>(selector);
    if (!found) throw new Error(`There is no ${selector}`);
    return found;
  }

  /** Waits until what was done is calculated and drawn. */
  async settle(): Promise<void> {
    for (let turn = 0; turn < 3; turn++) {
      await new Promise((done) => setTimeout(done, 5));
      await this.fixture.whenStable();
    }
  }

  /** Presses keys, such as `Control+d` or `Shift+ArrowDown`, where the focus is. */
  async press(...keys: string[]): Promise<void> {
    for (const pressed of keys) {
      const parts = pressed.split('+');
      const key = parts.pop() ?? '';
      const init = {
        ctrlKey: parts.includes('Control'),
        shiftKey: parts.includes('Shift'),
        altKey: parts.includes('Alt'),
      };
      const target = this.element.contains(document.activeElement) ? document.activeElement : this.grid;
      target?.dispatchEvent(new KeyboardEvent('keydown', { key, ...init, bubbles: true, cancelable: true }));
      await this.settle();
    }
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

  /** Does an act of the menus and the list of commands. */
  async act(id: ActId): Promise<void> {
    TestBed.inject(Acting).do(id);
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
