import type { Certificate, ErasedDocument, HoldingPlace, KeepingRule } from '@oxbow/contract';

const EACH = { sitting: 'sitting', day: 'day', week: 'week', month: 'month' } as const;

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
      ? 'Every version is kept'
      : keep === 'last'
        ? `The last ${last} versions are kept`
        : days === 0
          ? `One version a ${EACH[each]} is kept`
          : `All versions are kept for ${days === 1 ? 'a day' : `${days} days`}, then one a ${EACH[each]}`;
  return [
    kept,
    cut === 'asked' ? 'versions are made only when somebody asks' : 'versions are made at pauses',
    numbers === 'major' ? 'numbered 1, 2, 3' : 'numbered 1.1, 1.2, 2.0',
    ...(checkOut ? ['and it is checked out to be written in'] : []),
  ].join('; ');
}

const PLACES: Record<HoldingPlace, readonly [one: string, many: string]> = {
  comment: ['a comment', 'comments'],
  title: ['a title', 'titles'],
  landmark: ['a landmark', 'landmarks'],
  notice: ['a notice', 'notices'],
  file: ['what came with a file', 'places in what came with files'],
  name: ['a name', 'names'],
  message: ['a message', 'messages'],
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
    ...(letters > 0 || images === 0 ? [letters === 1 ? '1 letter' : `${letters} letters`] : []),
    ...(images > 0 ? [images === 1 ? '1 image' : `${images} images`] : []),
  ].join(' and ');
  if (versions === 0) return `${what}, in moments between versions only`;
  if (numbers.length === 1) return `${what}, in version ${numbers[0]}`;
  const isFew = numbers.length > 0 && numbers.length <= 12;
  return `${what}, in ${isFew ? `versions ${numbers.join(', ')}` : `${versions} versions`}`;
}
