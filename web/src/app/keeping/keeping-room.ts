import { Injectable, computed, inject, signal } from '@angular/core';
import type { Certificate, Discard, DocumentSummary, KeptBy, Thinning } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { KeepingApi } from '../api/keeping-api';
import type { Ruled } from '../api/keeping-api';
import { shelf } from '../documents/shelf.store';

/** What the keeping room is of. */
export interface Kept {
  readonly kind: 'documents' | 'collections';
  readonly id: string;
}

/** What is known of how a document or a collection is kept, and the calls that change it, one at a time. */
@Injectable()
export class KeepingRoom {
  private readonly api = inject(KeepingApi);
  private readonly documents = inject(Api);
  private readonly collections = inject(Store).selectSignal(shelf.selectCollections);
  readonly what = signal<Kept>({ kind: 'documents', id: '' });
  readonly document = signal<DocumentSummary | null>(null);
  readonly rule = signal<KeptBy | null>(null);
  readonly discards = signal<readonly Discard[]>([]);
  readonly thinnings = signal<readonly Thinning[]>([]);
  readonly erasures = signal<readonly Certificate[]>([]);
  /** Why it cannot be shown. */
  readonly trouble = signal('');
  readonly busy = signal(false);
  /** What was done, and why something was not. */
  readonly said = signal('');
  readonly refused = signal('');
  readonly isDocument = computed(() => this.what().kind === 'documents');
  readonly owns = computed(() => this.document()?.role === 'owner');
  readonly name = computed(
    () => this.document()?.title ?? this.collections().find(({ id }) => id === this.what().id)?.name ?? '',
  );
  readonly ruled = computed((): Ruled => {
    const { kind, id } = this.what();
    return kind === 'documents' ? { document: id } : { collection: id };
  });

  async open(what: Kept): Promise<void> {
    this.what.set(what);
    await this.load();
  }

  async load(): Promise<void> {
    this.trouble.set('');
    try {
      this.rule.set(await firstValueFrom(this.api.rule(this.ruled())));
      if (this.isDocument()) await this.loadDocument(this.what().id);
    } catch (error) {
      this.trouble.set(saidOf(error));
    }
  }

  private async loadDocument(id: string): Promise<void> {
    const document = await firstValueFrom(this.documents.document(id));
    this.document.set(document);
    if (document.history === 'none') return;
    const [thinnings, erasures] = await Promise.all([
      firstValueFrom(this.api.thinnings(id)),
      firstValueFrom(this.api.erasures(id)),
    ]);
    this.thinnings.set(thinnings);
    this.erasures.set(erasures);
    if (document.role === 'owner') this.discards.set(await firstValueFrom(this.api.discards(id)));
  }

  /** Makes a call, says what was done, and reads all anew. Answers null when it failed; `refused` says why. */
  async doing<T>(call: Observable<T>, said = ''): Promise<T | null> {
    if (this.busy()) return null;
    this.busy.set(true);
    this.said.set('');
    this.refused.set('');
    try {
      const done = await firstValueFrom(call);
      await this.load();
      this.said.set(said);
      return done;
    } catch (error) {
      this.refused.set(saidOf(error));
      return null;
    } finally {
      this.busy.set(false);
    }
  }
}
