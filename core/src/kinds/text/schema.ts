import { Schema } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { marks } from './marks.js';
import { nodes } from './nodes.js';

/** Names of the node types of the text kind. */
export type TextNodes = keyof typeof nodes;
/** Names of the marks of the text kind. */
export type TextMarks = keyof typeof marks;

/** The schema of text documents. */
export const textSchema = new Schema<TextNodes, TextMarks>({ nodes, marks });

/**
 * Version of the schema that new edits are written with; stored with each edit. 2 knows footnotes, the set-up of the page, and where an
 * image stands.
 */
export const SCHEMA_VERSION = 2;

/** The blank beginning of every text document: one empty paragraph. */
export function blankDocument(): Node {
  return textSchema.node('doc', null, [textSchema.node('paragraph')]);
}
