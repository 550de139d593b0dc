import { inject } from '@angular/core';
import type { CanActivateFn } from '@angular/router';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map, take } from 'rxjs';
import { session } from './session.store';

/** Lets in whoever is signed in; sends others to sign in, and back afterwards. */
export const signedIn: CanActivateFn = (_route, state) => {
  const router = inject(Router);
  return inject(Store)
    .select(session.selectStatus)
    .pipe(
      filter((status) => status !== 'unknown'),
      take(1),
      map((status) =>
        status === 'in' ? true : router.createUrlTree(['/sign-in'], { queryParams: { then: state.url } }),
      ),
    );
};
