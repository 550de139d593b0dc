/**
 * Colours of people, told apart by colour-blind readers too.
 * Source: M. Okabe and K. Ito, "Color Universal Design" (2008); values from memory.
 */
const COLOURS = ['#0072b2', '#d55e00', '#009e73', '#cc79a7', '#e69f00', '#56b4e9'];

/** What those colours are called, in their order. */
export const COLOUR_NAMES = [
  $localize`Blue`,
  $localize`Vermilion`,
  $localize`Green`,
  $localize`Purple`,
  $localize`Orange`,
  $localize`Sky blue`,
] as const;

/** What is nobody's: soft ink. */
const NEUTRAL = '#6b7b7c';

/** The colour of the person with this index; of one below 0, which is nobody's, a neutral one. */
export function colourOf(index: number): string {
  return COLOURS[index % COLOURS.length] ?? NEUTRAL;
}
