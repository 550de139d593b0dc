import type { Root } from 'hast';
import type { Node } from 'prosemirror-model';
import { blankDocument, textSchema as schema } from '../../kinds/text/index.js';
import { FormatError } from '../format.js';
import type { Images } from '../format.js';
import { HtmlBlockReader } from './blocks.js';

/**
 * Reads an HTML syntax tree into a document. Only what the schema knows is taken over, by name, so nothing that could
 * run or load gets in; unknown elements give their text.
 */
export function fromHast(root: Root, images: Images): Node {
  const blocks = new HtmlBlockReader(images).blocks(root.children, [], 0);
  const doc = blocks.length > 0 ? schema.node('doc', null, blocks) : blankDocument();
  doc.check();
  return doc;
}

/** Runs a reader and turns a stack that ran out, the mark of absurd nesting, into an answer. */
export function guarded<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof RangeError) throw new FormatError('This file is nested too deeply to be read.');
    throw error;
  }
}
