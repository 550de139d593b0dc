import { Directive, input, output } from '@angular/core';
import type { Node } from 'prosemirror-model';

/** Stretches of a document; several are cells of one table. */
export type Picked = readonly { readonly from: number; readonly to: number }[];

/** Whether two pickings are of the same stretches. */
export function samePicked(one: Picked, other: Picked): boolean {
  return (
    one.length === other.length &&
    one.every(({ from, to }, i) => from === other[i]?.from && to === other[i].to)
  );
}

/** A moment of the past that something is picked from to be carried forward, however it is drawn. */
@Directive()
export abstract class Picking {
  readonly document = input.required<string>();
  readonly doc = input.required<Node>();
  /** Stretches that are not in the document any more. */
  readonly gone = input.required<Picked>();
  readonly picked = output<Picked>();
  /** Something is being copied, or picked up to be dragged. */
  readonly taken = output<Picked>();
  /** Asks to carry what is picked to where it stood. */
  readonly sent = output();

  /** Picks a stretch and brings it into view. */
  abstract pick(from: number, to: number): void;

  /** Picks the whole that holds what is picked. */
  abstract widen(): void;

  /** The position at a height of the window; null where nothing is. */
  abstract positionAt(top: number): number | null;

  /** How high in the window a position stands; null where it is not drawn. */
  abstract heightOf(position: number): number | null;
}
