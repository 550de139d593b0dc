import { inject } from '@angular/core';
import type { Notice } from '@oxbow/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import { map, mergeMap, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { asEvent } from '../api/as-event';
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
          asEvent(api.notices(), (list) => NoticeEvents.loaded({ notices: list }), NoticeEvents.failed),
        ),
      ),
    { functional: true },
  ),
  putAway: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(NoticeEvents.putAway),
        mergeMap(({ id }) => asEvent(api.putAway(id), () => NoticeEvents.stale(), NoticeEvents.failed)),
      ),
    { functional: true },
  ),
};
