import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';

/**
 * Why an edit was made. Everything but writing refers to what it acted on, so that the history can say so.
 * `title` and `collection` edits have no steps: they are events of the document's life.
 */
export type Cause =
  | { readonly kind: 'writing' }
  | { readonly kind: 'undo'; readonly of: readonly number[] }
  | { readonly kind: 'redo'; readonly of: readonly number[] }
  | {
      readonly kind: 'takeBack';
      /** The edits that were taken back whole. */
      readonly of: readonly number[];
      /** The moments between which the one change was that was taken back. */
      readonly change?: { readonly earlier: number; readonly later: number };
    }
  | { readonly kind: 'carry'; readonly moment: number }
  | { readonly kind: 'restore'; readonly moment: number; readonly number?: number }
  | {
      readonly kind: 'filing';
      readonly file: string;
      readonly format: string;
      /** Who filed it, where that is not whoever wrote it. */
      readonly by?: string;
    }
  | { readonly kind: 'copy'; readonly document: string; readonly title: string; readonly moment: number }
  | { readonly kind: 'merge'; readonly document: string; readonly title: string; readonly moment: number }
  | {
      readonly kind: 'assembly';
      /** Which document the later moment, and which the earlier one is of. */
      readonly document: string;
      readonly other: string;
      /** Title of a document it was assembled from, where that is another one. */
      readonly title: string;
      readonly earlier: number;
      readonly later: number;
    }
  | {
      /** What was erased, or went by a rule. Has no steps: it tells that earlier edits were changed where they stand. */
      readonly kind: 'erasure' | 'thinning';
      readonly id: string;
      readonly letters: number;
      /** First and last of the edits that were changed, stretch by stretch. */
      readonly of: readonly (readonly [first: number, last: number])[];
      /** The last link of the chain over those edits as they stand now, without salts. */
      readonly digest: string;
    }
  | { readonly kind: 'title'; readonly before: string; readonly after: string }
  | { readonly kind: 'collection'; readonly before: string | null; readonly after: string | null };

/** A token of what edit `seq` inserted, the one at `offset`. */
export interface Instance {
  readonly seq: number;
  readonly offset: number;
}

/** A stretch of instances: `length` tokens of what edit `seq` inserted, from `offset` on. */
export interface InstanceRange extends Instance {
  readonly length: number;
}

/** Another document that content came from, and who wrote it there: of a source, seq and offset tell where it begins there. */
export interface Elsewhere {
  readonly document: string;
  readonly writer: string;
}

/**
 * Content that came back: the tokens `at` .. `at + length` of what step `step` inserts are those of an earlier instance, of
 * this document or of another one.
 */
export interface Source extends InstanceRange {
  readonly step: number;
  readonly at: number;
  readonly of?: Elsewhere;
}

/** Content that came back from positions of an earlier moment, as a writer can say it; the authority finds the instances. */
export interface MomentSource {
  readonly step: number;
  readonly at: number;
  readonly length: number;
  readonly moment: number;
  readonly position: number;
  /** The other document that it is a moment of. */
  readonly document?: string;
}

/** An accepted edit: one batch of steps by one person at one time. Positions are those of the document before it. */
export interface Edit {
  readonly seq: number;
  readonly author: string;
  /** Server clock at acceptance, milliseconds since the epoch; never decreasing within a document. */
  readonly acceptedAt: number;
  /** What the writer's own clock said, clamped; shown as claimed. */
  readonly writtenAt: number;
  readonly client: string;
  readonly counter: number;
  readonly schema: number;
  readonly steps: readonly Step[];
  readonly sources: readonly Source[];
  readonly cause: Cause;
}

/** Applies an edit's steps. Throws `RangeError` when one does not fit, which for a stored log means it is damaged. */
export function applySteps(doc: Node, steps: readonly Step[]): Node {
  let current = doc;
  for (const step of steps) {
    const result = step.apply(current);
    if (!result.doc) throw new RangeError(`A step does not apply: ${result.failed ?? 'unknown reason'}`);
    current = result.doc;
  }
  return current;
}
