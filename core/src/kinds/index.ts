import type { Node } from 'prosemirror-model';
import type { Kind } from './kind.js';
import { text } from './text/index.js';

export type { Kind } from './kind.js';

/** All kinds of document there are. */
export const KINDS = [text] as const;

/** What a kind is called. */
export type KindName = (typeof KINDS)[number]['name'];

/** The kind with a name. */
export function kindNamed(name: KindName): Kind<KindName> {
  return KINDS.find((kind) => kind.name === name) as Kind<KindName>;
}

/** The kind of a document. Throws `RangeError` for a document of none. */
export function kindOf(doc: Node): Kind<KindName> {
  const kind = KINDS.find(({ schema }) => schema === doc.type.schema);
  if (!kind) throw new RangeError('a document of no kind that is known');
  return kind;
}
