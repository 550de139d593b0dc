import type { Change, Decision, Row, Totals } from '@oxbow/core/compare';

/** A file from outside, to be read and compared with a document; or, with `content`, what stands as JSON already. */
export interface FileTask {
  readonly kind: 'file';
  readonly id: number;
  /** The document as ProseMirror JSON. */
  readonly earlier: unknown;
  readonly name: string;
  readonly text: string;
  readonly content?: unknown;
}

/** A comparison that is wanted as an HTML file. */
export interface PageTask {
  readonly kind: 'page';
  readonly id: number;
  readonly earlier: unknown;
  readonly later: unknown;
  readonly title: string;
  readonly ends: readonly [earlier: string, later: string];
  readonly who: readonly string[];
}

/** Two documents, and what is taken of each change between them; of those not named, the later side. */
export interface AssembleTask {
  readonly kind: 'assemble';
  readonly id: number;
  readonly earlier: unknown;
  readonly later: unknown;
  readonly takes: readonly (readonly [change: number, take: Decision])[];
}

export type Task = FileTask | PageTask | AssembleTask;

export interface FileCompared {
  readonly content: unknown;
  readonly words: number;
  readonly changes: readonly Change[];
  readonly rows: readonly Row[];
  readonly totals: Totals;
  readonly gist: string;
}

/** What the worker says of a task: how far it is, what came of it, or why nothing did. */
export type Report =
  | { readonly id: number; readonly progress: string }
  | { readonly id: number; readonly compared: FileCompared }
  | { readonly id: number; readonly page: string }
  | { readonly id: number; readonly assembled: unknown }
  | { readonly id: number; readonly trouble: string };
