import { Injectable, inject } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { KeepingApi } from '../api/keeping-api';
import type { Kept } from './kept';
import { Outbox } from './outbox';

/** Sees to it that drafts on this device bring nothing of text that was erased since they were written. */
@Injectable({ providedIn: 'root' })
export class Heeding {
  private readonly keeping = inject(KeepingApi);
  private readonly outbox = inject(Outbox);

  /** A draft with what it brings of text that was erased since erased in it too; `erased` is how often something was. */
  async heeded(kept: Kept, erased: number): Promise<Kept> {
    const { message } = kept;
    if ((kept.erased ?? 0) === erased) return kept;
    const sourced = message.edits.some(({ sources }) => sources.length > 0);
    const edits = sourced
      ? (await firstValueFrom(this.keeping.heed(message.document, message.edits))).edits
      : message.edits;
    return { ...kept, erased, message: { ...message, edits } };
  }

  /** Lets nothing that was erased in a document stay in what a person left behind of it. */
  async heed(person: string, document: string, erased: number): Promise<void> {
    for (const kept of await this.outbox.stranded(person, document)) {
      const heeded = await this.heeded(kept, erased);
      if (heeded !== kept) await this.outbox.keep(heeded);
    }
  }
}
