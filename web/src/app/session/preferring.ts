import { Injectable, inject } from '@angular/core';
import type { Me, Preferences } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { EMPTY, tap } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api } from '../api/api';
import { SessionEvents, session } from './session.store';

/** Changes how one wants things for oneself, wherever that is asked. */
@Injectable({ providedIn: 'root' })
export class Preferring {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly me = this.store.selectSignal(session.selectPerson);

  /** Keeps a change; what is not said stays as it was. */
  change(change: Partial<Preferences>): Observable<Me> {
    const me = this.me();
    if (!me) return EMPTY;
    return this.api
      .prefer({ ...me.preferences, ...change })
      .pipe(tap((person) => this.store.dispatch(SessionEvents.meChanged({ person }))));
  }
}
