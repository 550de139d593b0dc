import type { HttpInterceptorFn } from '@angular/common/http';
import { HttpErrorResponse } from '@angular/common/http';
import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { tap } from 'rxjs';
import { AS_PERSON, OTHER_PERSON } from '@oxbow/contract';
import { Anew } from '../live/anew';
import { SessionEvents, session } from './session.store';

/**
 * Says with each call as whom it is made, so that nothing is done in the name of somebody else who signed in in another tab meanwhile, and
 * notices from the server's answers that the session of whoever is signed in is over, or is somebody else's.
 */
export const noticeEnded: HttpInterceptorFn = (request, next) => {
  const store = inject(Store);
  const status = store.selectSignal(session.selectStatus);
  const person = store.selectSignal(session.selectPerson)();
  const anew = inject(Anew);
  const named =
    person && status() === 'in' ? request.clone({ setHeaders: { [AS_PERSON]: person.id } }) : request;
  return next(named).pipe(
    tap({
      error: (error: unknown) => {
        if (error instanceof HttpErrorResponse && error.status === OTHER_PERSON) anew.load();
        if (error instanceof HttpErrorResponse && error.status === 401 && status() === 'in')
          store.dispatch(SessionEvents.sessionEnded());
      },
    }),
  );
};
