import { Injectable, effect, inject, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { session } from './session.store';

/** Which documents a person holds back in. */
interface Choice {
  /** Documents with a choice of their own. */
  readonly documents: Readonly<Record<string, boolean>>;
  /** Since when one holds back in documents one makes, milliseconds since the epoch; null for not at all. */
  readonly since: number | null;
}

const NONE: Choice = { documents: {}, since: null };

/** Where a person holds their writing back until they put it in; remembered on this device. For documents they make, their settings say it. */
@Injectable({ providedIn: 'root' })
export class Holding {
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private readonly changed = signal(0);

  constructor() {
    effect(() => {
      const wanted = this.me()?.preferences.holdBack;
      if (wanted !== undefined && wanted !== untracked(() => this.inNewOnes()))
        untracked(() => this.chooseForNewOnes(wanted));
    });
  }

  /** Whether one holds back in a document; `madeAt` says when one made it oneself. */
  in(document: string, madeAt?: number): boolean {
    const { documents, since } = this.choice();
    return documents[document] ?? (since !== null && madeAt !== undefined && madeAt >= since);
  }

  /** Whether one holds back in documents one makes from now on. */
  inNewOnes(): boolean {
    return this.choice().since !== null;
  }

  choose(document: string, hold: boolean): void {
    this.keep((choice) => ({ ...choice, documents: { ...choice.documents, [document]: hold } }));
  }

  chooseForNewOnes(hold: boolean): void {
    this.keep((choice) => ({ ...choice, since: hold ? Date.now() : null }));
  }

  private choice(): Choice {
    this.changed();
    return JSON.parse(localStorage.getItem(this.name()) ?? JSON.stringify(NONE)) as Choice;
  }

  private keep(change: (choice: Choice) => Choice): void {
    localStorage.setItem(this.name(), JSON.stringify(change(this.choice())));
    this.changed.update((count) => count + 1);
  }

  private name(): string {
    return `oxbow-holding:${this.me()?.id ?? ''}`;
  }
}
