import { Injectable, computed, inject, signal } from '@angular/core';
import type { FormGroup } from '@angular/forms';
import type { Sharing } from '@oxbow/contract';
import { finalize } from 'rxjs';
import type { Observable } from 'rxjs';
import { saidOf } from '../api/api';
import { refusedAt } from '../api/refusals';
import { SharingApi } from './sharing-api';
import type { Shared } from './sharing-api';

/** What the parts of the sharing room know together: what is shared, with whom, and what is being done about it. */
@Injectable()
export class SharingRoom {
  private readonly api = inject(SharingApi);

  readonly what = signal<Shared>({ kind: 'documents', id: '' });
  readonly isDocument = computed(() => this.what().kind === 'documents');
  /** Who has it; null until that is known. */
  readonly told = signal<Sharing | null>(null);
  /** Why that could not be fetched. */
  readonly trouble = signal('');
  /** What was done, in words. */
  readonly said = signal('');
  /** Why something was not done. */
  readonly refused = signal('');
  readonly busy = signal(false);

  open(what: Shared): void {
    this.what.set(what);
    this.told.set(null);
    this.load();
  }

  load(): void {
    this.trouble.set('');
    this.api.sharing(this.what()).subscribe({
      next: (told) => this.told.set(told),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  /** Calls for something to be done; what is wrong with a form is said at its fields. */
  doing<T>(call: Observable<T>, done: (value: T) => void, form?: FormGroup): void {
    this.said.set('');
    this.refused.set('');
    this.busy.set(true);
    call.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: done,
      error: (error: unknown) => this.refused.set(form ? refusedAt(form, error) : saidOf(error)),
    });
  }

  /** Says what was done, and fetches how it is now. */
  done(said: string): void {
    this.said.set(said);
    this.load();
  }
}
