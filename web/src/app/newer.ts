import { inject } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { SwUpdate } from '@angular/service-worker';
import { filter, switchMap } from 'rxjs';

/** Offers to load the app anew when the server has a newer one than this window began with. To be called where one may inject. */
export function offerNewer(): void {
  const bar = inject(MatSnackBar);
  inject(SwUpdate, { optional: true })
    ?.versionUpdates.pipe(
      filter(({ type }) => type === 'VERSION_READY'),
      switchMap(() =>
        bar.open($localize`There is a newer version of Oxbow Tide.`, $localize`Load it`).onAction(),
      ),
    )
    .subscribe(() => location.reload());
}
