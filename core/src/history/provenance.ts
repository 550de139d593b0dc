import type { Node, Schema } from 'prosemirror-model';
import type { Edit } from './edit.js';
import type { FormChange } from './forms.js';
import { formChanges, formFromJSON, formToJSON } from './forms.js';
import type { Return } from './runs.js';
import { RunSequence } from './runs.js';

/** Where every token of a document came from and went to, and every change of form, up to its last edit. */
export interface Provenance {
  readonly runs: RunSequence;
  readonly forms: FormChange[];
}

/** The provenance of a document whose content was all born in `seq`. */
export function startProvenance(seq: number, doc: Node): Provenance {
  return { runs: RunSequence.starting(seq, doc.content.size), forms: [] };
}

/** A copy that can be appended to without touching the original. */
export function cloneProvenance(provenance: Provenance): Provenance {
  return { runs: provenance.runs.clone(), forms: provenance.forms.slice() };
}

/**
 * Appends an edit to the provenance of `doc` and answers the document after it.
 * Throws `RangeError` when a step does not apply, with the provenance left part-way: give it a clone when unsure.
 */
export function appendEdit(
  provenance: Provenance,
  doc: Node,
  edit: Pick<Edit, 'seq' | 'steps' | 'sources'>,
): Node {
  const returns = returnsOf(edit, provenance.runs);
  let current = doc;
  let inserted = 0;
  for (const step of edit.steps) {
    provenance.forms.push(...formChanges(edit.seq, step, current, provenance.runs));
    const result = step.apply(current);
    if (!result.doc) throw new RangeError(`A step does not apply: ${result.failed ?? 'unknown reason'}`);
    current = result.doc;
    const map = step.getMap();
    provenance.runs.append(edit.seq, [map], returns, inserted);
    map.forEach((_oldStart, _oldEnd, newStart, newEnd) => (inserted += newEnd - newStart));
  }
  if (edit.steps.length === 0) provenance.runs.append(edit.seq, []);
  return current;
}

/** How many tokens each step of an edit inserts. */
export function insertedLengths(steps: Edit['steps']): number[] {
  return steps.map((step) => {
    let length = 0;
    step.getMap().forEach((_oldStart, _oldEnd, newStart, newEnd) => (length += newEnd - newStart));
    return length;
  });
}

/** An edit's sources as stretches of what it inserts, led back to their root origins, sorted by place. */
function returnsOf(edit: Pick<Edit, 'steps' | 'sources'>, runs: RunSequence): Return[] {
  if (edit.sources.length === 0) return [];
  const before: number[] = [];
  let sum = 0;
  for (const length of insertedLengths(edit.steps)) {
    before.push(sum);
    sum += length;
  }
  const pieces = runs.pieces(edit.sources);
  return edit.sources
    .flatMap((source, i) =>
      (pieces[i] ?? []).map(({ offset, length, origin }) => ({
        at: (before[source.step] ?? 0) + source.at + offset - source.offset,
        seq: origin.seq,
        offset: origin.offset,
        length,
      })),
    )
    .sort((a, b) => a.at - b.at);
}

/** Provenance in the form it is stored in. */
export interface StoredProvenance {
  readonly runs: Int32Array;
  readonly forms: ReturnType<typeof formToJSON>[];
}

export function encodeProvenance({ runs, forms }: Provenance): StoredProvenance {
  return { runs: runs.encode(), forms: forms.map(formToJSON) };
}

export function decodeProvenance(schema: Schema, stored: StoredProvenance): Provenance {
  return {
    runs: RunSequence.decode(stored.runs),
    forms: stored.forms.map((form) => formFromJSON(schema, form)),
  };
}
