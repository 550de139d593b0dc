import { ChangeDetectionStrategy, Component, input, model, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import type { Person } from '@oxbow/contract';
import { What } from '../acting/what';
import type { LedgerFilter } from './ledger';

/** Says what the ledger shows, and narrows it to a person or an age. */
@Component({
  selector: 'ox-ledger-bar',
  imports: [What, FormsModule, MatButtonModule],
  template: `
    <span
      >Who wrote what: each block’s tab tells who put something there last; point at a passage for its
      writer.</span
    >
    <ox-what noun="ledger" />
    <select
      [ngModel]="filter().person"
      (ngModelChange)="filter.set({ person: $event, days: filter().days })"
      aria-label="By whom"
    >
      <option value="">Everybody</option>
      @for (person of writers(); track person.id) {
        <option [value]="person.id">{{ person.name }}</option>
      }
    </select>
    <select
      [ngModel]="filter().days"
      (ngModelChange)="filter.set({ person: filter().person, days: +$event })"
      aria-label="How old"
    >
      <option [value]="0">of any age</option>
      <option [value]="1">of the last day</option>
      <option [value]="7">of the last 7 days</option>
      <option [value]="30">of the last 30 days</option>
      <option [value]="365">of the last year</option>
    </select>
    <button matButton type="button" (click)="closed.emit()">Hide the ledger</button>
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
    select {
      font: 13px/20px var(--sans);
      padding: 2px 6px;
      color: var(--ink);
      background: var(--page);
      border: 1px solid var(--line);
      border-radius: 4px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LedgerBar {
  readonly writers = input.required<readonly Person[]>();
  readonly filter = model.required<LedgerFilter>();
  readonly closed = output();
}
