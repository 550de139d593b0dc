import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { cellName } from './calculating';
import { drawnCell } from './drawn-cell';
import { SheetDesk } from './sheet-desk';
import { cellsOf, typedOf } from './views';

/** Most cells that are found. */
const MOST = 5000;

/** Finds cells of all sheets by what they show, or what was typed into them. */
@Component({
  selector: 'ox-find-in-sheet',
  imports: [MatButtonModule, MatIconModule],
  template: `
    <form
      role="search"
      (submit)="step(1); $event.preventDefault()"
      (keydown.escape)="closed.emit(); $event.stopPropagation()"
    >
      <input
        #words
        type="search"
        placeholder="Find in the cells"
        i18n-placeholder
        aria-label="Find in the cells"
        i18n-aria-label
        (input)="sought.set(words.value)"
      />
      <span class="count" role="status">{{ told() }}</span>
      <button matIconButton type="button" aria-label="Previous cell" i18n-aria-label (click)="step(-1)">
        <mat-icon svgIcon="up" />
      </button>
      <button matIconButton type="submit" aria-label="Next cell" i18n-aria-label>
        <mat-icon svgIcon="down" />
      </button>
      <button matIconButton type="button" aria-label="Close" i18n-aria-label (click)="closed.emit()">
        <mat-icon svgIcon="close" />
      </button>
    </form>
  `,
  styles: `
    form {
      display: flex;
      align-items: center;
      gap: 6px;
      padding: 3px 10px;
      background: var(--tide);
    }
    input {
      width: min(280px, 50vw);
      height: 26px;
      padding: 0 8px;
      border: 1px solid var(--line);
      border-radius: var(--corner);
      background: var(--page);
      color: var(--ink);
      font: inherit;
    }
    .count {
      min-width: 90px;
      color: var(--soft);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindInSheet {
  readonly closed = output();

  private readonly desk = inject(SheetDesk);
  private readonly words = viewChild.required<ElementRef<HTMLInputElement>>('words');
  protected readonly sought = signal('');
  private readonly at = signal(-1);
  private readonly found = computed(() => {
    const [view, values, sought] = [this.desk.view(), this.desk.values(), this.sought().trim().toLowerCase()];
    const out: { sheet: string; row: string; column: string }[] = [];
    if (!view || sought === '') return out;
    for (const sheet of view.sheets)
      for (const row of sheet.rows)
        for (const column of sheet.columns) {
          const cell = cellsOf(row.node).get(column.id);
          if (!cell?.textContent || out.length === MOST) continue;
          const shown = drawnCell(cell, values.get(cellName(sheet.id, row.id, column.id))).text;
          const typed = typedOf(cell, view, sheet.id);
          if (shown.toLowerCase().includes(sought) || typed.toLowerCase().includes(sought))
            out.push({ sheet: sheet.id, row: row.id, column: column.id });
        }
    return out;
  });
  protected readonly told = computed(() => {
    const [count, at] = [this.found().length, this.at()];
    if (this.sought().trim() === '') return '';
    if (count === 0) return $localize`In no cell`;
    return at < 0 || at >= count ? $localize`${count} cells` : $localize`${at + 1} of ${count}`;
  });

  constructor() {
    afterNextRender(() => this.words().nativeElement.focus());
  }

  protected step(direction: 1 | -1): void {
    const found = this.found();
    if (found.length === 0) return;
    const at =
      this.at() < 0 && direction < 0
        ? found.length - 1
        : (this.at() + direction + found.length) % found.length;
    const cell = found[at];
    if (!cell) return;
    this.at.set(at);
    this.desk.select(cell.sheet, cell);
  }
}
