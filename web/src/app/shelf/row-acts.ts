import { ChangeDetectionStrategy, Component, inject, output, viewChild } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { MatMenu, MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { writes } from '@oxbow/contract';
import type { DocumentSummary } from '@oxbow/contract';
import { ACTS } from '../acting/acts';
import { ShelfEvents, shelf } from '../documents/shelf.store';

/** The menu of what can be done with a document on the shelf: one for all rows, whose buttons open it with their document. */
@Component({
  selector: 'ox-row-acts',
  imports: [MatIconModule, MatMenuModule, RouterLink],
  templateUrl: './row-acts.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RowActs {
  readonly menu = viewChild.required<MatMenu>('acts');
  /** Asks for a file to be imported as the next version of a document. */
  readonly fileAsked = output<DocumentSummary>();
  readonly binAsked = output<DocumentSummary>();

  private readonly store = inject(Store);
  protected readonly table = ACTS;
  protected readonly writes = writes;
  protected readonly fillable = this.store.selectSignal(shelf.selectFillable);

  protected move({ id }: DocumentSummary, collection: string | null): void {
    this.store.dispatch(ShelfEvents.documentChangeAsked({ id, patch: { collection } }));
  }
}
