import { DestroyRef, inject } from '@angular/core';
import { Router } from '@angular/router';
import { BEFORE } from '@oxbow/contract';
import type { Credentials, Me, Person } from '@oxbow/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import {
  Store,
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
} from '@ngrx/store';
import {
  EMPTY,
  catchError,
  distinct,
  exhaustMap,
  filter,
  forkJoin,
  map,
  of,
  switchMap,
  tap,
  withLatestFrom,
} from 'rxjs';
import { Api } from '../api/api';
import { asEvent } from '../api/as-event';
import { LiveChannel } from '../live/channel';
import { waitBefore } from '../live/backoff';
import { Anew } from '../live/anew';
import { OtherTabs } from './other-tabs';
import { isSignedOut, remember, remembered } from './remembered';

export const SessionEvents = createActionGroup({
  source: 'Session',
  events: {
    'App opened': emptyProps(),
    'Sign in asked': props<{ credentials: Credentials; then: string }>(),
    'Sign in done': props<{ person: Me; people: Person[]; then: string | null }>(),
    'Sign in failed': props<{ why: string }>(),
    /** Somebody came in by another way than signing in: they moved in, or took an invitation. */
    'Came in': props<{ person: Me; then: string }>(),
    /** One is told otherwise, or wants things otherwise, than before. */
    'Me changed': props<{ person: Me }>(),
    'Nobody signed in': emptyProps(),
    /** The server could not say who this is; it is asked again. */
    'Server troubled': emptyProps(),
    'Stranger met': props<{ id: string }>(),
    /** Somebody is told under another name than before. */
    'Somebody renamed': emptyProps(),
    'People loaded': props<{ people: Person[] }>(),
    'Sign out asked': emptyProps(),
    'Sign out failed': props<{ why: string }>(),
    'Signed out': emptyProps(),
    /** The server does not know this window any more: the session ran out, or was ended elsewhere. */
    'Session ended': emptyProps(),
  },
});

const ENDED = $localize`Your session has ended. Please sign in again; what you wrote is kept on this device.`;

const TROUBLED = $localize`The server does not answer. It is tried again.`;

/** Whoever wrote what stood where a history begins. */
const NOBODY: Person = { id: BEFORE, name: $localize`Before you came`, initials: '…', colour: -1 };

interface State {
  /** `unknown` until the server has said who this is. */
  readonly status: 'unknown' | 'out' | 'asking' | 'in';
  readonly person: Me | null;
  readonly people: Person[];
  readonly trouble: string;
}

/** How somebody is told to others. */
function toldAs({ name, initials, colour }: Me): Omit<Person, 'id'> {
  return { name, initials, colour };
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
    on(SessionEvents.meChanged, (state, { person }): State => ({
      ...state,
      person,
      people: state.people.map((one) => (one.id === person.id ? { ...one, ...toldAs(person) } : one)),
    })),
    on(SessionEvents.peopleLoaded, (state, { people }): State => ({ ...state, people })),
    on(SessionEvents.signInFailed, (state, { why }): State => ({ ...state, status: 'out', trouble: why })),
    on(SessionEvents.serverTroubled, (state): State => ({ ...state, trouble: TROUBLED })),
    on(SessionEvents.signOutFailed, (state, { why }): State => ({ ...state, trouble: why })),
    on(SessionEvents.signOutAsked, (state): State => ({ ...state, trouble: '' })),
    on(SessionEvents.nobodySignedIn, SessionEvents.signedOut, (): State => ({ ...initial, status: 'out' })),
    on(SessionEvents.sessionEnded, (): State => ({ ...initial, status: 'out', trouble: ENDED })),
  ),
  extraSelectors: ({ selectPeople }) => ({
    selectPeopleById: createSelector(
      selectPeople,
      (people) => new Map([...people, NOBODY].map((person) => [person.id, person])),
    ),
  }),
});

