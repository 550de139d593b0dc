import { asTold } from '@oxbow/core/content';
import { readAnyDocument } from '@oxbow/core/kinds';
import { toldGist, toldTogether } from '@oxbow/core/kinds/told';
import {
  assemble,
  assembleThree,
  assembleTogether,
  bringTogether,
  compare,
  compareThree,
  proposersOf,
  rowsOf,
  returning,
  sharedBy,
  standsOf,
  totalsOf,
  turning,
  unclaimed,
  wordsByEdit,
} from '@oxbow/core/compare';
import type {
  Change,
  Comparison,
  Conflict,
  Credit,
  Decision,
  Line,
  Returned,
  Row,
  Settlement,
  Stands,
  Take,
  ToldPassage,
  Totals,
} from '@oxbow/core/compare';
import { asNextOf, asNextsOf, handsOf, writeRedline } from '@oxbow/core/formats';
import type { Credited, ReadFormat, RedlineFormat } from '@oxbow/core/formats';
import type { Inserted } from '@oxbow/core/history';
import { finished } from '@oxbow/core/content';
import { Node } from 'prosemirror-model';
import type { About } from '../formats/file-task.js';
import { giveWay } from '../threads/give-way.js';
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

/** Changes, and who made what of each. */
interface CreditedChanges {
  readonly changes: readonly Change[];
  readonly credits: readonly (readonly Credit[])[];
}

/** Documents cross between threads as JSON texts. */
export type Task =
  | { readonly kind: 'compare'; readonly earlier: string; readonly later: string }
  | { readonly kind: 'redline'; readonly earlier: string; readonly later: string; readonly redline: Redline }
  | {
      readonly kind: 'assemble';
      readonly earlier: string;
      readonly later: string;
      readonly decisions: Decisions;
    }
  | {
      readonly kind: 'words';
      readonly earlier: string;
      readonly later: string;
      /** A `CreditedChanges` as JSON: there may be thousands, and a text crosses in no time. */
      readonly credited: string;
    }
  | {
      readonly kind: 'become';
      /** The format of the file that the target was read from, if it was. */
      readonly read?: ReadFormat;
      readonly now: string;
      readonly target: string;
      /** The documents that the target may have content of, the likeliest first. */
      readonly from: readonly From[];
    }
  | {
      readonly kind: 'three';
      readonly base: string;
      readonly ours: string;
      readonly theirs: string;
      /** What is taken of each conflict by its number; theirs where it is not said. */
      readonly settled: readonly (readonly [conflict: number, take: Settlement])[];
    }
  | TogetherTask;

/** What several made of one document, as files that were read say, and what is taken of it. */
export interface TogetherTask {
  readonly kind: 'together';
  readonly base: string;
  readonly sides: readonly { readonly json: string; readonly format: ReadFormat }[];
  /** What is taken of passages; of others that have one form that one, of the rest what the base has. */
  readonly takes: readonly (readonly [passage: number, take: Take])[];
}

/** What several made of one document, brought together, and the document that came of it. */
export interface Gathered {
  readonly lines: readonly Line[];
  readonly passages: readonly ToldPassage[];
  readonly outcome: string;
  /** Who proposed each change of the outcome, by index. */
  readonly proposers: readonly (readonly number[])[];
  /** The stretches of each change of the outcome. */
  readonly stands: readonly Stands[];
}

/** A comparison as far as it crosses from one thread to another. */
export interface Compared {
  readonly changes: readonly Change[];
  readonly rows: readonly Row[];
  readonly totals: Totals;
  readonly gist: string;
}

/** A document that content of a target may have come from: the target itself, the present one, or another. */
export type From = 'target' | 'now' | { readonly json: string };

/** Inserted content, and where it stood in the `from`th of the documents it may have come from. */
export interface Sourced extends Returned {
  readonly from: number;
}

/** The steps that make one document another, and where what they insert came from; see `turning`. */
export interface Turned {
  readonly steps: readonly unknown[];
  readonly sources: readonly Sourced[];
}

/** What became of a three-way comparison: its conflicts, and the document with them settled. */
export interface Merged {
  readonly conflicts: readonly ToldConflict[];
  readonly merged: string;
}

/** A conflict, with its three texts; of one of form, the three forms in words. */
export interface ToldConflict {
  readonly id: number;
  readonly kind: Conflict['kind'];
  readonly base: string;
  readonly ours: string;
  readonly theirs: string;
  readonly about?: string;
  readonly where?: string;
}

