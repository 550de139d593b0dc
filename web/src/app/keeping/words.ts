import type { Certificate, ErasedDocument, HoldingPlace, KeepingRule } from '@oxbow/contract';

const EACH = {
  sitting: $localize`sitting`,
  day: $localize`day`,
  week: $localize`week`,
  month: $localize`month`,
} as const;

/** How a rule keeps versions, in a sentence. */
export function ruleSaid({
  keep,
  last = 0,
  days = 0,
  each = 'day',
  cut,
  numbers,
  checkOut,
}: KeepingRule): string {
  const kept =
    keep === 'everything'
      ? $localize`Every version is kept`
      : keep === 'last'
        ? $localize`The last ${last} versions are kept`
        : days === 0
          ? $localize`One version a ${EACH[each]} is kept`
          : $localize`All versions are kept for ${days === 1 ? $localize`a day` : $localize`${days} days`}, then one a ${EACH[each]}`;
  return [
    kept,
    cut === 'asked'
      ? $localize`versions are made only when somebody asks`
      : $localize`versions are made at pauses`,
    numbers === 'major' ? $localize`numbered 1, 2, 3` : $localize`numbered 1.1, 1.2, 2.0`,
    ...(checkOut ? [$localize`and it is checked out to be written in`] : []),
  ].join('; ');
}

const PLACES: Record<HoldingPlace, readonly [one: string, many: string]> = {
  comment: [$localize`a comment`, $localize`comments`],
  title: [$localize`a title`, $localize`titles`],
  landmark: [$localize`a landmark`, $localize`landmarks`],
  notice: [$localize`a notice`, $localize`notices`],
  file: [$localize`what came with a file`, $localize`places in what came with files`],
  name: [$localize`a name`, $localize`names`],
  message: [$localize`a message`, $localize`messages`],
};

/** Where else words stand, and how often. */
export function placesSaid(places: Certificate['places']): string {
  return places
    .map(({ place, times }) => (times === 1 ? PLACES[place][0] : `${times} ${PLACES[place][1]}`))
    .join(', ');
}

/** How much of a document it is. */
export function extentSaid({ letters, images, versions, numbers }: ErasedDocument): string {
  const what = [
    ...(letters > 0 || images === 0
      ? [letters === 1 ? $localize`1 letter` : $localize`${letters} letters`]
      : []),
    ...(images > 0 ? [images === 1 ? $localize`1 image` : $localize`${images} images`] : []),
  ].join(' and ');
  if (versions === 0) return $localize`${what}, in moments between versions only`;
  if (numbers.length === 1) return $localize`${what}, in version ${numbers[0]}`;
  const isFew = numbers.length > 0 && numbers.length <= 12;
  return $localize`${what}, in ${isFew ? $localize`versions ${numbers.join(', ')}` : $localize`${versions} versions`}`;
}
