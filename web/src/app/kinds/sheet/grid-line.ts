import { ChangeDetectionStrategy, Component, ElementRef, effect, inject, input } from '@angular/core';
import { spoken } from '@oxbow/core/content';
import type { RowView } from '@oxbow/core/kinds/sheet';
import { lettersOf } from '@oxbow/core/kinds/sheet';
import { cellName } from './calculating';
import type { Values } from './calculating';
import type { DrawnCell } from './drawn-cell';
import { drawnCell } from './drawn-cell';
import type { Block } from './spots';
import { cellsOf } from './views';

/** A column as it is drawn. */
export interface Across {
  readonly id: string;
  readonly index: number;
  /** Where it stands fast, in pixels from the left; null for one that scrolls. */
  readonly fast: number | null;
}

/** Somebody who stands in a cell. */
export interface Guest {
  readonly column: string;
  readonly colour: string;
  readonly initials: string;
  readonly name: string;
}

/** What is marked on a cell, such as who wrote it. */
export interface CellNote {
  readonly colour: string;
  readonly says: string;
  readonly dim: boolean;
}

/** How all lines of a sheet are drawn just now. */
export interface Drawing {
  readonly sheet: string;
  readonly across: readonly Across[];
  readonly values: Values;
  readonly block: Block;
  /** The cell in hand. */
  readonly at: { readonly row: number; readonly column: number };
  /** Who else is where, by row. */
  readonly guests: ReadonlyMap<string, readonly Guest[]>;
  /** What is marked on cells, by their names. */
  readonly notes: ReadonlyMap<string, CellNote> | null;
}

/** One row of a sheet, drawn by hand: scrolling gives the same elements to other rows. */
@Component({
  selector: 'ox-grid-line',
  template: '',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'row', class: 'line', '[attr.aria-rowindex]': 'index() + 2' },
})
export class GridLine {
  readonly row = input.required<RowView>();
  readonly index = input.required<number>();
  readonly drawing = input.required<Drawing>();

  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly head = document.createElement('span');
  private readonly cells: HTMLElement[] = [];

  constructor() {
    this.head.setAttribute('role', 'rowheader');
    this.head.className = 'number';
    this.element.append(this.head);
    effect(() => this.draw(this.row(), this.index(), this.drawing()));
  }

  private draw({ id, node }: RowView, index: number, drawing: Drawing): void {
    const { across, block, guests } = drawing;
    const chosen = index >= block.top && index <= block.bottom;
    this.head.textContent = String(index + 1);
    this.head.dataset['row'] = String(index);
    this.head.classList.toggle('on', chosen);
    while (this.cells.length > across.length) this.cells.pop()?.remove();
    while (this.cells.length < across.length) this.add();
    const held = cellsOf(node);
    const here = guests.get(id) ?? [];
    across.forEach((column, i) => {
      const cell = held.get(column.id);
      const name = cellName(drawing.sheet, id, column.id);
      const element = this.cells[i] as HTMLElement;
      dress(element, drawnCell(cell, drawing.values.get(name)), column, index, drawing, {
        guest: here.find((guest) => guest.column === column.id),
        note: drawing.notes?.get(name),
        chosen: chosen && column.index >= block.left && column.index <= block.right,
      });
    });
  }

  private add(): void {
    const cell = document.createElement('span');
    cell.setAttribute('role', 'gridcell');
    this.cells.push(cell);
    this.element.append(cell);
  }
}

/** The name of a cell in its sheet, such as B3. */
export function a1(row: number, column: number): string {
  return lettersOf(column) + String(row + 1);
}

/** The element of the cell in hand has this id, so that the grid can say which one it is. */
export function cellId(row: number, column: number): string {
  return `cell-${row}-${column}`;
}

function dress(
  element: HTMLElement,
  cell: DrawnCell,
  column: Across,
  row: number,
  { at, block }: Drawing,
  { guest, note, chosen }: { guest?: Guest | undefined; note?: CellNote | undefined; chosen: boolean },
): void {
  const inHand = at.row === row && at.column === column.index;
  const corner = row === block.bottom && column.index === block.right;
  const names = [
    'cell',
    cell.align,
    cell.fill && `ink-${cell.fill}`,
    cell.bold && 'bold',
    cell.fault && 'fault',
    cell.erased && 'erased',
    chosen && 'chosen',
    inHand && 'in-hand',
    corner && 'corner',
    guest && 'guest',
    note && 'noted',
    note?.dim && 'dim',
    column.fast !== null && 'fast',
  ];
  const said = guest?.name ?? note?.says ?? (cell.erased ? $localize`Erased by an owner` : '');
  const text = cell.erased ? spoken(cell.text, $localize`erased`) : cell.text;
  const told = inHand
    ? [a1(row, column.index), text || $localize`empty`, said].filter(Boolean).join(', ')
    : null;
  write(element, {
    text: cell.text,
    classes: names.filter(Boolean).join(' '),
    row,
    column: column.index,
    fast: column.fast,
    chosen,
    colour: guest?.colour ?? note?.colour ?? '',
    who: guest?.initials ?? null,
    said: said || null,
    told,
  });
}

/** What an element of a cell shows and says. */
interface Written {
  readonly text: string;
  readonly classes: string;
  readonly row: number;
  readonly column: number;
  readonly fast: number | null;
  readonly chosen: boolean;
  readonly colour: string;
  readonly who: string | null;
  readonly said: string | null;
  readonly told: string | null;
}

const written = new WeakMap<HTMLElement, Written>();

/** Writes into an element only what it does not say already: scrolling writes thousands of cells a second. */
function write(element: HTMLElement, next: Written): void {
  const last = written.get(element);
  written.set(element, next);
  if (last?.text !== next.text) element.textContent = next.text;
  if (last?.classes !== next.classes) element.className = next.classes;
  if (last?.row !== next.row || last.column !== next.column) {
    element.id = cellId(next.row, next.column);
    element.dataset['row'] = String(next.row);
  }
  if (last?.column !== next.column) {
    element.dataset['column'] = String(next.column);
    element.setAttribute('aria-colindex', String(next.column + 2));
    element.style.gridColumn = String(next.column + 2);
  }
  if (last?.fast !== next.fast) element.style.insetInlineStart = next.fast === null ? '' : `${next.fast}px`;
  if (last?.chosen !== next.chosen) element.setAttribute('aria-selected', String(next.chosen));
  if (last?.colour !== next.colour) element.style.setProperty('--who', next.colour);
  if (last?.who !== next.who) say(element, 'data-who', next.who);
  if (last?.said !== next.said) say(element, 'title', next.said);
  if (last?.told !== next.told) say(element, 'aria-label', next.told);
}

function say(element: HTMLElement, name: string, value: string | null): void {
  if (value === null) element.removeAttribute(name);
  else element.setAttribute(name, value);
}
