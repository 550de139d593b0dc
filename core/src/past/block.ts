import type { Tape } from './tape.js';

/** A text block at a moment: the atoms its text was made of, in order, and the stretch of the tape it lay in. */
export interface Block {
  readonly moment: number;
  readonly atoms: readonly number[];
  readonly text: string;
  /** The boundaries round it, -1 and the size of the tape where there are none. */
  readonly left: number;
  readonly right: number;
}

/** The text block that an atom stood in at a moment at which it was alive; null for a boundary. */
export function blockAt(tape: Tape, atom: number, moment: number): Block | null {
  if (!tape.isText(atom)) return null;
  const before: number[] = [];
  let left = tape.neighbour(atom, -1, moment);
  for (; left >= 0 && tape.isText(left); left = tape.neighbour(left, -1, moment)) before.push(left);
  const atoms = [...before.reverse(), atom];
  let right = tape.neighbour(atom, 1, moment);
  for (; right >= 0 && tape.isText(right); right = tape.neighbour(right, 1, moment)) atoms.push(right);
  if (right < 0) right = tape.size;
  return { moment, atoms, left, right, text: atoms.map((one) => tape.text(one)).join('') };
}

/** A stretch of the tape at a moment. */
interface Stretch {
  readonly left: number;
  readonly right: number;
  readonly moment: number;
}

/** The first edit after a moment that touched a stretch of the tape, or null. */
export function nextEvent(tape: Tape, { left, right, moment }: Stretch): number | null {
  let next = Infinity;
  for (let atom = Math.max(0, left); atom <= Math.min(right, tape.size - 1); atom++) {
    for (const seq of [tape.born(atom), tape.died(atom)]) if (seq > moment && seq < next) next = seq;
  }
  return next === Infinity ? null : next;
}

/** The last edit up to a moment that touched a stretch of the tape; 0 where there was none since the beginning. */
export function lastEvent(tape: Tape, { left, right, moment }: Stretch): number {
  let last = 0;
  for (let atom = Math.max(0, left); atom <= Math.min(right, tape.size - 1); atom++) {
    for (const seq of [tape.born(atom), tape.died(atom)]) if (seq <= moment && seq > last) last = seq;
  }
  return last;
}
