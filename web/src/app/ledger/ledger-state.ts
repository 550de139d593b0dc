import { Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Ledger, Person } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { debounceTime, firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { session } from '../session/session.store';
import type { DrawnLedger, LedgerFilter } from './ledger';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';

/** Quiet after which the ledger is read again, and how long to wait for writing that is on its way. Milliseconds. */
const QUIET = 2000;
const SOON = 500;

/** The ledger of the page on the desk: whether it is shown, what of it, and what is drawn. */
@Injectable()
export class DeskLedger {
  private readonly api = inject(Api);
  private readonly live = inject(LiveDocument);
  private readonly words = inject(Words);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  private readonly on = signal(false);
  private readonly known = signal<Ledger | null>(null);
  private id = '';

  readonly shown = this.on.asReadonly();
  readonly filter = signal<LedgerFilter>({ person: '', days: 0 });
  /** What is drawn on the page; null for nothing. */
  readonly drawn = computed<DrawnLedger | null>(() => {
    const ledger = this.on() ? this.known() : null;
    return ledger && { entries: ledger.entries, filter: this.filter(), people: this.people() };
  });
  /** Everybody who wrote some of the page. */
  readonly writers = computed<Person[]>(() => {
    const ids = new Set(this.known()?.entries.flatMap(({ by, writer }) => [by, writer]) ?? []);
    return [...ids].flatMap((id) => this.people().get(id) ?? []);
  });

  constructor() {
    this.live.edits
      .pipe(debounceTime(QUIET), takeUntilDestroyed())
      .subscribe(() => this.on() && void this.read());
  }

  toggle(document: string): void {
    this.id = document;
    this.on.update((on) => !on);
    if (this.on()) void this.read();
  }

  hide(): void {
    this.on.set(false);
  }

  /** Reads the ledger; it is drawn only on the very text it is of. */
  private async read(): Promise<void> {
    try {
      const ledger = await firstValueFrom(this.api.ledger(this.id));
      if (this.live.settled() === ledger.seq) this.known.set(ledger);
      else setTimeout(() => this.on() && void this.read(), SOON);
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }
}
