import { ChangeDetectionStrategy, Component, ElementRef, computed, inject } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { FILLS } from '@oxbow/core/kinds/sheet';
import type { ActId } from '../../acting/acts';
import { ACTS, keysTold } from '../../acting/acts';
import { LiveDocument } from '../../document/live-document';
import { FORMATS } from './number-formats';
import { SheetActs } from './sheet-acts';
import { SheetDesk } from './sheet-desk';

const INKS: Readonly<Record<(typeof FILLS)[number], string>> = {
  '': $localize`No fill`,
  sand: $localize`Sand`,
  reed: $localize`Reed`,
  sky: $localize`Sky`,
  rose: $localize`Rose`,
};

/** Tools for the selected cells, beside them. */
@Component({
  selector: 'ox-cell-tools',
  imports: [MatIconModule, MatMenuModule, MatTooltipModule],
  templateUrl: './cell-tools.html',
  styleUrl: './cell-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CellTools {
  protected readonly table = ACTS;
  protected readonly desk = inject(SheetDesk);
  protected readonly acts = inject(SheetActs);
  private readonly live = inject(LiveDocument);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly reversals = ['undo', 'redo'] as const;
  protected readonly alignments = ['alignStart', 'alignCenter', 'alignEnd'] as const;
  protected readonly lines: readonly ActId[] = [
    'rowAbove',
    'rowBelow',
    'removeRow',
    'moveUp',
    'moveDown',
    'columnBefore',
    'columnAfter',
    'removeColumn',
    'moveBefore',
    'moveAfter',
  ];
  protected readonly orders: readonly ActId[] = ['sortUp', 'sortDown', 'fillDown', 'fillRight', 'freeze'];
  protected readonly more: readonly ActId[] = [
    'cellLife',
    'emptyCells',
    'plainCells',
    'renameSheet',
    'sheetBefore',
    'sheetAfter',
    'removeSheet',
  ];
  protected readonly inks = FILLS.map((ink) => ({ ink, name: INKS[ink] }));
  protected readonly formats = computed(() => {
    const { format } = this.desk.form();
    const known = FORMATS.some(([code]) => code === format);
    return known ? FORMATS : [...FORMATS, [format, format] as const];
  });

  /** What a tool is called, with its keys. */
  protected told(id: ActId): string {
    const { label, keys } = ACTS[id];
    return keys ? `${label} (${keysTold(keys)})` : label;
  }

  protected mayUndo(which: 'undo' | 'redo'): boolean {
    return this.desk.view() !== null && this.desk.writable() && this.live.acts.can(which);
  }

  /** Arrow keys go along the rail. */
  protected along(event: Event, direction: 1 | -1): void {
    const buttons = [...this.element.nativeElement.querySelectorAll<HTMLElement>('.rail > button:enabled')];
    const at = buttons.indexOf(event.target as HTMLElement);
    if (at < 0) return;
    event.preventDefault();
    buttons.at((at + direction) % buttons.length)?.focus();
  }
}
