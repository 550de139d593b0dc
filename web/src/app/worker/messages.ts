import type { Change, Decision, Row, Totals } from '@oxbow/core/compare';
import type { Credited, Reading, RedlineFormat } from '@oxbow/core/formats';

/** A file from outside, to be read and compared with a document; or, with `content`, what stands as JSON already. */
export interface FileTask {
  readonly kind: 'file';
  readonly id: number;
  /** The document as ProseMirror JSON. */
  readonly earlier: unknown;
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly content?: unknown;
}

/** A file from outside that is only looked into. */
export interface ReadTask {
  readonly kind: 'read';
  readonly id: number;
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** What a file holds beside its text. */
export type FileAbout = Pick<Reading, 'author' | 'title' | 'tracked' | 'remarks' | 'leftOut'>;

/** A comparison that is wanted as a file. */
export interface RedlineTask {
  readonly kind: 'redline';
  readonly id: number;
  readonly format: RedlineFormat;
  readonly earlier: unknown;
  readonly later: unknown;
  readonly title: string;
  readonly author: string;
  /** When the later end was written, ISO 8601. */
  readonly at: string;
  readonly ends: readonly [earlier: string, later: string];
  readonly who: readonly string[];
  readonly credits: readonly (readonly Credited[])[];
  /** The images that are shown, as far as they are at hand. */
  readonly images: readonly Uint8Array[];
}

/** Two documents, and what is taken of each change between them; of those not named, the later side. */
export interface AssembleTask {
  readonly kind: 'assemble';
  readonly id: number;
  readonly earlier: unknown;
  readonly later: unknown;
  readonly takes: readonly (readonly [change: number, take: Decision])[];
}

export type Task = FileTask | ReadTask | RedlineTask | AssembleTask;

export interface FileCompared {
  readonly content: unknown;
  readonly words: number;
  readonly changes: readonly Change[];
  readonly rows: readonly Row[];
  readonly totals: Totals;
  readonly gist: string;
  /** What came with the file; null for what was no file. */
  readonly about: FileAbout | null;
}

/** What the worker says of a task: how far it is in per cent, null while a file is read, what came of it, or why nothing did. */
export type Report =
  | { readonly id: number; readonly progress: number | null }
  | { readonly id: number; readonly compared: FileCompared }
  | { readonly id: number; readonly about: FileAbout }
  | { readonly id: number; readonly redline: Uint8Array<ArrayBuffer> }
  | { readonly id: number; readonly assembled: unknown }
  | { readonly id: number; readonly trouble: string };
