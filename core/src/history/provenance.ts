import type { Node, Schema } from 'prosemirror-model';
import type { Work } from '../content/index.js';
import type { Edit, Source } from './edit.js';
import { applySteps } from './edit.js';
import type { FormChange } from './forms.js';
import { formChanges, formFromJSON, formToJSON } from './forms.js';
import type { Return } from './runs.js';
import { RunSequence } from './runs.js';

/** Where every token of a document came from and went to, and every change of form, up to its last edit. */
export interface Provenance {
  readonly runs: RunSequence;
  readonly forms: FormChange[];
  /** Who wrote what came from other documents: the origin of it is edit -1 for the first of these, -2 for the next. */
  readonly hands: string[];
}

/** Whoever wrote what has a seq below 0 as its origin; undefined for an edit of the document's own. */
export function handOf({ hands }: Pick<Provenance, 'hands'>, origin: number): string | undefined {
  return origin < 0 ? hands[-origin - 1] : undefined;
}

/** The provenance of a document whose content was all born in `seq`. */
export function startProvenance(seq: number, doc: Node): Provenance {
  return { runs: RunSequence.starting(seq, doc.content.size), forms: [], hands: [] };
}

/** A copy that can be appended to without touching the original. */
export function cloneProvenance({ runs, forms, hands }: Provenance): Provenance {
  return { runs: runs.clone(), forms: forms.slice(), hands: hands.slice() };
}

/**
 * Appends an edit to the provenance of `doc` and answers the document after it; `docs` are those after each step, where they
 * are known already. Throws `RangeError` when a step does not apply, with the provenance left part-way: give it a clone when unsure.
 */
export function appendEdit(
  provenance: Provenance,
  doc: Node,
  edit: Pick<Edit, 'seq' | 'steps' | 'sources'>,
  docs: readonly Node[] = [],
): Node {
  const returns = returnsOf(edit, provenance);
  let current = doc;
  let inserted = 0;
  for (const [i, step] of edit.steps.entries()) {
    provenance.forms.push(...formChanges(edit.seq, step, current, provenance.runs));
    current = docs[i] ?? applySteps(current, [step]);
    const map = step.getMap();
    provenance.runs.append(edit.seq, [map], returns, inserted);
    map.forEach((_oldStart, _oldEnd, newStart, newEnd) => (inserted += newEnd - newStart));
  }
  if (edit.steps.length === 0) provenance.runs.append(edit.seq, []);
  return current;
}

/** The provenance as it was right after an edit, as appending the edits up to it gave it. */
export function provenanceAt({ runs, forms, hands }: Provenance, moment: number): Provenance {
  const before = runs.upTo(moment);
  let known = 0;
  for (const { origin } of before.all()) known = Math.max(known, -origin.seq);
  return { runs: before, forms: forms.filter(({ seq }) => seq <= moment), hands: hands.slice(0, known) };
}

/** How many tokens each step of an edit inserts. */
export function insertedLengths(steps: Edit['steps']): number[] {
  return steps.map((step) => {
    let length = 0;
    step.getMap().forEach((_oldStart, _oldEnd, newStart, newEnd) => (length += newEnd - newStart));
    return length;
  });
}

/** The runs of a document after an edit, without a look at the document itself. Rests now and then. */
export function* runsAfter(
  runs: RunSequence,
  edit: Pick<Edit, 'seq' | 'steps' | 'sources'>,
): Work<RunSequence> {
  const after = runs.clone();
  yield;
  const returns = returnsOf(edit, { runs, hands: [] });
  yield;
  const maps = edit.steps.map((step) => step.getMap());
  yield* after.appending(edit.seq, maps, returns);
  return after;
}

/** An edit's sources as stretches of what it inserts, led back to their root origins, sorted by place. */
function returnsOf(
  edit: Pick<Edit, 'steps' | 'sources'>,
  { runs, hands }: Pick<Provenance, 'runs' | 'hands'>,
): Return[] {
  if (edit.sources.length === 0) return [];
  const before: number[] = [];
  let sum = 0;
  for (const length of insertedLengths(edit.steps)) {
    before.push(sum);
    sum += length;
  }
  const place = ({ step, at }: Source): number => (before[step] ?? 0) + at;
  const elsewhere = edit.sources.flatMap((source): Return[] => {
    if (!source.of) return [];
    hands.push(source.of.writer);
    return [{ at: place(source), seq: -hands.length, offset: 0, length: source.length, named: null }];
  });
  const own = edit.sources.filter(({ of }) => !of);
  const pieces = runs.pieces(own);
  const here = own.flatMap((source, i) =>
    (pieces[i] ?? []).map(({ seq, offset, length, origin }): Return => ({
      at: place(source) + offset - source.offset,
      seq: origin.seq,
      offset: origin.offset,
      length,
      named: offset === source.offset ? { seq, offset } : null,
    })),
  );
  return [...here, ...elsewhere].sort((a, b) => a.at - b.at);
}

/** Provenance in the form it is stored in. */
export interface StoredProvenance {
  readonly runs: Int32Array;
  readonly forms: ReturnType<typeof formToJSON>[];
  readonly hands: readonly string[];
}

export function encodeProvenance({ runs, forms, hands }: Provenance): StoredProvenance {
  return { runs: runs.encode(), forms: forms.map(formToJSON), hands };
}

export function decodeProvenance(schema: Schema, stored: StoredProvenance): Provenance {
  return {
    runs: RunSequence.decode(stored.runs),
    forms: stored.forms.map((form) => formFromJSON(schema, form)),
    hands: [...stored.hands],
  };
}
