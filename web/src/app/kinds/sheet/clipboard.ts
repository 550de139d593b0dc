import { Injectable, inject } from '@angular/core';
import type { CellForm, CellWrite } from '@oxbow/core/kinds/sheet';
import { isFormula, shiftedFormula, writeCells } from '@oxbow/core/kinds/sheet';
import { LiveDocument } from '../../document/live-document';
import { cellName } from './calculating';
import { MOST_CELLS, empty, sizeOf, typeInto } from './cell-acts';
import type { OwnClip } from './clip';
import { sentOf, takenOf } from './clip';
import { drawnCell } from './drawn-cell';
import { SheetDesk } from './sheet-desk';
import { linesIn } from './spots';
import { cellsOf, passedOn, viewOf } from './views';

/** Cells copied, cut and pasted, here and to and from other programs. */
@Injectable()
export class Clipboard {
  private readonly desk = inject(SheetDesk);
  private readonly live = inject(LiveDocument);
  private own: OwnClip | null = null;

  copy(event: ClipboardEvent): void {
    const [view, sheet, block] = [this.desk.view(), this.desk.sheet(), this.desk.block()];
    if (isField(event) || !view || !sheet || this.tooMany(sizeOf(block))) return;
    const { rows, columns } = linesIn(sheet, block);
    const cells = rows.map(({ node }) => columns.map(({ id }) => cellsOf(node).get(id)));
    const values = this.desk.values();
    const shown = cells.map((line, r) =>
      line.map(
        (cell, c) =>
          drawnCell(cell, values.get(cellName(sheet.id, rows[r]?.id ?? '', columns[c]?.id ?? ''))).text,
      ),
    );
    const sent = sentOf(shown);
    event.clipboardData?.setData('text/plain', sent.text);
    event.clipboardData?.setData('text/html', sent.html);
    event.preventDefault();
    const typed = cells.map((line) => line.map((cell) => ({ typed: passedOn(cell, view, sheet.id), cell })));
    this.own = { text: sent.text, cells: typed, row: block.top, column: block.left };
  }

  cut(event: ClipboardEvent): void {
    if (isField(event)) return;
    this.copy(event);
    if (event.defaultPrevented) this.desk.actOnCells((tr, _view, sheet, block) => empty(tr, sheet, block));
  }

  paste(event: ClipboardEvent): void {
    if (isField(event) || !this.desk.writable()) return;
    event.preventDefault();
    const text = event.clipboardData?.getData('text/plain') ?? '';
    const { own } = this;
    if (own && sameText(own.text, text)) return this.pasteOwn(own);
    const lines = takenOf({ text, html: event.clipboardData?.getData('text/html') ?? '' });
    const plain = lines.map((line) => line.map((one) => (isFormula(one) ? `'${one}` : one)));
    if (this.tooMany(plain.reduce((sum, line) => sum + line.length, 0))) return;
    const { top, left } = this.desk.block();
    this.desk.act((tr, view, sheet) => typeInto(tr, view, sheet, { row: top, column: left }, plain));
    this.selectPasted(top, left, plain);
  }

  /** What was copied here comes with its formulas, which refer to what lies as far off, and its looks. Onto a larger selection it is repeated. */
  private pasteOwn({ cells, row, column }: OwnClip): void {
    const { top, left, bottom, right } = this.desk.block();
    const [high, wide] = [cells.length, cells[0]?.length ?? 0];
    const times = (size: number, of: number): number => (size > of && size % of === 0 ? size / of : 1);
    const [down, on] = [times(bottom - top + 1, high), times(right - left + 1, wide)];
    if (this.tooMany(high * wide * down * on)) return;
    const at = (r: number, c: number) => cells[r % high]?.[c % wide];
    const texts = Array.from({ length: high * down }, (_, r) =>
      Array.from({ length: wide * on }, (_, c) => {
        const typed = at(r, c)?.typed ?? '';
        const [fromRow, fromColumn] = [row + (r % high), column + (c % wide)];
        return isFormula(typed) ? shiftedFormula(typed, top + r - fromRow, left + c - fromColumn) : typed;
      }),
    );
    this.desk.act((tr, view, sheet) => {
      typeInto(tr, view, sheet, { row: top, column: left }, texts);
      const after = viewOf(tr.doc).places.sheet(sheet.id);
      if (!after) return;
      const looks = texts.flatMap((line, r) =>
        line.flatMap((_, c): CellWrite[] => {
          const [into, across] = [after.rows[top + r], after.columns[left + c]];
          if (!into || !across) return [];
          const source = at(r, c)?.cell;
          if (!source && !cellsOf(into.node).has(across.id)) return [];
          const {
            format = '',
            align = '',
            bold = false,
            fill = '',
          } = (source?.attrs ?? {}) as Partial<CellForm>;
          return [{ row: into, column: across.id, form: { format, align, bold, fill } }];
        }),
      );
      writeCells(tr, looks);
    });
    this.selectPasted(top, left, texts);
  }

  private selectPasted(top: number, left: number, lines: readonly (readonly unknown[])[]): void {
    const wide = lines.reduce((most, line) => Math.max(most, line.length), 1);
    this.desk.selectBlock({ top, left, bottom: top + Math.max(1, lines.length) - 1, right: left + wide - 1 });
  }

  private tooMany(cells: number): boolean {
    if (cells <= MOST_CELLS) return false;
    this.live.said.next($localize`That is more than ${MOST_CELLS} cells at once. Copy fewer.`);
    return true;
  }
}

/** Whether a field has the clipboard, and not the cells. */
function isField({ target }: ClipboardEvent): boolean {
  return target instanceof HTMLInputElement && !target.classList.contains('hidden');
}

function sameText(one: string, other: string): boolean {
  return one.replaceAll('\r\n', '\n') === other.replaceAll('\r\n', '\n');
}
