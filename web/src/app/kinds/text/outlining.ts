import type { ComparedChange } from '@oxbow/contract';
import { countWords, inlineText, wordCount } from '@oxbow/core/content';
import type { Node } from 'prosemirror-model';

/** A section of a document: a heading, or what stands before the first, and what follows up to the next heading. */
export interface Section {
  readonly title: string;
  /** Level of its heading, 0 for what stands before the first. */
  readonly level: number;
  /** From where to where it reaches. */
  readonly from: number;
  readonly to: number;
  /** Words in it, those of sections below it left out. */
  readonly words: number;
}

const counted = new WeakMap<Node, number>();

/** Words in a top-level block; blocks are remembered, so that counting after each letter costs one block. */
function wordsOf(block: Node): number {
  const words = counted.get(block) ?? wordCount(block);
  counted.set(block, words);
  return words;
}

/** The sections of a document, in order. */
export function sectionsOf(doc: Node): Section[] {
  const out: { -readonly [K in keyof Section]: Section[K] }[] = [];
  doc.forEach((block, offset) => {
    const last = out.at(-1);
    const words = wordsOf(block);
    if (block.type.name === 'heading' || !last) {
      const isHeading = block.type.name === 'heading';
      out.push({
        title: isHeading ? inlineText(block).trim() : '',
        level: isHeading ? Number(block.attrs['level']) : 0,
        from: offset,
        to: offset + block.nodeSize,
        words,
      });
    } else {
      last.words += words;
      last.to = offset + block.nodeSize;
    }
  });
  return out;
}

/** Words of a document. */
export function wordsIn(doc: Node): number {
  return doc.children.reduce((sum, block) => sum + wordsOf(block), 0);
}

/** Words in a stretch of a document. */
export function wordsBetween(doc: Node, from: number, to: number): number {
  return countWords(doc.textBetween(from, to, '\n', ' '));
}

/** How many changes stand in a section, and the words that came and went with them. */
export interface Changed {
  readonly changes: number;
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/** What changed in each section, by changes of a comparison whose later side is the document. */
export function changedIn(sections: readonly Section[], changes: readonly ComparedChange[]): Changed[] {
  return sections.map(({ from, to }, i) => {
    const isLast = i === sections.length - 1;
    const own = changes.filter(({ place }) => place.later.from >= from && (isLast || place.later.from < to));
    return {
      changes: own.length,
      wordsIn: own.reduce((sum, { wordsAdded }) => sum + wordsAdded, 0),
      wordsOut: own.reduce((sum, { wordsRemoved }) => sum + wordsRemoved, 0),
    };
  });
}
