import { ChangeDetectionStrategy, Component, ElementRef, effect, inject, input } from '@angular/core';
import type { ComparedChange, Person } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import type { MergedLine } from '@oxbow/core/kinds/sheet';
import { lettersOf } from '@oxbow/core/kinds/sheet';
import { colourOf } from '../../../look/colours';
import { personOf } from '../../../reading/look';
import { drawSwitch } from '../../../reading/switch';
import type { Values } from '../calculating';
import { cellName } from '../calculating';
import type { DrawnCell } from '../drawn-cell';
import { drawnCell } from '../drawn-cell';
import { cellsOf, typedOf } from '../views';
import type { ComparedBooks } from './compared-books';
import type { Marks, Side } from './placed';

/** How all lines of a compared sheet are drawn just now. */
export interface ReadDrawing {
  readonly books: ComparedBooks;
  readonly sheet: string;
  readonly columns: readonly MergedLine[];
  /** Which side is drawn; null for both as one. */
  readonly side: Side | null;
  readonly marks: Marks;
  readonly values: Readonly<Record<Side, Values>>;
  readonly people: ReadonlyMap<string, Person>;
  readonly at: number | null;
  readonly decisions: ReadonlyMap<number, Decision> | null;
  readonly decide: (change: number, take: Decision) => void;
}

/** One row of two books, with the marks of what changed in it. */
@Component({
  selector: 'ox-read-line',
  template: '',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'row', class: 'line' },
})
export class ReadLine {
  readonly row = input.required<MergedLine>();
  readonly drawing = input.required<ReadDrawing>();
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  constructor() {
    effect(() => this.element.replaceChildren(...drawLine(this.row(), this.drawing())));
  }
}

/** The number of a row or the letters of a column, with who changed it where it is a mark itself. */
function drawLine(row: MergedLine, drawing: ReadDrawing): HTMLElement[] {
  const { marks, sheet, columns } = drawing;
  const ofRow = marks.either(sheet, row.id, null);
  const cells = columns.map((column) => drawCell(row, column, ofRow, drawing));
  const head = box('number', 'rowheader');
  head.textContent = numberOf(row, drawing);
  const turn = ofRow && turnOf(row, ofRow);
  if (ofRow) dress(head, ofRow, drawing, turn ?? '');
  const changes = [ofRow, ...columns.map(({ id }) => marks.either(sheet, row.id, id))].filter(
    (change, i, all): change is ComparedChange => change !== null && all.indexOf(change) === i,
  );
  return [margin(changes, drawing), head, ...cells];
}

function numberOf(row: MergedLine, { books, sheet, side }: ReadDrawing): string {
  const [later, earlier] = [books.later.places.row(sheet, row.id), books.earlier.places.row(sheet, row.id)];
  const index = side === 'earlier' ? earlier : side === 'later' || later >= 0 ? later : earlier;
  return index < 0 ? '' : String(index + 1);
}

/** Who changed a row, or, while one assembles, the switches of its changes. */
function margin(changes: readonly ComparedChange[], { decisions, decide, people }: ReadDrawing): HTMLElement {
  const element = box('margin', 'presentation');
  if (decisions)
    element.append(...changes.slice(0, 1).map((change) => drawSwitch({ change, top: 1 }, decisions, decide)));
  else
    for (const id of new Set(changes.flatMap((change) => personOf(change, 'later') ?? []))) {
      const person = people.get(id);
      const who = document.createElement('span');
      who.className = 'who';
      who.style.setProperty('--who', colourOf(person?.colour ?? 0));
      who.textContent = person?.initials ?? '?';
      who.title = person?.name ?? '';
      element.append(who);
    }
  return element;
}

function turnOf(line: MergedLine, change: ComparedChange): string | null {
  if (!line.earlier) return 'was-added';
  if (!line.later) return 'was-removed';
  return change.form.includes('place') || change.kind === 'moved' ? 'was-moved' : 'was-formed';
}

