import type { DocumentSummary, EditsMessage } from '@oxbow/contract';

/**
 * How it stood with unsent work when it was last kept: on its way, with the server away, held back on purpose, checked out,
 * or set aside because the document does not take it any more.
 */
export type Standing = 'sending' | 'away' | 'held' | 'out' | 'ended';

/** What one open window of one person still has to send in one document. */
export interface Kept {
  readonly client: string;
  readonly person: string;
  readonly message: EditsMessage;
  readonly standing: Standing;
  /** How often something had been erased in the document by then; see `Joined`. */
  readonly erased?: number;
  /** What kind of document it is; absent for text that was kept before there were others. */
  readonly kind?: DocumentSummary['kind'];
  /** Title of the document. */
  readonly title: string;
  /** When it was last kept, milliseconds since the epoch. */
  readonly at: number;
}
