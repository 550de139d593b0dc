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

/** How often something stands in a kind of place; in places of a document, or where that is 0 of none. */
export interface TimesIn {
  readonly document: number;
  readonly place: HoldingPlace;
  readonly times: number;
}

/** How often each place of each document is named. */
export function timesByDocument(
  words: readonly { readonly document: number; readonly place: HoldingPlace; readonly isEcho?: true }[],
): TimesIn[] {
  const documents = new Set(words.map(({ document }) => document));
  return [...documents].flatMap((document) => {
    const own = words.filter((one) => one.document === document && !one.isEcho);
    return [...new Set(own.map(({ place }) => place))].map((place) => ({
      document,
      place,
      times: own.filter((one) => one.place === place).length,
    }));
  });
}

/** The same summed over all documents. */
export function timesOf(places: readonly TimesIn[]): { place: HoldingPlace; times: number }[] {
  const sums = new Map<HoldingPlace, number>();
  for (const { place, times } of places) sums.set(place, (sums.get(place) ?? 0) + times);
  return [...sums].map(([place, times]) => ({ place, times }));
}
