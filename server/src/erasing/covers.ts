import type { HoldingPlace } from '@oxbow/contract';
import { Instances } from '@oxbow/core/erasing';
import type { InstanceRange } from '@oxbow/core/history';
import type { Stored } from '../store/models.js';

/** What has to be erased beside instances; nothing of it is left when an erasure is done. */
export interface Covers {
  readonly texts: readonly string[];
  readonly images: readonly string[];
  readonly byWords: readonly number[];
  /** Whether it was done before, in data that is no more: then the journal says what went. */
  readonly isAgain?: true;
}

/** Sets as they are stored. */
export function setsOf(
  rows: readonly Pick<Stored<'erasedIn'>, 'document' | 'ranges'>[],
): Map<number, Instances> {
  return new Map(
    rows.map(({ document, ranges }) => [document, Instances.of(JSON.parse(ranges) as InstanceRange[])]),
  );
}

/** How often each place is named. */
export function timesBy(
  words: readonly { readonly place: HoldingPlace; readonly isEcho?: true }[],
): { place: HoldingPlace; times: number }[] {
  const sums = new Map<HoldingPlace, number>();
  for (const { place, isEcho } of words) if (!isEcho) sums.set(place, (sums.get(place) ?? 0) + 1);
  return [...sums].map(([place, times]) => ({ place, times }));
}
