import { HttpErrorResponse } from '@angular/common/http';
import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { writes } from '@oxbow/contract';
import type { DocumentSummary } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { LiveChannel } from '../live/channel';
import { Copies } from '../live/copies';
import { isAway } from '../session/remembered';
import { session } from '../session/session.store';
import { ShelfEvents, shelf } from '../documents/shelf.store';
import { LiveDocument } from './live-document';

/** What is known of the document on the desk as a whole: its title, who may write in it, who has it checked out. */
@Injectable()
export class AboutDocument {
  private readonly api = inject(Api);
  private readonly copies = inject(Copies);
  private readonly store = inject(Store);
  private readonly live = inject(LiveDocument);
  private readonly channel = inject(LiveChannel);
  private readonly router = inject(Router);
  private readonly destroyed = inject(DestroyRef);
  private readonly me = this.store.selectSignal(session.selectPerson);
  private readonly collections = this.store.selectSignal(shelf.selectCollections);
  private readonly known = signal<DocumentSummary | null>(null);
  private readonly failed = signal('');
  private readonly looked = signal(0);
  private id = '';

  readonly document = this.known.asReadonly();
  readonly trouble = this.failed.asReadonly();
  /** How often it was asked for; changes when there may be other drafts. */
  readonly times = this.looked.asReadonly();
  readonly collection = computed(
    () => this.collections().find(({ id }) => id === this.document()?.collection)?.name ?? $localize`Shelf`,
  );
  /** Whether one has it checked out oneself. */
  readonly checkedOut = computed(() => this.isMine(this.document()));
  /** Whether one may change the document: by one's role, and where check-out is asked for, by having it. */
  readonly mayWrite = computed(
    () => writes(this.live.start()?.role ?? 'owner') && (!this.document()?.checkOut || this.checkedOut()),
  );

  constructor() {
    if (this.collections().length === 0) this.store.dispatch(ShelfEvents.opened());
    this.channel
      .on('shelf')
      .pipe(takeUntilDestroyed())
      .subscribe(({ document }) => (document ?? this.id) === this.id && void this.ask());
    this.destroyed.onDestroy(() => this.left());
  }

  /** Learns of a document, and again whenever the connection comes up. */
  open(id: string): void {
    this.id = id;
    this.destroyed.onDestroy(this.channel.whenConnected(() => void this.ask()));
    if (!this.channel.connected()) void this.ask();
  }

  /** It was changed by oneself. */
  changed(document: DocumentSummary): void {
    this.known.set(document);
  }

  /** There may be other drafts than before. */
  again(): void {
    this.looked.update((count) => count + 1);
  }

  private async ask(): Promise<void> {
    try {
      const about = await firstValueFrom(this.api.document(this.id));
      this.known.set(about);
      await this.live.describe({
        title: about.title,
        ...(about.role === 'owner' ? { madeAt: Date.parse(about.createdAt) } : {}),
        checkedOut: this.isMine(about),
        summary: about,
      });
      this.failed.set('');
      this.again();
    } catch (error) {
      if (isAway(error)) return this.recall();
      if (error instanceof HttpErrorResponse && error.status === 404 && !this.live.start())
        await this.router.navigate(['/documents', this.id, 'no-access'], { skipLocationChange: true });
      else this.failed.set(saidOf(error));
    }
  }

  /** Without the server, what is known of the document is what was known when it was last open here. */
  private async recall(): Promise<void> {
    const copy = await this.copies.of(this.me()?.id ?? '', this.id);
    if (copy && !this.known()) this.known.set(copy.about);
    this.failed.set(
      copy || this.live.start()
        ? ''
        : $localize`The server cannot be reached, and this document is not on this device.`,
    );
  }

  private isMine(about: DocumentSummary | null): boolean {
    const holder = about?.checkOut?.by ?? null;
    return holder !== null && holder === this.me()?.id;
  }

  /** Leaving gives a document back that was checked out and not changed. */
  private left(): void {
    if (this.checkedOut() && this.live.waiting() === 0)
      this.api.checkIn(this.id, '', false).subscribe({
        error: () => this.store.dispatch(ShelfEvents.opened()),
      });
  }
}
