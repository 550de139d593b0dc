import type { Node } from 'prosemirror-model';
import { canonicalText } from '../content/index.js';
import type { Picture } from './picture.js';

/** What reading a file gives. */
export interface Reading {
  /** The text, tracked changes all accepted. */
  readonly doc: Node;
  /** The text with tracked changes all rejected; null for a file without any. */
  readonly before: Node | null;
  /** Tracked changes in the order of the text. */
  readonly tracked: readonly Tracked[];
  readonly remarks: readonly Remark[];
  /** What could not be represented, and how often. */
  readonly leftOut: readonly LeftOut[];
  /** Images the text refers to. */
  readonly pictures: readonly Picture[];
  /** Whoever the file says wrote it, and its title; empty when it does not. */
  readonly author: string;
  readonly title: string;
}

/** A tracked change as a file says it. `at` is ISO 8601, or empty where the file does not say. */
export interface Tracked {
  readonly kind: 'insertion' | 'deletion' | 'movedFrom' | 'movedTo' | 'form';
  readonly author: string;
  readonly at: string;
  /** The text it is about; empty for a change of form of a paragraph, or a mark between paragraphs. */
  readonly text: string;
}

/** A comment that came with a file. */
export interface Remark {
  readonly author: string;
  readonly at: string;
  readonly text: string;
  /** The text it stands on, shortened; empty where it stands on a place. */
  readonly about: string;
}

export interface LeftOut {
  readonly what: string;
  readonly times: number;
}

/** Counts what a reader leaves out. */
export class LeftOutTally {
  private readonly counts = new Map<string, number>();

  add(what: string): void {
    this.counts.set(what, (this.counts.get(what) ?? 0) + 1);
  }

  list(): LeftOut[] {
    return [...this.counts].map(([what, times]) => ({ what, times }));
  }
}

/** A short text of a file as people see it: canonical, on one line, cut behind so many characters. */
export function shortened(text: string, most: number): string {
  const clean = canonicalText(text.slice(0, most + 1), false)
    .replace(/\p{Surrogate}/gu, '')
    .trim();
  return text.length > most ? `${clean.slice(0, most)}…` : clean;
}

/** A file of text alone, read. */
export function plainReading(
  doc: Node,
  pictures: readonly Picture[] = [],
  leftOut: readonly LeftOut[] = [],
): Reading {
  return { doc, before: null, tracked: [], remarks: [], leftOut, pictures, author: '', title: '' };
}
