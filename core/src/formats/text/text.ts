import type { Node } from 'prosemirror-model';
import { canonicalText, plainText } from '../../content/index.js';
import { blankDocument, textSchema as schema } from '../../kinds/text/index.js';

/** A document as plain text, one line a block. */
export function writeText(doc: Node): string {
  return `${plainText(doc)}\n`;
}

/** Reads plain text: a paragraph a line, blank lines between them left out, a form feed is a page break. */
export function readText(text: string): Node {
  const blocks = text
    .replace(/^\ufeff/, '')
    .replace(/\r\n?/g, '\n')
    .split(/\n|(\f)/)
    .flatMap((line = '') => {
      if (line === '\f') return [schema.node('page_break')];
      const content = canonicalText(line, false)
        .replace(/\p{Surrogate}/gu, '\ufffd')
        .trim();
      return content ? [schema.node('paragraph', null, [schema.text(content)])] : [];
    });
  return blocks.length > 0 ? schema.node('doc', null, blocks) : blankDocument();
}
