import { textSchema } from '@oxbow/core/content';
import { compare, gistOf, rowsOf, totalsOf } from '@oxbow/core/compare';
import type { Change, Row, Totals } from '@oxbow/core/compare';
import { NO_IMAGES, comparisonPage } from '@oxbow/core/formats';
import { Node } from 'prosemirror-model';

/** Two documents as JSON texts. With `page`, the comparison is wanted as an HTML file. */
export interface Task {
  readonly earlier: string;
  readonly later: string;
  readonly page?: {
    readonly title: string;
    readonly earlier: string;
    readonly later: string;
    readonly who: readonly string[];
  };
}

/** A comparison as far as it crosses from one thread to another. */
export interface Compared {
  readonly changes: readonly Change[];
  readonly rows: readonly Row[];
  readonly totals: Totals;
  readonly gist: string;
  readonly page: string | null;
}

/** Compares in a worker thread. */
export default function run({ earlier, later, page }: Task): Compared {
  const read = (text: string): Node => Node.fromJSON(textSchema, JSON.parse(text));
  const comparison = compare(read(earlier), read(later));
  return {
    changes: comparison.changes,
    rows: rowsOf(comparison),
    totals: totalsOf(comparison.changes),
    gist: gistOf(comparison.changes),
    page: page
      ? comparisonPage(comparison, { ...page, who: (change) => page.who[change] ?? '', images: NO_IMAGES })
      : null,
  };
}
