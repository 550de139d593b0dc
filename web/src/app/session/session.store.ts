import { inject } from '@angular/core';
import { Router } from '@angular/router';
import type { Credentials, Person } from '@oxbow/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
} from '@ngrx/store';
import { EMPTY, catchError, distinct, exhaustMap, forkJoin, map, of, switchMap, tap } from 'rxjs';
import { Api, saidOf } from '../api/api';

export const SessionEvents = createActionGroup({
  source: 'Session',
  events: {
    'App opened': emptyProps(),
    'Sign in asked': props<{ credentials: Credentials; then: string }>(),
    'Sign in done': props<{ person: Person; people: Person[]; then: string | null }>(),
    'Sign in failed': props<{ why: string }>(),
    'Nobody signed in': emptyProps(),
    'Stranger met': props<{ id: string }>(),
    'People loaded': props<{ people: Person[] }>(),
    'Sign out asked': emptyProps(),
    'Signed out': emptyProps(),
  },
});

interface State {
  /** `unknown` until the server has said who this is. */
  readonly status: 'unknown' | 'out' | 'asking' | 'in';
  readonly person: Person | null;
  readonly people: Person[];
  readonly trouble: string;
}

const initial: State = { status: 'unknown', person: null, people: [], trouble: '' };

export const session = createFeature({
  name: 'session',
  reducer: createReducer(
    initial,
    on(SessionEvents.signInAsked, (state): State => ({ ...state, status: 'asking', trouble: '' })),
    on(SessionEvents.signInDone, (_state, { person, people }): State => ({
      status: 'in',
      person,
      people,
      trouble: '',
    })),
    on(SessionEvents.peopleLoaded, (state, { people }): State => ({ ...state, people })),
    on(SessionEvents.signInFailed, (state, { why }): State => ({ ...state, status: 'out', trouble: why })),
    on(SessionEvents.nobodySignedIn, SessionEvents.signedOut, (): State => ({ ...initial, status: 'out' })),
  ),
  extraSelectors: ({ selectPeople }) => ({
    selectPeopleById: createSelector(
      selectPeople,
      (people) => new Map(people.map((person) => [person.id, person])),
    ),
  }),
});

export const sessionEffects = {
  whoAmI: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(SessionEvents.appOpened),
        switchMap(() =>
          forkJoin({ person: api.whoAmI(), people: api.people() }).pipe(
            map((found) => SessionEvents.signInDone({ ...found, then: null })),
            catchError(() => of(SessionEvents.nobodySignedIn())),
          ),
        ),
      ),
    { functional: true },
  ),
  signIn: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(SessionEvents.signInAsked),
        exhaustMap(({ credentials, then }) =>
          api.signIn(credentials).pipe(
            switchMap((person) =>
              api.people().pipe(map((people) => SessionEvents.signInDone({ person, people, then }))),
            ),
            catchError((error: unknown) => of(SessionEvents.signInFailed({ why: saidOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  enter: createEffect(
    (actions = inject(Actions), router = inject(Router)) =>
      actions.pipe(
        ofType(SessionEvents.signInDone),
        tap(({ then }) => void (then === null ? null : router.navigateByUrl(then))),
      ),
    { functional: true, dispatch: false },
  ),
  /** Somebody may be new here, such as the sender of a file; whoever is not known afterwards is not asked for again. */
  meet: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(SessionEvents.strangerMet),
        distinct(({ id }) => id),
        switchMap(() =>
          api.people().pipe(
            map((people) => SessionEvents.peopleLoaded({ people })),
            catchError(() => EMPTY),
          ),
        ),
      ),
    { functional: true },
  ),
  signOut: createEffect(
    (actions = inject(Actions), api = inject(Api), router = inject(Router)) =>
      actions.pipe(
        ofType(SessionEvents.signOutAsked),
        exhaustMap(() =>
          api.signOut().pipe(
            catchError(() => of(undefined)),
            tap(() => void router.navigateByUrl('/sign-in')),
            map(() => SessionEvents.signedOut()),
          ),
        ),
      ),
    { functional: true },
  ),
};
