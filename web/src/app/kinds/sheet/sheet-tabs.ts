import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { LONGEST_SHEET_NAME } from '@oxbow/core/kinds/sheet';
import { ACTS } from '../../acting/acts';
import { SheetActs } from './sheet-acts';
import { SheetDesk } from './sheet-desk';
import { nameOf } from './views';

/** The sheets of a book, and which one is in hand. A double click or F2 renames. */
@Component({
  selector: 'ox-sheet-tabs',
  imports: [MatIconModule],
  template: `
    <div
      class="tabs"
      role="tablist"
      tabindex="-1"
      aria-label="Sheets"
      i18n-aria-label
      (keydown)="key($event)"
    >
      @for (sheet of sheets(); track sheet.id) {
        @if (acts.naming() === sheet.id) {
          <input
            #name
            class="name"
            [value]="sheet.name"
            [attr.maxlength]="longest"
            aria-label="Name of the sheet"
            i18n-aria-label
            [attr.aria-invalid]="wrong() ? true : null"
            (keydown.enter)="rename(sheet.id, name.value)"
            (keydown.escape)="leave(); $event.stopPropagation()"
            (blur)="rename(sheet.id, name.value)"
          />
          @if (wrong(); as why) {
            <span class="wrong" role="alert">{{ why }}</span>
          }
        } @else {
          <button
            type="button"
            role="tab"
            [attr.aria-selected]="sheet.on"
            [tabindex]="sheet.on ? 0 : -1"
            [title]="sheet.name"
            (click)="desk.goToSheet(sheet.id)"
            (dblclick)="name(sheet.id)"
          >
            {{ sheet.name }}
          </button>
        }
      }
    </div>
    @if (desk.writable()) {
      <button
        type="button"
        class="add"
        [attr.aria-label]="table.addSheet.label"
        [title]="table.addSheet.label"
        (click)="acts.run('addSheet')"
      >
        <mat-icon svgIcon="add" />
      </button>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 4px;
      padding: 3px 8px 0;
      background: var(--silt);
      border-block-end: 1px solid var(--line);
      overflow-x: auto;
    }
    .tabs {
      display: flex;
      gap: 2px;
    }
    button {
      border: 1px solid transparent;
      border-block-end: 0;
      border-radius: var(--corner) var(--corner) 0 0;
      background: none;
      color: var(--soft);
      font: 13px/1 var(--sans);
      cursor: pointer;
    }
    .tabs button {
      max-width: 220px;
      padding: 6px 12px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .tabs button[aria-selected='true'] {
      background: var(--page);
      border-color: var(--line);
      color: var(--ink);
      font-weight: 600;
    }
    button:focus-visible {
      outline-offset: -2px;
    }
    .add {
      display: grid;
      place-items: center;
      width: 24px;
      height: 24px;
      padding: 0;
    }
    .add mat-icon {
      width: 18px;
      height: 18px;
    }
    .name {
      width: 160px;
      padding: 4px 8px;
      border: 1px solid var(--accent);
      border-radius: var(--corner);
      background: var(--page);
      color: var(--ink);
      font: 13px/1 var(--sans);
    }
    .wrong {
      align-self: center;
      color: var(--danger);
      font-size: 12px;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetTabs {
  protected readonly table = ACTS;
  protected readonly longest = LONGEST_SHEET_NAME;
  protected readonly desk = inject(SheetDesk);
  protected readonly acts = inject(SheetActs);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly wrong = signal('');
  protected readonly sheets = computed(() =>
    (this.desk.view()?.sheets ?? []).map((sheet, i) => ({
      id: sheet.id,
      name: nameOf(sheet, i),
      on: sheet.id === this.desk.sheet()?.id,
    })),
  );

  constructor() {
    effect(() => {
      if (this.acts.naming() === null) return;
      setTimeout(() => {
        const field = this.element.nativeElement.querySelector<HTMLInputElement>('.name');
        field?.focus();
        field?.select();
      });
    });
  }

  protected name(id: string): void {
    if (this.desk.writable()) this.acts.naming.set(id);
  }

  protected rename(id: string, name: string): void {
    if (this.acts.naming() !== id) return;
    this.wrong.set(this.acts.rename(id, name));
    if (!this.wrong()) this.leave();
  }

  protected leave(): void {
    this.wrong.set('');
    this.acts.naming.set(null);
  }

  protected key({ key, target }: KeyboardEvent): void {
    if (target instanceof HTMLInputElement) return;
    const [sheets, at] = [this.sheets(), this.sheets().findIndex(({ on }) => on)];
    const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: sheets.length - 1 }[key];
    if (key === 'F2') return this.name(sheets[at]?.id ?? '');
    const next = to === undefined ? undefined : sheets[(to + sheets.length) % sheets.length];
    if (!next) return;
    this.desk.goToSheet(next.id);
    setTimeout(() =>
      this.element.nativeElement.querySelector<HTMLElement>('[aria-selected="true"]')?.focus(),
    );
  }
}
