import type { HttpInterceptorFn } from '@angular/common/http';
import { HttpErrorResponse } from '@angular/common/http';
import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { tap } from 'rxjs';
import { SessionEvents, session } from './session.store';

/** Notices from the server's answers that the session of whoever is signed in is over. */
export const noticeEnded: HttpInterceptorFn = (request, next) => {
  const store = inject(Store);
  const status = store.selectSignal(session.selectStatus);
  return next(request).pipe(
    tap({
      error: (error: unknown) => {
        if (error instanceof HttpErrorResponse && error.status === 401 && status() === 'in')
          store.dispatch(SessionEvents.sessionEnded());
      },
    }),
  );
};
