import type { Node } from 'prosemirror-model';
import { told } from './erased.js';
import { roleOf, traitsOf } from './traits.js';
import { finished } from './work.js';
import type { Work } from './work.js';
import { countWords } from './words.js';

/**
 * A document's plain text: one line per text block, a tab between cells of a row, an image as its alternative
 * text in brackets, what was erased as a bar. Stable: the same document always gives the same text.
 */
export function plainText(node: Node): string {
  if (node.isText) return told(node.text ?? '');
  if (node.isTextblock) return inlineText(node);
  const { plain } = traitsOf(node.type);
  if (node.isLeaf || plain) return plain?.(node) ?? '';
  const parts: string[] = [];
  node.forEach((child) => parts.push(plainText(child)));
  return parts.join(/^(row|record)$/.test(roleOf(node) ?? '') ? '\t' : '\n');
}

/** A text that is told to people: as it is, or, where it is longer than `most` UTF-16 units, its beginning, cut within no character. */
export function shortened(text: string, most: number): string {
  return text.length <= most ? text : `${text.slice(0, most).replace(/[\ud800-\udbff]$/, '')}…`;
}

/** Plain text of a text block's inline content. */
export function inlineText(block: Node): string {
  let text = '';
  block.forEach((child) => {
    text += child.isText ? told(child.text ?? '') : leafText(child);
  });
  return text;
}

/** Plain text that stands for a leaf, by its trait: a line for a break, the alternative text for an image. */
export function leafText(leaf: Node): string {
  return traitsOf(leaf.type).plain?.(leaf) ?? '';
}

/** Number of words in a document. */
export function wordCount(node: Node): number {
  return finished(wordsIn(node));
}

/** The same. Rests after each text block, beyond which no word goes on. */
export function* wordsIn(node: Node): Work<number> {
  if (node.isTextblock || node.isLeaf) return countWords(plainText(node));
  let sum = 0;
  for (const child of node.children) {
    sum += yield* wordsIn(child);
    yield;
  }
  return sum;
}

/** A node's children as a list. */
export function childrenOf(node: Node): Node[] {
  const out: Node[] = [];
  node.forEach((child) => out.push(child));
  return out;
}
