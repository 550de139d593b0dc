import type { Tape } from './tape.js';

/** A place of the document in three forms, blocks on lines of their own. */
export interface ThreeTexts {
  readonly before: string;
  readonly now: string;
  readonly after: string;
}

/**
 * What stands between two positions of the present document, whole blocks of it: before the first of some edits, now, and as
 * it would be without them, what they brought left out and what they took out put back. Linear in the tape.
 */
export function textsWithout(tape: Tape, undone: ReadonlySet<number>, from: number, to: number): ThreeTexts {
  const first = Math.min(...undone);
  const [left, right] = [edge(tape, from, -1), edge(tape, to, 1)];
  const text = (stands: (atom: number) => boolean): string => {
    let said = '';
    for (let atom = left; atom <= right; atom++)
      if (stands(atom)) said += tape.isText(atom) ? tape.text(atom) : '\n';
    return said.replace(/\n+/g, '\n').trim();
  };
  return {
    before: text((atom) => tape.aliveAt(atom, first - 1)),
    now: text((atom) => tape.aliveAt(atom, tape.now)),
    after: text(
      (atom) => !undone.has(tape.born(atom)) && (tape.died(atom) === 0 || undone.has(tape.died(atom))),
    ),
  };
}

/** The boundary of the block that a position stands in, in a direction; the end of the tape where there is none. */
function edge(tape: Tape, position: number, direction: 1 | -1): number {
  // What stood before all that is there now was at the start too.
  if (position === 0 && direction === -1) return 0;
  let atom = Math.min(tape.at(position, tape.now).atom, tape.size - 1);
  while (atom >= 0 && (tape.isText(atom) || !tape.aliveAt(atom, tape.now))) {
    const next = tape.neighbour(atom, direction, tape.now);
    if (next < 0) return direction === 1 ? tape.size - 1 : 0;
    atom = next;
  }
  return Math.max(0, atom);
}
