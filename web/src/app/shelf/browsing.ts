import { Injectable, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router } from '@angular/router';
import { ORDERS, SELECTIONS } from './arranging';
import type { Order, Selection, Wish } from './arranging';

/** How one wants to see the shelf, as the address holds it. */
@Injectable()
export class Browsing {
  private readonly router = inject(Router);
  private readonly params = toSignal(inject(ActivatedRoute).queryParamMap, { requireSync: true });

  readonly wish = computed<Wish>(() => {
    const param = (name: string): string => this.params().get(name) ?? '';
    return {
      title: param('title'),
      person: param('by'),
      collection: param('in'),
      kind: param('kind'),
      only: SELECTIONS.find((one) => one === param('only')) ?? 'all',
      order: ORDERS.find((one) => one === param('order')) ?? 'changed',
    };
  });
  /** Whether some documents are left out by what was asked. */
  readonly narrowed = computed(() => {
    const { title, person, collection, kind, only } = this.wish();
    return only !== 'all' || [title, person, collection, kind].some((one) => one !== '');
  });

  /** Changes what is wanted; the rest stays. */
  want(change: Partial<Wish>): void {
    const { title, person, collection, kind, only, order } = { ...this.wish(), ...change };
    const queryParams = {
      title: title || null,
      by: person || null,
      in: collection || null,
      kind: kind || null,
      only: only === ('all' satisfies Selection) ? null : only,
      order: order === ('changed' satisfies Order) ? null : order,
    };
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
  }

  /** Shows all documents again. */
  clear(): void {
    this.want({ title: '', person: '', collection: '', kind: '', only: 'all' });
  }
}
