import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Person } from '@oxbow/contract';
import { What } from '../acting/what';
import { Choice } from '../look/choice';
import type { Chosen } from '../look/choice';
import type { LedgerFilter } from './ledger';

/** How many days old what is shown may be; 0 for any age. */
const AGES: readonly Chosen<number>[] = [
  [0, $localize`of any age`],
  [1, $localize`of the last day`],
  [7, $localize`of the last 7 days`],
  [30, $localize`of the last 30 days`],
  [365, $localize`of the last year`],
];

/** Says what the ledger shows, and narrows it to a person or an age. */
@Component({
  selector: 'ox-ledger-bar',
  imports: [Choice, MatButtonModule, What],
  template: `
    <span i18n
      >Who wrote what: each block’s tab tells who put something there last; point at a passage for its
      writer.</span
    >
    <ox-what noun="ledger" />
    <ox-choice
      label="By whom"
      i18n-label
      [of]="choices()"
      [value]="filter().person"
      (valueChange)="filter.set({ person: $event, days: filter().days })"
    />
    <ox-choice
      label="How old"
      i18n-label
      [of]="ages"
      [value]="filter().days"
      (valueChange)="filter.set({ person: filter().person, days: $event })"
    />
    <button i18n matButton type="button" (click)="closed.emit()">Hide the ledger</button>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 12px;
      padding: 3px 16px;
      border-bottom: 1px solid var(--line);
      color: var(--soft);
    }
    span {
      flex: 1;
      min-width: 240px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LedgerBar {
  readonly writers = input.required<readonly Person[]>();
  readonly filter = model.required<LedgerFilter>();
  readonly closed = output();
  protected readonly ages = AGES;
  protected readonly choices = computed((): Chosen<string>[] => [
    ['', $localize`Everybody`],
    ...this.writers().map(({ id, name }): Chosen<string> => [id, name]),
  ]);
}
