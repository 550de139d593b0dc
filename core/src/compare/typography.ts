import { isPlain } from '../content/index.js';

/** Signs that stand for one another wherever type is set well, by what each is folded to. Common practice, no source. */
const FOLDS: readonly (readonly [RegExp, string])[] = [
  [/[“”„‟«»″]/g, '"'],
  [/[‘’‚‛‹›′]/g, "'"],
  [/-{2,3}|[‐‑‒–—―−]/g, '-'],
  [/…/g, '...'],
  [/[\s\u00a0\u2000-\u200a\u202f]+/g, ' '],
];
/** Whether none of them folds a unit: texts that differ here differ in more than typography. */
function isOwn(unit: number): boolean {
  return isPlain(unit) || (unit >= 0xc0 && unit <= 0x1fff) || unit >= 0x2c00;
}

function folded(text: string): string {
  return FOLDS.reduce((said, [signs, sign]) => said.replace(signs, sign), text);
}

/** Whether two texts differ, but only in the shape of quotes, dashes and dots, or in how wide a blank is. */
export function isTypography(earlier: string, later: string): boolean {
  if (earlier === '' || later === '' || earlier === later) return false;
  const [one, other] = [earlier.charCodeAt(0), later.charCodeAt(0)];
  if (one !== other && (isOwn(one) || isOwn(other))) return false;
  return folded(earlier) === folded(later);
}
