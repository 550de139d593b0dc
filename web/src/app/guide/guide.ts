import { Injectable, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { shelf } from '../documents/shelf.store';
import { Preferring } from '../session/preferring';
import { session } from '../session/session.store';
import { QUESTIONS, tellingOf } from './questions';

/** Shows round: question by question, each where it is answered. Offered once by itself, and whenever it is asked for. */
@Injectable({ providedIn: 'root' })
export class Guide {
  private readonly router = inject(Router);
  private readonly preferring = inject(Preferring);
  private readonly store = inject(Store);
  private readonly me = this.store.selectSignal(session.selectPerson);
  private readonly documents = this.store.selectSignal(shelf.selectDocuments);
  private readonly step = signal<number | null>(null);

  /** Which question is being answered, from 0; null when one is not shown round. */
  readonly at = this.step.asReadonly();
  readonly question = computed(() => QUESTIONS[this.step() ?? -1] ?? null);
  /** Whether somebody is here for the first time, and there is something to show. */
  readonly offered = computed(
    () => this.me()?.preferences.guided !== true && this.documents().length > 0 && this.step() === null,
  );

  /** Goes to a question, and to where it is answered; behind the last one, it is over. */
  go(to: number): void {
    const question = QUESTIONS[to];
    if (!question) return this.stop();
    this.step.set(to);
    const document = tellingOf(this.documents());
    if (!document) return;
    const { commands, queryParams } = question.place(document);
    void this.router.navigate([...commands], queryParams ? { queryParams } : {});
  }

  stop(): void {
    this.step.set(null);
    this.known();
  }

  /** One has seen it, and is not offered it again. That it could not be kept does no harm: it is offered once more. */
  known(): void {
    if (this.me()?.preferences.guided !== true)
      this.preferring.change({ guided: true }).subscribe({ error: () => undefined });
  }
}
