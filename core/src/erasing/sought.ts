import type { Work } from '../content/index.js';
import type { Instance } from '../history/index.js';
import { windowsAt } from '../past/index.js';
import type { Tape } from '../past/index.js';
import type { Sought } from './numbers.js';
import type { Ends } from './reach.js';

/** What was found: where each first and last instance of it is, and its texts, each once. */
export interface FoundEver {
  readonly passages: readonly Ends[];
  readonly texts: ReadonlySet<string>;
}

/**
 * Everything that ever stood in a history and reads like what is sought, at any moment, however it came about. Looks at the text
 * round each instance when it came and when something beside it went. Rests now and then.
 */
export function* everStood(tape: Tape, sought: Sought): Work<FoundEver> {
  const passages = new Map<string, Ends>();
  const texts = new Set<string>();
  const instance = ({ atom, inside }: { atom: number; inside: number }): Instance => ({
    seq: tape.born(atom),
    offset: tape.offset(atom) + inside,
  });
  for (let atom = 0; atom < tape.size; atom++) {
    for (const seq of new Set([tape.born(atom), tape.died(atom)])) {
      if (seq === 0) continue;
      for (const window of windowsAt(tape, atom, seq, sought.words)) {
        for (const { from, to } of sought.find(window.text)) {
          texts.add(window.text.slice(from, to));
          const [first, last] = [window.unitAt(from), window.unitAt(to - 1)].map(instance);
          passages.set(JSON.stringify([first, last]), { first, last } as Ends);
        }
      }
    }
    yield;
  }
  return { passages: [...passages.values()], texts };
}
