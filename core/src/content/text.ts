import type { Node } from 'prosemirror-model';

/**
 * A document's plain text: one line per text block, a tab between cells of a row, an image as its alternative
 * text in brackets. Stable: the same document always gives the same text.
 */
export function plainText(node: Node): string {
  if (node.isText) return node.text ?? '';
  if (node.isTextblock) return inlineText(node);
  if (node.isLeaf) return leafText(node);
  const parts: string[] = [];
  node.forEach((child) => parts.push(plainText(child)));
  return parts.join(node.type.name === 'table_row' ? '\t' : '\n');
}

/** Plain text of a text block's inline content. */
export function inlineText(block: Node): string {
  let text = '';
  block.forEach((child) => {
    text += child.isText ? child.text : leafText(child);
  });
  return text;
}

/** Plain text that stands for a leaf: a line for a break, the alternative text for an image, a dash for a rule. */
export function leafText(leaf: Node): string {
  switch (leaf.type.name) {
    case 'hard_break':
      return '\n';
    case 'image':
      return `[${String(leaf.attrs['alt'])}]`;
    case 'rule':
      return '---';
    default:
      return '';
  }
}

const WORD = /[\p{L}\p{N}\p{M}]+(?:['’.,:/@\-_][\p{L}\p{N}\p{M}]+)*/gu;

/** Number of words in a text; "half-tide", "3.5" and "Ines's" are one word each. */
export function countWords(text: string): number {
  return text.match(WORD)?.length ?? 0;
}

/** Number of words in a document. */
export function wordCount(node: Node): number {
  return countWords(plainText(node));
}

const SEGMENT =
  /[\p{L}\p{N}\p{M}]+(?:['’.,:/@\-_][\p{L}\p{N}\p{M}]+)*|\s+|\p{RI}\p{RI}|\p{ExtPict}(?:\p{EMod}|\ufe0f|\u200d\p{ExtPict})*|[^]\p{M}*/gu;

/** Cuts a text into words, runs of white space and single signs; joined again they give the text. */
export function segments(text: string): string[] {
  return text.match(SEGMENT) ?? [];
}

/** Whether a segment counts as a word. */
export function isWord(segment: string): boolean {
  return /[\p{L}\p{N}]/u.test(segment);
}
