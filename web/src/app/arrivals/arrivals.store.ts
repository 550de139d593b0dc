import { inject } from '@angular/core';
import type { Letter } from '@oxbow/contract';
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
import { mergeMap, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { asEvent } from '../api/as-event';
import { SessionEvents } from '../session/session.store';

export const ArrivalEvents = createActionGroup({
  source: 'Arrivals',
  events: {
    Opened: emptyProps(),
    Loaded: props<{ letters: Letter[] }>(),
    'Put away': props<{ id: string }>(),
    Failed: props<{ why: string }>(),
  },
});

interface State {
  readonly status: 'empty' | 'loading' | 'ready' | 'failed';
  /** Newest first. */
  readonly letters: readonly Letter[];
  readonly trouble: string;
}

const initial: State = { status: 'empty', letters: [], trouble: '' };

/** What came from outside; the shelf shows how much of it waits, the room what it is. */
export const arrivals = createFeature({
  name: 'arrivals',
  reducer: createReducer(
    initial,
    on(ArrivalEvents.opened, (state): State => ({
      ...state,
      status: state.status === 'ready' ? 'ready' : 'loading',
    })),
    on(ArrivalEvents.loaded, (_state, { letters }): State => ({ status: 'ready', letters, trouble: '' })),
    on(ArrivalEvents.putAway, (state, { id }): State => ({
      ...state,
      letters: state.letters.filter((letter) => letter.id !== id),
    })),
    on(ArrivalEvents.failed, (state, { why }): State => ({
      ...state,
      status: state.status === 'ready' ? 'ready' : 'failed',
      trouble: why,
    })),
    on(SessionEvents.signedOut, SessionEvents.sessionEnded, (): State => initial),
  ),
  extraSelectors: ({ selectLetters }) => ({
    /** How many files wait to be filed. */
    selectWaiting: createSelector(
      selectLetters,
      (letters) =>
        letters.flatMap(({ files }) => files).filter(({ filed, readable }) => readable && !filed).length,
    ),
  }),
});

export const arrivalEffects = {
  load: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(ArrivalEvents.opened),
        switchMap(() =>
          asEvent(api.arrivals(), (letters) => ArrivalEvents.loaded({ letters }), ArrivalEvents.failed),
        ),
      ),
    { functional: true },
  ),
  putAway: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(ArrivalEvents.putAway),
        mergeMap(({ id }) =>
          asEvent(api.putArrivalAway(id), () => ArrivalEvents.opened(), ArrivalEvents.failed),
        ),
      ),
    { functional: true },
  ),
};
