import { inject } from '@angular/core';
import type { Notice } from '@oxbow/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import { catchError, map, mergeMap, of, switchMap } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { LiveChannel } from '../live/channel';
import { SessionEvents } from '../session/session.store';

export const NoticeEvents = createActionGroup({
  source: 'Notices',
  events: {
    Stale: emptyProps(),
    Loaded: props<{ notices: Notice[] }>(),
    'Put away': props<{ id: string }>(),
    Failed: props<{ why: string }>(),
  },
});

interface State {
  /** Newest first. */
  readonly list: readonly Notice[];
  readonly trouble: string;
}

const initial: State = { list: [], trouble: '' };

export const notices = createFeature({
  name: 'notices',
  reducer: createReducer(
    initial,
    on(NoticeEvents.loaded, (_state, { notices: list }): State => ({ list, trouble: '' })),
    on(NoticeEvents.putAway, (state, { id }): State => ({
      ...state,
      list: state.list.filter((notice) => notice.id !== id),
    })),
    on(NoticeEvents.failed, (state, { why }): State => ({ ...state, trouble: why })),
    on(SessionEvents.signedOut, SessionEvents.sessionEnded, (): State => initial),
  ),
});

export const noticeEffects = {
  begin: createEffect(
    (actions = inject(Actions)) =>
      actions.pipe(
        ofType(SessionEvents.signInDone),
        map(() => NoticeEvents.stale()),
      ),
    { functional: true },
  ),
  follow: createEffect(
    (actions = inject(Actions), channel = inject(LiveChannel)) =>
      actions.pipe(
        ofType(SessionEvents.signInDone),
        switchMap(() => channel.on('notice')),
        map(() => NoticeEvents.stale()),
      ),
    { functional: true },
  ),
  load: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(NoticeEvents.stale),
        switchMap(() =>
          api.notices().pipe(
            map((list) => NoticeEvents.loaded({ notices: list })),
            catchError((error: unknown) => of(NoticeEvents.failed({ why: saidOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  putAway: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(NoticeEvents.putAway),
        mergeMap(({ id }) =>
          api.putAway(id).pipe(
            map(() => NoticeEvents.stale()),
            catchError((error: unknown) => of(NoticeEvents.failed({ why: saidOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
};
