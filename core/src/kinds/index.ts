import type { Work } from '../content/index.js';
import { readDocument } from '../content/index.js';
import type { Node, Schema } from 'prosemirror-model';
import type { Kind } from './kind.js';
import { deck } from './deck/index.js';
import { sheet } from './sheet/index.js';
import { text } from './text/index.js';

export type { Kind } from './kind.js';

/** All kinds of document there are. */
export const KINDS = [text, sheet, deck] as const;

/** What a kind is called. */
export type KindName = (typeof KINDS)[number]['name'];

/** The kind with a name. Throws `RangeError` for a name that is none's. */
export function kindNamed(name: string): Kind<KindName> {
  return one((kind) => kind.name === name);
}

/** The kind of a document. Throws `RangeError` for a document of none. */
export function kindOf(doc: Node): Kind<KindName> {
  return one(({ schema }) => schema === doc.type.schema);
}

/** What kind of document ProseMirror JSON is of. Throws `RangeError` for what is none. */
export function kindOfContent(content: unknown): KindName {
  const { type } = content as { type?: unknown };
  return one(({ schema }) => schema.topNodeType.name === type).name;
}

/** The document that ProseMirror JSON is of: its kind is told by the name of its outermost node. Throws `RangeError` for what is none. */
export function documentOf(content: unknown): Node {
  return schemaOf(content).nodeFromJSON(content);
}

/** The same of JSON as text, at leisure: rests after each block. Throws `RangeError`. */
export function* readAnyDocument(json: string): Work<Node> {
  return yield* readDocument(schemaOf(JSON.parse(json)), json);
}

function schemaOf(content: unknown): Schema {
  return kindNamed(kindOfContent(content)).schema;
}

function one(is: (kind: Kind<KindName>) => boolean): Kind<KindName> {
  const kind = KINDS.find(is);
  if (!kind) throw new RangeError('a document of no kind that is known');
  return kind;
}
