import type { Node } from 'prosemirror-model';

/** Where something stands in a document, in words, and as numbers that put it in the order in which it is read. */
export interface Where {
  readonly said: string;
  readonly order: readonly number[];
}

/** How something of one kind is told, of several versions of a document, the base's first. */
export interface Teller {
  /** Whether it is read in lines of text in which passages stand; else each passage is a line. */
  readonly inLines: boolean;
  /** Where the last of some nodes stands, given with those round it, in the version that has it. */
  readonly where: (nodes: readonly Node[], version: number) => Where;
  /** What stands there, in words; `exact` tells more, where those few say nothing or the same. `within` are the nodes round it. */
  readonly words: (
    nodes: readonly Node[],
    within: readonly Node[],
    version: number,
    exact: boolean,
  ) => string;
  /** Attributes of nodes that are told otherwise than by name and value: by node and attribute, for a value of the base and of others. */
  readonly forms: Readonly<
    Record<string, Readonly<Record<string, (value: unknown, isBase: boolean) => string>>>
  >;
}

/** How it is told that the place of something differs. */
export function moved(_: unknown, isBase: boolean): string {
  return isBase ? 'where it was' : 'moved';
}
