import { inject } from '@angular/core';
import type { CanActivateFn } from '@angular/router';
import { Router } from '@angular/router';
import { catchError, map, of } from 'rxjs';
import { Api, saidOf } from '../api/api';

/** A permanent link to a moment opens the page as it was then. */
export const toMoment: CanActivateFn = ({ params }) => {
  const seq = String(params['seq']);
  return inject(Router).createUrlTree(['/documents', params['id']], {
    queryParams: { earlier: seq, later: seq },
  });
};

/** A permanent link to a landmark opens the moment that has the name now, or had it once; "latest" the one furthest along. */
export const toLandmark: CanActivateFn = ({ params }) => {
  const router = inject(Router);
  const desk = ['/documents', params['id']];
  return inject(Api)
    .landmark(String(params['id']), String(params['name']))
    .pipe(
      map(({ seq }) => router.createUrlTree(desk, { queryParams: { earlier: seq, later: seq } })),
      catchError((error: unknown) =>
        of(router.createUrlTree(desk, { queryParams: { said: saidOf(error) } })),
      ),
    );
};
