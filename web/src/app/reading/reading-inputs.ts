import type { ComparedChange, Person } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import type { Look, Mode } from './look';

/** What a kind's own reading of a comparison is given; it has an input of each name. */
export interface ReadingInputs {
  readonly look: Look;
  readonly mode: Mode;
  /** The changes that are marked. */
  readonly shown: readonly ComparedChange[];
  readonly people: ReadonlyMap<string, Person>;
  /** The change in hand. */
  readonly at: number | null;
  /** What was decided about each change, while one assembles; null otherwise. */
  readonly decisions: ReadonlyMap<number, Decision> | null;
  /** Takes another change in hand. */
  readonly changed: (change: number) => void;
  readonly decided: (decision: { change: number; take: Decision }) => void;
  /** A mark is under the pointer or has the focus. */
  readonly noted: (noted: { element: HTMLElement; change: number }) => void;
  /** Asks to see a change of the digest where it stands. */
  readonly opened: (change: number) => void;
}
