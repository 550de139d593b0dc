import type { Random } from '@oxbow/core/testing';

const THINGS = [
  'The wheel',
  'The sluice gate',
  'The pool behind the dam',
  'The race',
  'The lower floor',
  'The stone nut',
  'The bridge over the creek',
  'The old tide table',
  'The reed hut',
  'The path along the sea wall',
  'The grain hoist',
  'The eel trap',
  'The iron pin',
  'The north bank',
  'The landing stage',
];
const DOES = [
  'was rebuilt in elm and oak',
  'holds back four hours of water',
  'can be seen from the footpath',
  'was cut by hand',
  'has been listed since the survey',
  'is opened an hour after high water',
  'still carries the marks of the first builders',
  'was found under a metre of silt',
  'needs two people to move',
  'is closed when the wind is above force six',
  'was given by the family of the last miller',
  'dries out on the lowest tides',
  'turns for five hours on each ebb',
  'is oiled every second week',
];
const WHEN = [
  'in spring',
  'after the autumn gales',
  'twice a day',
  'on the first Sunday of the month',
  'before the visitors come',
  'when the pool is full',
  'at the equinox',
  'since the repair',
  'for as long as anyone remembers',
  'between the two tides',
];
const ALSO = [
  'and the volunteers look after it',
  'which is why the guide stops here',
  'so please keep to the boards',
  'and children may try it',
  'though nobody is sure when',
  'and there is a bench beside it',
  'which the photographs show well',
  'and it has never failed',
  'so boots are a good idea',
  'and the sound carries across the marsh',
];
const WHOLE = [
  'Twice a day the pool behind the dam fills with the rising tide, and twice a day it is let out through the wheel.',
  'Meet at the sluice bridge an hour before low water, in boots.',
  'The path is under water on spring tides and the guide will turn you back rather than let you wade.',
  'It weighs about four tonnes.',
  'The stones could grind three sacks of barley in one ebb.',
  'Bring something warm: the reed hut has benches and a stove, but the wind comes straight off the water.',
  'Sea lavender flowers in July and turns the upper marsh a colour that no photograph gets right.',
  'Redshank nest within a stone’s throw of the path, so dogs stay on a lead until the end of August.',
  'The last miller worked here until 1938 and is said to have slept by the tides all his life.',
  'A tide mill works to the moon’s clock and not to ours.',
];

/** One sentence about the mill or the marsh. */
export function sentence(random: Random): string {
  if (random.chance(0.2)) return random.pick(WHOLE);
  const also = random.chance(0.5) ? `, ${random.pick(ALSO)}` : '';
  return `${random.pick(THINGS)} ${random.pick(DOES)} ${random.pick(WHEN)}${also}.`;
}

const SWAPS: Record<string, readonly string[]> = {
  two: ['three', 'two strong'],
  four: ['five', 'about four'],
  old: ['first', 'oldest'],
  found: ['uncovered', 'dug out'],
  seen: ['made out', 'seen clearly'],
  cut: ['carved', 'cut and fitted'],
  turns: ['works', 'runs'],
  closed: ['shut', 'closed off'],
  given: ['lent', 'left to us'],
  sound: ['noise', 'hum'],
  boots: ['stout shoes', 'rubber boots'],
  guide: ['leader', 'warden'],
  bench: ['seat', 'stone bench'],
  hour: ['hour or so', 'full hour'],
  spring: ['April', 'early spring'],
};

/** Another word for one in a text: where it stands and what to put there; null when none of its words has another. */
export function anotherWord(
  random: Random,
  text: string,
): { at: number; length: number; word: string } | null {
  const found = [...text.matchAll(/[a-z]+/g)].filter(([word]) => word in SWAPS);
  if (found.length === 0) return null;
  const match = random.pick(found);
  return { at: match.index, length: match[0].length, word: random.pick(SWAPS[match[0]] ?? ['']) };
}
