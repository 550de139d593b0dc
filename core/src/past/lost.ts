import type { Makers, Tape } from './tape.js';
import { originsOf } from './origins.js';
import { wordsBegunIn } from './contributors.js';

/** What some edits took out of what one person had written. */
export interface Loss {
  readonly writer: string;
  readonly words: number;
  /** The edits that took it out. */
  readonly seqs: readonly number[];
}

/** Whose words some edits took out that are not back anywhere, most first. Linear. */
export function lossesBy(tape: Tape, makers: Makers, seqs: ReadonlySet<number>): Loss[] {
  const origins = originsOf(tape);
  const losses = new Map<string, { words: number; seqs: Set<number> }>();
  for (let atom = 0; atom < tape.size; atom++) {
    const died = tape.died(atom);
    if (!seqs.has(died) || !tape.isText(atom)) continue;
    const gone = origins.without(atom, (other) => tape.died(other) === 0);
    const words = wordsBegunIn(tape, atom, died - 1, gone);
    if (words === 0) continue;
    const { author } = makers(tape.origin(atom));
    const loss = losses.get(author) ?? { words: 0, seqs: new Set() };
    loss.words += words;
    loss.seqs.add(died);
    losses.set(author, loss);
  }
  return [...losses]
    .map(([writer, { words, seqs: by }]) => ({ writer, words, seqs: [...by].sort((a, b) => a - b) }))
    .sort((a, b) => b.words - a.words);
}
