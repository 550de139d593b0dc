import { HttpErrorResponse } from '@angular/common/http';
import { inject } from '@angular/core';
import { writes } from '@oxbow/contract';
import type { Collection, DocumentPatch, DocumentSummary } from '@oxbow/contract';
import { createEntityAdapter } from '@ngrx/entity';
import type { EntityState } from '@ngrx/entity';
import type { Chosen } from '../look/choice';
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
  catchError,
  concatMap,
  expand,
  EMPTY,
  forkJoin,
  from,
  map,
  mergeMap,
  of,
  reduce,
  switchMap,
} from 'rxjs';
import { Api, saidOf } from '../api/api';
import { asEvent } from '../api/as-event';
import { LiveChannel } from '../live/channel';
import { Heeding } from '../live/heeding';
import { Copies } from '../live/copies';
import { isAway } from '../session/remembered';
import { SessionEvents, session } from '../session/session.store';

export const ShelfEvents = createActionGroup({
  source: 'Shelf',
  events: {
    Opened: emptyProps(),
    Loaded: props<{ documents: DocumentSummary[]; collections: Collection[] }>(),
    'Loading failed': props<{ why: string }>(),
    /** The server cannot be reached; these are on the device. */
    'Kept found': props<{ documents: DocumentSummary[] }>(),
    'Document changed elsewhere': props<{ id: string }>(),
    'Document arrived': props<{ document: DocumentSummary }>(),
    'Document gone': props<{ id: string }>(),
    'Document change asked': props<{ id: string; patch: DocumentPatch }>(),
    'Collection asked': props<{ name: string; id: string | null }>(),
    'Collection deletion asked': props<{ id: string }>(),
    'Collection deleted': props<{ id: string }>(),
    'Collection arrived': props<{ collection: Collection }>(),
    'Call failed': props<{ why: string }>(),
    'Trouble read': emptyProps(),
  },
});

const AWAY = $localize`The server cannot be reached. What you had open on this device opens, and takes writing.`;

interface State extends EntityState<DocumentSummary> {
  readonly status: 'empty' | 'loading' | 'ready' | 'failed';
  readonly collections: Collection[];
  readonly trouble: string;
}

const adapter = createEntityAdapter<DocumentSummary>({
  sortComparer: (a, b) => b.changedAt.localeCompare(a.changedAt),
});
const initial: State = adapter.getInitialState({ status: 'empty' as const, collections: [], trouble: '' });

/** A collection with its documents, as the shelf shows them; `id` is null for documents in none that one has. */
export interface Board {
  readonly id: string | null;
  readonly name: string;
  /** How one has the collection. */
  readonly role: Collection['role'];
  readonly documents: DocumentSummary[];
}

export const shelf = createFeature({
  name: 'shelf',
  reducer: createReducer(
    initial,
    on(ShelfEvents.opened, (state): State => ({
      ...state,
      status: state.status === 'ready' ? 'ready' : 'loading',
    })),
    on(ShelfEvents.loaded, (state, { documents, collections }): State =>
      adapter.setAll(documents, { ...state, status: 'ready', collections, trouble: '' }),
    ),
    on(ShelfEvents.loadingFailed, (state, { why }): State => ({
      ...state,
      status: state.status === 'ready' ? 'ready' : 'failed',
      trouble: why,
    })),
    on(ShelfEvents.keptFound, (state, { documents }): State =>
      state.status === 'ready'
        ? { ...state, trouble: AWAY }
        : adapter.setAll(documents, { ...state, status: 'ready', trouble: AWAY }),
    ),
    on(ShelfEvents.documentArrived, (state, { document }): State =>
      adapter.upsertOne(document, { ...state, trouble: '' }),
    ),
    on(ShelfEvents.documentGone, (state, { id }): State => adapter.removeOne(id, state)),
    on(ShelfEvents.collectionArrived, (state, { collection }): State => ({
      ...state,
      trouble: '',
      collections: state.collections.some(({ id }) => id === collection.id)
        ? state.collections.map((one) => (one.id === collection.id ? collection : one))
        : [...state.collections, collection],
    })),
    on(ShelfEvents.collectionDeleted, (state, { id }): State => ({
      ...state,
      collections: state.collections.filter((one) => one.id !== id),
    })),
    on(ShelfEvents.callFailed, (state, { why }): State => ({ ...state, trouble: why })),
    on(ShelfEvents.troubleRead, (state): State => ({ ...state, trouble: '' })),
    on(SessionEvents.signedOut, SessionEvents.sessionEnded, (): State => initial),
  ),
  extraSelectors: ({ selectShelfState, selectCollections }) => {
    const selectDocuments = createSelector(selectShelfState, adapter.getSelectors().selectAll);
    return {
      selectDocuments,
      /** Collections one may put documents into, and none, to choose from. */
      selectFillable: createSelector(selectCollections, (collections): Chosen<string>[] => [
        ['', $localize`In no collection`],
        ...collections.flatMap(({ id, name, role }): Chosen<string>[] => (writes(role) ? [[id, name]] : [])),
      ]),
      selectBoards: createSelector(selectDocuments, selectCollections, (documents, collections): Board[] => {
        const boards: Board[] = collections.map((one) => ({
          ...one,
          documents: documents.filter(({ collection }) => collection === one.id),
        }));
        const known = new Set<string | null>(collections.map(({ id }) => id));
        const loose = documents.filter(({ collection }) => !known.has(collection));
        return loose.length > 0
          ? [...boards, { id: null, name: $localize`In no collection`, role: 'viewer', documents: loose }]
          : boards;
      }),
    };
  },
});

