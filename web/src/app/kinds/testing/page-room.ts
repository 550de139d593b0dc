import { signal } from '@angular/core';
import type { Provider, Type } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import type { Node } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import type { Transaction } from 'prosemirror-state';
import { Subject } from 'rxjs';
import { Acting } from '../../acting/acting';
import type { ActId } from '../../acting/acts';
import type { Standpoint } from '../../document/kinds';
import { LiveDocument } from '../../document/live-document';
import type { PageView } from '../../document/page-view';
import { DeskLedger } from '../../ledger/ledger-state';
import { Room } from '../../testing/room';

/** The page of a document with nobody else in it: what was written is applied at once, and kept here. */
export abstract class PageRoom<T> {
  readonly wrote: Transaction[] = [];
  readonly said: string[] = [];
  readonly reversed: string[] = [];
  readonly others = signal<ReadonlyMap<string, unknown>>(new Map());
  readonly ledger = signal<unknown>(null);
  readonly stood: Standpoint[] = [];
  readonly lived: number[] = [];
  page!: PageView;
  protected fixture!: ComponentFixture<T>;
  /** The room with the calls it makes. */
  room!: Room<T>;

  protected async openPage(
    component: Type<T>,
    doc: Node,
    writable: boolean,
    providers: readonly Provider[] = [],
  ): Promise<void> {
    const said = new Subject<string>();
    said.subscribe((text) => this.said.push(text));
    const live = {
      wrote: (tr: Transaction) => this.wrote.push(tr),
      attach: (page: PageView | null) => page && (this.page = page),
      present: () => undefined,
      others: this.others,
      here: (position: number) => position,
      said,
      acts: {
        can: () => true,
        undo: (which: string) => this.reversed.push(which) > 0,
        tookHere: () => undefined,
      },
    };
    const inputs = {
      id: 'budget',
      start: EditorState.create({ doc }),
      writable,
      selected: (at: Standpoint) => this.stood.push(at),
      toLife: (at: number) => this.lived.push(at),
    };
    this.room = await Room.open(
      component,
      { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 } as never,
      inputs,
      {
        providers: [
          { provide: LiveDocument, useValue: live },
          { provide: DeskLedger, useValue: { drawn: this.ledger } },
          ...providers,
        ],
      },
    );
    this.fixture = this.room.fixture;
    this.element.style.cssText = 'display:block;width:900px;height:420px';
    await this.settle();
  }

  get element(): HTMLElement {
    return this.fixture.nativeElement as HTMLElement;
  }

  /** Where keys go while nothing else has the focus. */
  protected abstract get focused(): HTMLElement;

  one<E extends HTMLElement>(selector: string): E {
    const found = this.element.querySelector<E>(selector);
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
      const target = this.element.contains(document.activeElement) ? document.activeElement : this.focused;
      target?.dispatchEvent(new KeyboardEvent('keydown', { key, ...init, bubbles: true, cancelable: true }));
      await this.settle();
    }
  }

  /** Does an act of the menus and the list of commands. */
  async act(id: ActId): Promise<void> {
    TestBed.inject(Acting).do(id);
    await this.settle();
  }
}
