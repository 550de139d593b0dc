import { signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { firstValueFrom } from 'rxjs';
import { saidOf } from './api';

/** Calls that a form makes, one at a time: whether one is under way, and what was wrong with the last. */
export class Calling {
  private readonly running = signal(false);
  readonly busy = this.running.asReadonly();
  readonly wrong = signal('');

  /** Makes a call. Answers null when it failed; `wrong` says why. */
  async make<T>(call: Observable<T>): Promise<T | null> {
    this.running.set(true);
    this.wrong.set('');
    try {
      return await firstValueFrom(call);
    } catch (error) {
      this.wrong.set(saidOf(error));
      return null;
    } finally {
      this.running.set(false);
    }
  }
}
