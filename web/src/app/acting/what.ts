import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { NOUNS } from './nouns';
import type { NounId } from './nouns';

/** A quiet "what is this" beside a word of our own: opens help at it. */
@Component({
  selector: 'ox-what',
  template: `<button type="button" [attr.aria-label]="label()" [title]="label()" (click)="open()">?</button>`,
  styles: `
    button {
      width: 18px;
      height: 18px;
      padding: 0;
      font: 600 11px/16px var(--sans);
      color: var(--soft);
      background: transparent;
      border: 1px solid var(--line);
      border-radius: 9px;
      cursor: pointer;
    }
    button:hover {
      color: var(--ink);
      border-color: var(--soft);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class What {
  readonly noun = input.required<NounId>();
  private readonly dialog = inject(MatDialog);
  protected readonly label = computed(() => $localize`What is this: ${NOUNS[this.noun()].name}`);

  protected async open(): Promise<void> {
    const { Help } = await import('./help');
    this.dialog.open(Help, { data: this.noun(), autoFocus: 'dialog', maxWidth: '760px' });
  }
}
