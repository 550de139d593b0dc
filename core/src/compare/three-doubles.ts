import type { TextFlow } from './flow.js';
import type { Lexicon } from './lexicon.js';
import { PieceKind } from './pieces.js';
import type { Range, Version } from './three-units.js';

/** What became of a stretch of text: the version that is taken of it, or null where that is asked. */
export interface Fate {
  readonly at: Readonly<Record<Version, Range>>;
  readonly is: Version | null;
}

/**
 * Whether a word would stand more often than either side can have meant, whatever is settled: as when one side moved a sentence in
 * a paragraph and the other wrote in it.
 */
export function doubles(
  flows: Readonly<Record<Version, TextFlow>>,
  fates: readonly Fate[],
  lexicon: Lexicon,
): boolean {
  const counted = (numbers: Iterable<number>): Map<number, number> => {
    const counts = new Map<number, number>();
    for (const number of numbers)
      if (lexicon.kind(number) === PieceKind.Word) counts.set(number, (counts.get(number) ?? 0) + 1);
    return counts;
  };
  const [base, ours, theirs] = [flows.base, flows.ours, flows.theirs].map(({ numbers }) =>
    counted(numbers),
  ) as [Map<number, number>, Map<number, number>, Map<number, number>];
  return (['base', 'ours', 'theirs'] as const).some((settlement) => {
    const taken = fates.flatMap(({ at, is }) => [
      ...flows[is ?? settlement].numbers.subarray(...at[is ?? settlement]),
    ]);
    for (const [word, count] of counted(taken)) {
      const was = base.get(word) ?? 0;
      const more = (side: ReadonlyMap<number, number>): number => Math.max(0, (side.get(word) ?? 0) - was);
      if (count > was + more(ours) + more(theirs)) return true;
    }
    return false;
  });
}
