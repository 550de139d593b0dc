/** Fonts of the three typefaces, with the family that font tables name for each (ECMA-376 Part 1, 17.8.3.9; ODF 1.2, 20.268). */
export const FONTS = {
  serif: { name: 'Source Serif 4', family: 'roman' },
  sans: { name: 'Figtree', family: 'swiss' },
  mono: { name: 'IBM Plex Mono', family: 'modern' },
} as const;

/** How much smaller or larger than the text round it the sizes of text are. */
export const SIZE_RATIOS = { small: 0.8, large: 1.25, huge: 1.6 } as const;

/** The nearest of the sizes documents know, by how much larger a text is than that round it; null for about the same. */
export function sizeOfRatio(ratio: number): keyof typeof SIZE_RATIOS | null {
  if (!(ratio > 0)) return null;
  if (ratio < 0.9) return 'small';
  if (ratio < 1.15) return null;
  return ratio < 1.45 ? 'large' : 'huge';
}

/** Width in pixels of the text on an A4 page between margins of an inch. */
export const PAGE_WIDTH = 601;

/** The width at which an image without one of its own is shown in a file: its natural one, or that of the text. */
export function usualWidth(picture: { readonly width: number }): number {
  return Math.min(picture.width, PAGE_WIDTH);
}
