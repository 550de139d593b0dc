import type { TextFlow } from '../flow.js';
import type { Lexicon } from '../lexicon.js';
import { PieceKind } from '../pieces.js';
import type { Range } from './units.js';

/** What may become of a stretch of text. */
export interface Fate {
  /** Where each version has it, the base's first. */
  readonly ranges: readonly Range[];
  /** What was made of it, by which sides. */
  readonly forms: readonly { readonly by: readonly number[] }[];
}

/**
 * Whether a word would stand more often than the sides can have meant, whichever of them all that is asked is settled for: as when
 * one moved a sentence in a paragraph and another wrote in it. What only one form was made of is taken.
 */
export function doubles(flows: readonly TextFlow[], fates: readonly Fate[], lexicon: Lexicon): boolean {
  const counted = (numbers: Iterable<number>): Map<number, number> => {
    const counts = new Map<number, number>();
    for (const number of numbers)
      if (lexicon.kind(number) === PieceKind.Word) counts.set(number, (counts.get(number) ?? 0) + 1);
    return counts;
  };
  const [base, ...sides] = flows.map(({ numbers }) => counted(numbers)) as [
    Map<number, number>,
    ...Map<number, number>[],
  ];
  return flows.some((_, settled) => {
    const taken = fates.flatMap(({ ranges, forms: [form, ...others] }) => {
      const version = form && others.length === 0 ? (form.by[0] ?? 0) + 1 : settled;
      return [...(flows[version]?.numbers.subarray(...(ranges[version] ?? [0, 0])) ?? [])];
    });
    for (const [word, count] of counted(taken)) {
      const was = base.get(word) ?? 0;
      const more = sides.reduce((sum, side) => sum + Math.max(0, (side.get(word) ?? 0) - was), 0);
      if (count > was + more) return true;
    }
    return false;
  });
}
