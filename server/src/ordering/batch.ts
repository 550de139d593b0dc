import type { SourceRef } from '@oxbow/contract';
import type { Cause } from '@oxbow/core/history';
import type { Step } from 'prosemirror-transform';

/** An edit that somebody wants appended. Sources may still name places in moments or the same client's own edits. */
export interface Wanted {
  readonly counter: number;
  readonly steps: readonly Step[];
  readonly sources: readonly SourceRef[];
  readonly writtenAt: number;
  readonly cause: Cause;
  /** Acceptance time to write instead of the clock's; only the demo's makers set it. */
  readonly at?: number;
}

/** A batch of edits by one person from one client, based on edit `base`. */
export interface Batch {
  readonly author: number;
  readonly client: string;
  readonly base: number;
  readonly edits: readonly Wanted[];
  /**
   * Throws where whoever sends it may not write any more. Asked in the room's turn, right before each part is ordered: what was asked when
   * the batch came in may be long ago by then.
   */
  readonly authorize?: () => Promise<unknown>;
  /** How many position maps its steps may have to be carried over; as many as it takes when it is not said. */
  readonly mostMaps?: number;
}
