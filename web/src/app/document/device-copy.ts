import { Injectable, inject } from '@angular/core';
import type { DocumentSummary } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import type { Node } from 'prosemirror-model';
import { Subject } from 'rxjs';
import { Copies } from '../live/copies';
import { session } from '../session/session.store';

/** Milliseconds without a change before a document is kept on the device. */
const AFTER = 2500;

/** What is kept of a document: how it stands at an accepted edit, with nothing of one's own waiting, and what is known of it. */
export interface Settled {
  readonly document: string;
  readonly seq: number;
  readonly doc: Node;
  readonly about: DocumentSummary;
}

/** Keeps the document on the desk on this device as it was accepted, so that it opens without the server. */
@Injectable()
export class DeviceCopy {
  private readonly copies = inject(Copies);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** Why nothing is kept. */
  readonly trouble = new Subject<string>();

  /** Keeps it once nothing has changed for a while; `settled` gives it, or null where it is not to be kept. */
  soon(settled: () => Settled | null): void {
    this.rest();
    this.timer = setTimeout(() => this.keep(settled()), AFTER);
  }

  /** Keeps nothing for now. */
  rest(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
  }

  /** Lets go of what is kept. */
  async drop(document: string): Promise<void> {
    this.rest();
    await this.copies.drop(this.me()?.id ?? '', document);
  }

  private keep(settled: Settled | null): void {
    const person = this.me()?.id;
    if (!settled || !person) return;
    const { document, seq, doc, about } = settled;
    this.copies
      .keep({ person, document, seq, content: doc.toJSON(), about, at: Date.now() })
      .catch(() => this.trouble.next($localize`This browser does not let anything be kept on the device.`));
  }
}
