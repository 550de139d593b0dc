/** Signs that stand for one another wherever type is set well, by what each is folded to. Common practice, no source. */
const FOLDS: readonly (readonly [RegExp, string])[] = [
  [/[“”„‟«»″]/g, '"'],
  [/[‘’‚‛‹›′]/g, "'"],
  [/-{2,3}|[‐‑‒–—―−]/g, '-'],
  [/…/g, '...'],
  [/[\s\u00a0\u2000-\u200a\u202f]+/g, ' '],
];
/** What none of them folds: texts that differ here differ in more than typography. */
const PLAIN = /[a-z0-9\u00c0-\u1fff\u2c00-\uffff]/i;

function folded(text: string): string {
  return FOLDS.reduce((said, [signs, sign]) => said.replace(signs, sign), text);
}

/** Whether two texts differ, but only in the shape of quotes, dashes and dots, or in how wide a blank is. */
export function isTypography(earlier: string, later: string): boolean {
  if (earlier === '' || later === '' || earlier === later) return false;
  const [one, other] = [earlier.charAt(0), later.charAt(0)];
  if (one !== other && (PLAIN.test(one) || PLAIN.test(other))) return false;
  return folded(earlier) === folded(later);
}
