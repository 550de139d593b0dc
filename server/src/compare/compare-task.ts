import { textSchema } from '@oxbow/core/content';
import { assemble, compare, gistOf, rowsOf, totalsOf } from '@oxbow/core/compare';
import type { Change, Comparison, Decision, Row, Totals } from '@oxbow/core/compare';
import { handsOf, writeRedline } from '@oxbow/core/formats';
import type { Credited, RedlineFormat } from '@oxbow/core/formats';
import { Node } from 'prosemirror-model';
import type { About } from '../formats/file-task.js';
import { optionsOf } from '../formats/file-task.js';

/** What to take of each change; of those that are not named, `otherwise`. */
export interface Decisions {
  readonly takes: readonly (readonly [change: number, take: Decision])[];
  readonly otherwise: Decision;
}

/** What a comparison as a file says beside its changes. */
export interface Redline extends About {
  readonly format: RedlineFormat;
  readonly ends: readonly [earlier: string, later: string];
  /** Who made each change, in words. */
  readonly who: readonly string[];
  readonly credits: readonly (readonly Credited[])[];
}

/** Two documents as JSON texts. With `redline`, the comparison is wanted as a file; with `decisions`, what they make of it. */
export interface Task {
  readonly earlier: string;
  readonly later: string;
  readonly redline?: Redline;
  readonly decisions?: Decisions;
}

/** A comparison as far as it crosses from one thread to another. */
export interface Compared {
  readonly changes: readonly Change[];
  readonly rows: readonly Row[];
  readonly totals: Totals;
  readonly gist: string;
  readonly file: Uint8Array | null;
  /** The assembled document, as a JSON text. */
  readonly assembled: string | null;
}

/** Compares in a worker thread. */
export default function run({ earlier, later, redline, decisions }: Task): Compared {
  const read = (text: string): Node => Node.fromJSON(textSchema, JSON.parse(text));
  const comparison = compare(read(earlier), read(later));
  return {
    changes: comparison.changes,
    rows: rowsOf(comparison),
    totals: totalsOf(comparison.changes),
    gist: gistOf(comparison.changes),
    file: redline ? fileOf(comparison, redline) : null,
    assembled: decisions ? JSON.stringify(assembledOf(comparison, decisions).toJSON()) : null,
  };
}

function fileOf(comparison: Comparison, { format, ends, who, credits, ...about }: Redline): Uint8Array {
  const options = { ...optionsOf(about), ends, who: (change: number) => who[change] ?? '' };
  return writeRedline(format, comparison, handsOf(credits), options);
}

function assembledOf(comparison: Comparison, { takes, otherwise }: Decisions): Node {
  const taken = new Map(takes);
  return assemble(comparison, (change) => taken.get(change) ?? otherwise);
}
