import type { Comparison } from './compare.js';
import type { Stretch } from './changes.js';
import { spans } from './union.js';

/** Top-level blocks of both documents that stand beside each other. Rows in order hold all of both, each block once. */
export interface Row {
  readonly earlier: Stretch;
  readonly later: Stretch;
  /** Whether the two are the same blocks in two forms; if not, one took the place of the other, or stands alone. */
  readonly paired: boolean;
}

/** The rows of a comparison, for reading the two documents side by side or as one. */
export function rowsOf({ union }: Comparison): Row[] {
  const rows: Row[] = [];
  let [a, b] = [0, 0];
  for (const kid of union.kids) {
    const [earlier, later] = spans(kid);
    const paired = kid.kind === 'keep' || kid.kind === 'pair' || kid.kind === 'seams';
    rows.push({ earlier: { from: a, to: a + earlier }, later: { from: b, to: b + later }, paired });
    [a, b] = [a + earlier, b + later];
  }
  return rows;
}