/** Words that an edit brought and took away. */
export type EditWords = readonly [seq: number, words: { readonly added: number; readonly removed: number }];

/** What came of a task. */
export interface Done {
  readonly compared?: Compared;
  readonly words?: readonly EditWords[];
  readonly file?: Uint8Array;
  readonly assembled?: string;
  readonly turned?: Turned;
  readonly three?: Merged;
  readonly gathered?: Gathered;
}

giveWay();

/** Compares in a worker thread. */
export default function run(task: Task): Done {
  switch (task.kind) {
    case 'compare':
      return { compared: told(compare(read(task.earlier), read(task.later))) };
    case 'words': {
      const { credits, changes } = JSON.parse(task.credited) as CreditedChanges;
      return { words: [...wordsByEdit(credits, changes, read(task.earlier), read(task.later))] };
    }
    case 'redline':
      return { file: fileOf(compare(asTold(read(task.earlier)), asTold(read(task.later))), task.redline) };
    case 'assemble': {
      const comparison = compare(read(task.earlier), read(task.later));
      return { assembled: jsonOf(assembledOf(comparison, task.decisions)) };
    }
    case 'become':
      return { turned: turnedInto(task) };
    case 'three':
      return { three: mergedOf(task) };
    case 'together':
      return { gathered: gatheredOf(task) };
  }
}

function read(json: string): Node {
  return finished(readAnyDocument(json));
}

function jsonOf(doc: Node): string {
  return JSON.stringify(doc.toJSON());
}

function told(comparison: Comparison): Compared {
  return {
    changes: comparison.changes,
    rows: rowsOf(comparison),
    totals: totalsOf(comparison.changes),
    gist: toldGist(comparison.earlier, comparison.later, comparison.changes),
  };
}

function turnedInto({ now, target, from, read: format }: Extract<Task, { kind: 'become' }>): Turned {
  const [before, given] = [read(now), read(target)];
  const goal = format ? asNextOf(given, before, Math.random, format) : given;
  const { steps, inserted, shared } = turning(before, goal);
  const sources: Sourced[] = [];
  let left: readonly Inserted[] = inserted;
  for (const [index, doc] of from.entries()) {
    const returned = returning(
      left,
      doc === 'target' ? null : doc === 'now' ? shared : sharedBy(read(doc.json), goal),
    );
    sources.push(...returned.map((one) => ({ ...one, from: index })));
    left = unclaimed(left, returned);
  }
  return {
    steps: steps.map((step) => step.toJSON() as unknown),
    sources: sources.sort((a, b) => a.step - b.step || a.at - b.at),
  };
}

function mergedOf({ base, ours, theirs, settled }: Extract<Task, { kind: 'three' }>): Merged {
  const versions = [read(base), read(ours), read(theirs)] as const;
  const three = compareThree(...versions);
  const takes = new Map(settled);
  const { passages } = toldTogether(three.together, versions);
  return {
    conflicts: three.conflicts.map(({ id, passage }) => {
      const { kind, base, forms, about, where } = passages[passage] as ToldPassage;
      const of = (side: number): string => forms.find(({ by }) => by.includes(side))?.text ?? base;
      const beside = { ...(about ? { about } : {}), ...(where ? { where } : {}) };
      return { id, kind, base, ours: of(0), theirs: of(1), ...beside };
    }),
    merged: jsonOf(assembleThree(three, (id) => takes.get(id) ?? 'theirs')),
  };
}

function gatheredOf({ base, sides, takes }: TogetherTask): Gathered {
  const from = read(base);
  const to = asNextsOf(
    sides.map(({ json, format }) => ({ doc: read(json), format })),
    from,
    Math.random,
  );
  const together = bringTogether(from, to, { tidy: true });
  const { passages } = together;
  const chosen = new Map(takes);
  const outcome = assembleTogether(
    together,
    (id) => chosen.get(id) ?? (passages[id]?.forms.length === 1 ? 0 : 'base'),
  );
  const comparison = compare(asTold(from), asTold(outcome));
  return {
    ...toldTogether(together, [from, ...to]),
    outcome: jsonOf(outcome),
    proposers: proposersOf(comparison, to.map(asTold)),
    stands: comparison.changes.map(standsOf),
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