export const sessionEffects = {
  whoAmI: createEffect(
    (actions = inject(Actions), api = inject(Api), store = inject(Store), failed = 0) =>
      actions.pipe(
        ofType(SessionEvents.appOpened),
        switchMap(() =>
          forkJoin({ person: api.whoAmI(), people: api.people() }).pipe(
            map((found) => SessionEvents.signInDone({ ...found, then: null })),
            // Only the server's word that nobody is signed in signs anybody out; whatever else fails, it is tried again.
            catchError((error: unknown) => {
              if (isSignedOut(error)) return of(SessionEvents.nobodySignedIn());
              const who = remembered();
              if (who) return of(SessionEvents.signInDone({ ...who, then: null }));
              setTimeout(() => store.dispatch(SessionEvents.appOpened()), waitBefore(failed++));
              return of(SessionEvents.serverTroubled());
            }),
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
          asEvent(
            api
              .signIn(credentials)
              .pipe(switchMap((person) => api.people().pipe(map((people) => ({ person, people }))))),
            (who) => SessionEvents.signInDone({ ...who, then }),
            SessionEvents.signInFailed,
          ),
        ),
      ),
    { functional: true },
  ),
  comeIn: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(SessionEvents.cameIn),
        switchMap(({ person, then }) =>
          asEvent(
            api.people(),
            (people) => SessionEvents.signInDone({ person, people, then }),
            SessionEvents.signInFailed,
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
        ofType(SessionEvents.strangerMet, SessionEvents.somebodyRenamed),
        distinct((event) => ('id' in event ? event.id : Symbol())),
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
          asEvent(
            api.signOut().pipe(tap(() => void router.navigateByUrl('/sign-in'))),
            () => SessionEvents.signedOut(),
            SessionEvents.signOutFailed,
          ),
        ),
      ),
    { functional: true },
  ),
  /** Who is signed in is remembered on the device until they sign out, or are signed out. */
  remember: createEffect(
    (store = inject(Store), actions = inject(Actions)) =>
      actions.pipe(
        ofType(
          ...[SessionEvents.signInDone, SessionEvents.meChanged, SessionEvents.peopleLoaded],
          ...[SessionEvents.nobodySignedIn, SessionEvents.signedOut, SessionEvents.sessionEnded],
        ),
        withLatestFrom(store.select(session.selectPerson), store.select(session.selectPeople)),
        tap(([, person, people]) => remember(person && { person, people })),
      ),
    { functional: true, dispatch: false },
  ),
  /** The live channel was hung up on: the session is over, if the server says so when it is asked; else the line is opened again. */
  hungUp: createEffect(
    (channel = inject(LiveChannel), api = inject(Api), store = inject(Store)) =>
      channel.hungUp.pipe(
        withLatestFrom(store.select(session.selectStatus)),
        filter(([, status]) => status === 'in'),
        switchMap(() =>
          api.whoAmI().pipe(
            tap(() => channel.reconnect()),
            catchError((error: unknown) => {
              if (!isSignedOut(error)) channel.reconnect();
              return EMPTY;
            }),
          ),
        ),
      ),
    { functional: true, dispatch: false },
  ),
  /** Tabs of a browser have one session together: whoever signs in in one is told in the others, which load anew before anything is sent. */
  otherTabs: createEffect(
    (actions = inject(Actions), store = inject(Store), anew = inject(Anew)) => {
      const tabs = new OtherTabs();
      const person = store.selectSignal(session.selectPerson);
      const stop = tabs.hear((other) => {
        const own = person();
        if (own && other !== own.id) anew.load();
      });
      inject(DestroyRef).onDestroy(stop);
      return actions.pipe(
        ofType(SessionEvents.signInDone, SessionEvents.signedOut),
        tap(() => tabs.tell(person()?.id ?? null)),
      );
    },
    { functional: true, dispatch: false },
  ),
  /** Asks to sign in again, and leads back to where one was; what was not sent yet is on the device. */
  askAgain: createEffect(
    (actions = inject(Actions), router = inject(Router)) =>
      actions.pipe(
        ofType(SessionEvents.sessionEnded),
        filter(() => !router.url.startsWith('/sign-in')),
        tap(() => void router.navigate(['/sign-in'], { queryParams: { then: router.url } })),
      ),
    { functional: true, dispatch: false },
  ),
};
