import { InjectionToken } from '@angular/core';
import type { Type } from '@angular/core';
import type { DocumentSummary } from '@oxbow/contract';
import type { Node } from 'prosemirror-model';
import type { EditorState } from 'prosemirror-state';

/** What a document is: text, sheets, slides. */
export type Kind = DocumentSummary['kind'];

/** Kinds of document that can be made, the usual one first. */
export const NEW_KINDS: readonly Kind[] = ['text', 'sheet', 'deck'];

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
  /** Whether it is in view: not while one reads the past instead, when its acts and keys rest. */
  readonly inView: boolean;
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

/** What tells of one place over time is given; it has an input of each name. */
export interface OverTimeInputs {
  readonly document: string;
  /** The place: a moment, and a position in it. */
  readonly seq: number;
  readonly position: number;
}

/** A stretch of a document that is marked where it is drawn. */
export interface DrawnMark {
  readonly from: number;
  readonly to: number;
  /** A class for it. */
  readonly name: string;
  /** The colour of whoever it is of, as CSS has it; empty for nobody's. */
  readonly who: string;
}

/** How much of a document is drawn: about so many lines, round the first mark or a share of the way down it. */
export interface DrawnPart {
  readonly lines: number;
  readonly depth?: number;
  /** The document whose images are shown; none where they are left out. */
  readonly document?: string;
}

/**
 * Draws a document as it stood, to be looked at. What stands for a node that can be picked says where that begins and ends in `data-from` and
 * `data-to`; whatever holds what is picked whole has the class `whole`.
 */
export type DrawDocument = (doc: Node, marks: readonly DrawnMark[], part: DrawnPart) => HTMLElement;

/** What the web app has for a kind of document. What is large is fetched when a document of that kind is opened. */
export interface KindOnScreen {
  /** What one document of the kind is called, and what it is for. */
  readonly label: string;
  readonly about: string;
  readonly icon: string;
  /** Whether its page is a sheet of paper that is scrolled, or fills the window and scrolls itself. */
  readonly paper: boolean;
  /** The paper it is printed on, as a rule of CSS; none for that of the printer. */
  readonly paperRule?: string;
  /** The page one writes on: a component with the inputs of `PageInputs`. */
  readonly page: () => Promise<Type<unknown>>;
  /** How two of it are read against each other, in all three readings: a component with the inputs of `ReadingInputs`; none for what reads as text does. */
  readonly reading?: () => Promise<Type<unknown>>;
  /** What one place of it held in the course of time, beside the forms it took: a component with the inputs of `OverTimeInputs`. */
  readonly overTime?: () => Promise<Type<unknown>>;
  /** How a piece of its text is told to people, as `now` shows it. */
  readonly says?: () => Promise<(text: string, now: Node) => string>;
  /** How it is drawn where nothing is written; none for what is drawn as a page of text. */
  readonly drawn?: () => Promise<DrawDocument>;
}

/** What there is for each kind of document; what has nothing of its own is drawn and read as text is. */
export const KINDS_ON_SCREEN = new InjectionToken<Readonly<Partial<Record<Kind, KindOnScreen>>>>(
  'kinds on screen',
  { providedIn: 'root', factory: () => ({}) },
);