function drawCell(
  row: MergedLine,
  column: MergedLine,
  ofRow: ComparedChange | null,
  drawing: ReadDrawing,
): HTMLElement {
  const { sheet, side, marks } = drawing;
  const [a, b] = [sideOf(row, column, 'earlier', drawing), sideOf(row, column, 'later', drawing)];
  const element = box('cell', 'gridcell');
  const own = marks.either(sheet, row.id, column.id);
  const change = own ?? ofRow ?? marks.either(sheet, null, column.id);
  if (side) {
    const one = side === 'earlier' ? a : b;
    if (!one) element.classList.add('absent');
    else show(element, one.drawn);
    if (one && change) dress(element, change, drawing, markOn(side, a, b, own), own !== null);
    return element;
  }
  const drawn = (b ?? a)?.drawn;
  if (!drawn) {
    element.classList.add('absent');
    return element;
  }
  show(element, b && b.drawn.text === '' && a && own ? { ...drawn, align: a.drawn.align } : drawn);
  if (own && own.kind !== 'form' && a && b) both(element, a.drawn, b.drawn, a.typed, b.typed);
  else if (a && b && a.drawn.text !== b.drawn.text) {
    element.classList.add('follows');
    element.title = $localize`${a.drawn.text || $localize`empty`} before; it follows from what it refers to`;
  }
  if (change) dress(element, change, drawing, markOn(null, a, b, own), own !== null);
  return element;
}

interface OnSide {
  readonly drawn: DrawnCell;
  readonly typed: string;
}

/** A cell on one side; null where its row or column is not there. */
function sideOf(
  row: MergedLine,
  column: MergedLine,
  side: Side,
  { books, sheet, values }: ReadDrawing,
): OnSide | null {
  const [line, across] = [row[side], column[side]];
  if (!line || !across) return null;
  const cell = cellsOf(line.node).get(column.id);
  return {
    drawn: drawnCell(cell, values[side].get(cellName(sheet, row.id, column.id))),
    typed: typedOf(cell, books[side], sheet),
  };
}

function show(element: HTMLElement, { text, align, bold, fill, fault, erased }: DrawnCell): void {
  element.textContent = text;
  element.classList.add(align);
  if (bold) element.classList.add('bold');
  if (fill) element.classList.add(`ink-${fill}`);
  if (fault) element.classList.add('fault');
  if (erased) element.classList.add('erased');
}

/** A cell that was changed: before and after; where a formula was, and comes to the same, only that it was. */
function both(element: HTMLElement, a: DrawnCell, b: DrawnCell, before: string, after: string): void {
  const piece = (tag: 'del' | 'ins', text: string): HTMLElement => {
    const one = document.createElement(tag);
    one.textContent = text;
    return one;
  };
  const pieces = [a.text && piece('del', a.text), b.text && piece('ins', b.text)].filter((one) => one !== '');
  if (a.text !== b.text) element.replaceChildren(...pieces);
  const formula = before.startsWith('=') || after.startsWith('=');
  if (!formula) return;
  element.classList.add('formula');
  element.title = $localize`${before || $localize`empty`} became ${after || $localize`empty`}`;
}

function markOn(side: Side | null, a: OnSide | null, b: OnSide | null, own: ComparedChange | null): string {
  if (!a) return 'was-added';
  if (!b) return 'was-removed';
  if (!own) return '';
  if (own.kind === 'form') return 'was-formed';
  return side === 'earlier' ? 'was-removed' : side === 'later' ? 'was-added' : 'was-replaced';
}

/** Marks an element as one of a change; `hands` says whether it shows that the change is in hand. */
function dress(
  element: HTMLElement,
  change: ComparedChange,
  drawing: ReadDrawing,
  mark: string,
  hands = true,
): void {
  const person = personOf(change, drawing.side ?? 'later');
  element.dataset['change'] = String(change.id);
  element.style.setProperty(
    '--who',
    person === null ? 'var(--soft)' : colourOf(drawing.people.get(person)?.colour ?? 0),
  );
  element.classList.toggle('at-hand', change.id === drawing.at && hands);
  if (mark) element.classList.add(mark);
  const take = drawing.decisions?.get(change.id);
  if (take) element.dataset['take'] = take;
  element.tabIndex = -1;
}

function box(name: string, role: string): HTMLElement {
  const element = document.createElement('span');
  element.className = name;
  element.setAttribute('role', role);
  return element;
}

/** The letters over a column of two books read as one, or on one side. */
export function lettersOfColumn(column: MergedLine, { books, sheet, side }: ReadDrawing): string {
  const [later, earlier] = [
    books.later.places.column(sheet, column.id),
    books.earlier.places.column(sheet, column.id),
  ];
  const index = side === 'earlier' ? earlier : side === 'later' || later >= 0 ? later : earlier;
  return index < 0 ? '' : lettersOf(index);
}
