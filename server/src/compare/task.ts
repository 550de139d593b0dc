import { textSchema } from '@oxbow/core/content';
import { assemble, compare, gistOf, rowsOf, totalsOf } from '@oxbow/core/compare';
import type { Change, Comparison, Decision, Row, Totals } from '@oxbow/core/compare';
import { NO_IMAGES, comparisonPage } from '@oxbow/core/formats';
import { Node } from 'prosemirror-model';

/** What to take of each change; of those that are not named, `otherwise`. */
export interface Decisions {
  readonly takes: readonly (readonly [change: number, take: Decision])[];
  readonly otherwise: Decision;
}

/** Two documents as JSON texts. With `page`, the comparison is wanted as an HTML file; with `decisions`, what they make of it. */
export interface Task {
  readonly earlier: string;
  readonly later: string;
  readonly page?: {
    readonly title: string;
    readonly earlier: string;
    readonly later: string;
    readonly who: readonly string[];
  };
  readonly decisions?: Decisions;
}

/** A comparison as far as it crosses from one thread to another. */
export interface Compared {
  readonly changes: readonly Change[];
  readonly rows: readonly Row[];
  readonly totals: Totals;
  readonly gist: string;
  readonly page: string | null;
  /** The assembled document, as a JSON text. */
  readonly assembled: string | null;
}

/** Compares in a worker thread. */
export default function run({ earlier, later, page, decisions }: Task): Compared {
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
    assembled: decisions ? JSON.stringify(assembledOf(comparison, decisions).toJSON()) : null,
  };
}

function assembledOf(comparison: Comparison, { takes, otherwise }: Decisions): Node {
  const taken = new Map(takes);
  return assemble(comparison, (change) => taken.get(change) ?? otherwise);
}