export const shelfEffects = {
  load: createEffect(
    (actions = inject(Actions), api = inject(Api), copies = inject(Copies), store = inject(Store)) => {
      const failed = (error: unknown) => of(ShelfEvents.loadingFailed({ why: saidOf(error) }));
      const me = store.selectSignal(session.selectPerson);
      /** Without the server, what of the shelf is on the device. */
      const kept = () =>
        from(copies.all(me()?.id ?? '')).pipe(
          map((all) => ShelfEvents.keptFound({ documents: all.map(({ about }) => about) })),
          catchError(failed),
        );
      return actions.pipe(
        ofType(ShelfEvents.opened),
        switchMap(() =>
          forkJoin({
            documents: api.documents().pipe(
              expand((page) => (page.next ? api.documents(page.next) : EMPTY)),
              reduce<{ items: DocumentSummary[] }, DocumentSummary[]>(
                (all, page) => [...all, ...page.items],
                [],
              ),
            ),
            collections: api.collections(),
          }).pipe(
            map((found) => ShelfEvents.loaded(found)),
            catchError((error: unknown) => (isAway(error) ? kept() : failed(error))),
          ),
        ),
      );
    },
    { functional: true },
  ),
  /** What was kept of documents goes with whoever signs out, and with documents that are gone. */
  letGo: createEffect(
    (actions = inject(Actions), copies = inject(Copies), store = inject(Store)) => {
      let person = '';
      store.select(session.selectPerson).subscribe((me) => (person = me?.id ?? person));
      return actions.pipe(
        ofType(SessionEvents.signedOut, ShelfEvents.documentGone),
        concatMap((event) => ('id' in event ? copies.drop(person, event.id) : copies.dropAll(person))),
      );
    },
    { functional: true, dispatch: false },
  ),
  /** What was erased on the server goes from this device too. */
  heed: createEffect(
    (
      actions = inject(Actions),
      copies = inject(Copies),
      heeding = inject(Heeding),
      store = inject(Store),
    ) => {
      const me = store.selectSignal(session.selectPerson);
      return actions.pipe(
        ofType(ShelfEvents.loaded, ShelfEvents.documentArrived),
        concatMap(async (event) => {
          const person = me()?.id ?? '';
          const documents = 'documents' in event ? event.documents : [event.document];
          await copies.heed(person, documents);
          for (const { id, erased } of documents) if (erased > 0) await heeding.heed(person, id, erased);
        }),
        catchError((error: unknown, again) => {
          if (!isAway(error)) throw error;
          return again;
        }),
      );
    },
    { functional: true, dispatch: false },
  ),
  follow: createEffect(
    (actions = inject(Actions), channel = inject(LiveChannel)) =>
      actions.pipe(
        ofType(SessionEvents.signInDone),
        switchMap(() => channel.on('shelf')),
        map(({ document }) =>
          document === undefined
            ? ShelfEvents.opened()
            : ShelfEvents.documentChangedElsewhere({ id: document }),
        ),
      ),
    { functional: true },
  ),
  hangUp: createEffect(
    (actions = inject(Actions), channel = inject(LiveChannel)) =>
      actions.pipe(
        ofType(SessionEvents.signedOut, SessionEvents.sessionEnded),
        map(() => channel.close()),
      ),
    { functional: true, dispatch: false },
  ),
  refresh: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(ShelfEvents.documentChangedElsewhere),
        mergeMap(({ id }) =>
          api.document(id).pipe(
            map((document) => ShelfEvents.documentArrived({ document })),
            catchError((error: unknown) =>
              of(
                error instanceof HttpErrorResponse && error.status === 404
                  ? ShelfEvents.documentGone({ id })
                  : ShelfEvents.callFailed({ why: saidOf(error) }),
              ),
            ),
          ),
        ),
      ),
    { functional: true },
  ),
  change: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(ShelfEvents.documentChangeAsked),
        concatMap(({ id, patch }) =>
          asEvent(
            api.changeDocument(id, patch),
            (document) => ShelfEvents.documentArrived({ document }),
            ShelfEvents.callFailed,
          ),
        ),
      ),
    { functional: true },
  ),
  deletion: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(ShelfEvents.collectionDeletionAsked),
        concatMap(({ id }) =>
          asEvent(
            api.deleteCollection(id),
            () => ShelfEvents.collectionDeleted({ id }),
            ShelfEvents.callFailed,
          ),
        ),
      ),
    { functional: true },
  ),
  collection: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(ShelfEvents.collectionAsked),
        concatMap(({ id, name }) =>
          asEvent(
            id === null ? api.createCollection(name) : api.renameCollection(id, name),
            (collection) => ShelfEvents.collectionArrived({ collection }),
            ShelfEvents.callFailed,
          ),
        ),
      ),
    { functional: true },
  ),
};
