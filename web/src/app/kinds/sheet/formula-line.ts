import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { indexOfLetters } from '@oxbow/core/kinds/sheet';
import { a1 } from './grid-line';
import { SheetDesk } from './sheet-desk';

/** Over the cells: which one is in hand, and what was typed into it. */
@Component({
  selector: 'ox-formula-line',
  template: `
    <input
      #where
      class="where"
      [value]="name()"
      autocomplete="off"
      spellcheck="false"
      aria-label="The cell in hand: type another to go there"
      i18n-aria-label
      (keydown.enter)="go(where.value)"
      (keydown.escape)="left.emit()"
      (blur)="where.value = name()"
      (focus)="where.select()"
    />
    <input
      #line
      class="line"
      [value]="text()"
      [readonly]="!desk.writable()"
      autocomplete="off"
      spellcheck="false"
      aria-label="What was typed into this cell"
      i18n-aria-label
      placeholder="Type a value, or = and a formula"
      i18n-placeholder
      (focus)="begun.emit()"
      (input)="typed.emit(line.value)"
      (keydown.enter)="put.emit(); $event.preventDefault()"
      (keydown.escape)="left.emit(); $event.stopPropagation()"
      (blur)="kept.emit()"
    />
    @if (summary(); as told) {
      <output class="told" aria-live="polite">{{ told }}</output>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 76px minmax(0, 1fr) auto;
      align-items: center;
      background: var(--page);
    }
    input {
      min-width: 0;
      height: 28px;
      padding: 0 8px;
      border: 0;
      border-inline-end: 1px solid var(--line);
      background: none;
      color: var(--ink);
      font: 13px/1 var(--sans);
    }
    .where {
      font-weight: 600;
    }
    .line {
      font-family: var(--mono);
      font-size: 12.5px;
    }
    input:focus-visible {
      outline-offset: -2px;
    }
    .told {
      padding: 0 12px;
      color: var(--soft);
      font-size: 12px;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormulaLine {
  readonly begun = output();
  readonly typed = output<string>();
  readonly put = output();
  readonly left = output();
  readonly kept = output();

  protected readonly desk = inject(SheetDesk);
  protected readonly name = computed(() => {
    const [{ row, column }, { top, left, bottom, right }] = [this.desk.at(), this.desk.block()];
    return top === bottom && left === right ? a1(row, column) : `${a1(top, left)}:${a1(bottom, right)}`;
  });
  protected readonly text = computed(() => this.desk.typing()?.text ?? this.desk.typed());
  /** What several selected cells come to together. */
  protected readonly summary = computed(() => {
    const { numbers, filled } = this.desk.together();
    if (filled < 2) return '';
    const sum = numbers.reduce((total, number) => total + number, 0);
    const plain = new Intl.NumberFormat(undefined, { maximumFractionDigits: 10 });
    return numbers.length > 1
      ? $localize`${filled} filled, sum ${plain.format(sum)}, mean ${plain.format(sum / numbers.length)}`
      : $localize`${filled} filled`;
  });

  protected go(typed: string): void {
    const [, letters, digits] = /^\s*\$?([a-z]{1,3})\$?([1-9]\d{0,6})\s*$/i.exec(typed) ?? [];
    if (letters === undefined) return;
    this.desk.selectAt(Number(digits) - 1, indexOfLetters(letters));
    this.left.emit();
  }
}
