import { fromHtml } from 'hast-util-from-html';
import { toHtml } from 'hast-util-to-html';
import type { Node } from 'prosemirror-model';
import { noteNumbers } from '../../kinds/text/index.js';
import type { Images } from '../format.js';
import { tidied } from './foreign.js';
import { toHast } from './hast.js';
import { withNumbers } from './notes.js';
import { fromHast, guarded } from './read.js';

/** A document as an HTML fragment. */
export function writeHtml(doc: Node, images: Images): string {
  return toHtml(withNumbers(toHast(doc, images), noteNumbers(doc)));
}

/** Reads an HTML file or fragment, cleaned by taking over only what the schema knows. */
export function readHtml(text: string, images: Images): Node {
  return guarded(() => fromHast(tidied(fromHtml(text, { fragment: true })), images));
}
