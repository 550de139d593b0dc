import { InjectionToken } from '@angular/core';
import type { Type } from '@angular/core';
import type { DocumentSummary, NewKind } from '@oxbow/contract';
import type { EditorState } from 'prosemirror-state';

/** What a document is: text, sheets, slides. */
export type Kind = DocumentSummary['kind'];

/** Kinds of document that can be made, the usual one first. */
export const NEW_KINDS: readonly NewKind[] = ['text', 'sheet'];

/** Where a writer stands on a page, as positions of the document. */
export interface Standpoint {
  readonly anchor: number;
  readonly head: number;
}

/** What the page of a kind is given; it has an input of each name. */
export interface PageInputs {
  readonly id: string;
  /** The document as it was when it was opened here. */
  readonly start: EditorState;
  readonly writable: boolean;
  /** Where one stood when this document was last open here. */
  readonly selection: Standpoint | null;
  /** The edit that changes are told since, and the last one; null where there is nothing to compare. */
  readonly since: number | null;
  readonly head: number;
  /** Is told where one stands. */
  readonly selected: (standpoint: Standpoint) => void;
  /** Leads to the life of what stands at a position. */
  readonly toLife: (position: number) => void;
}

/** What the web app has for a kind of document. What is large is fetched when a document of that kind is opened. */
export interface KindOnScreen {
  /** What one document of the kind is called, and what it is for. */
  readonly label: string;
  readonly about: string;
  readonly icon: string;
  /** Whether its page is a sheet of paper that is scrolled, or fills the window and scrolls itself. */
  readonly paper: boolean;
  /** The page one writes on: a component with the inputs of `PageInputs`. */
  readonly page: () => Promise<Type<unknown>>;
}

/** What there is for each kind of document. */
export const KINDS_ON_SCREEN = new InjectionToken<Readonly<Partial<Record<Kind, KindOnScreen>>>>(
  'kinds on screen',
);
