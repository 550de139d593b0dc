import type { Node, Schema } from 'prosemirror-model';

/**
 * A kind of document: what it holds and how it begins. All else (the log, provenance, comparing, erasing) goes by the traits of its
 * nodes. How to add one: docs/kinds.md.
 */
export interface Kind<Name extends string = string> {
  readonly name: Name;
  /** What a document of the kind may hold. It only ever grows. */
  readonly schema: Schema;
  /** Version of the schema that new edits are written with; stored with each edit. */
  readonly version: number;
  /** The blank beginning of every document of the kind. */
  readonly blank: () => Node;
}
