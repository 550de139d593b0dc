import type { Observable } from 'rxjs';
import { catchError, map, of } from 'rxjs';
import { saidOf } from './api';

/** A call as the event of its answer, or as that of its failure, which says why: effects fail in this one way. */
export function asEvent<T, Done, Failed>(
  call: Observable<T>,
  done: (value: T) => Done,
  failed: (told: { why: string }) => Failed,
): Observable<Done | Failed> {
  return call.pipe(
    map(done),
    catchError((error: unknown) => of(failed({ why: saidOf(error) }))),
  );
}
