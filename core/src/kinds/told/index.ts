import type { Node } from 'prosemirror-model';
import type { Change, Row, Section } from '../../compare/index.js';
import { gistOf, sectionsOf } from '../../compare/index.js';
import { deckGist } from '../deck/gist.js';
import { asShown, slidesOf } from '../deck/index.js';
import type { KindName } from '../index.js';
import { kindOf } from '../index.js';
import { mergedLines } from '../lines.js';
import type { Line } from '../lines.js';
import { sheetGist } from '../sheet/gist.js';

export { toldTogether } from './together.js';
export type { ToldTogether } from './together.js';

type Gist = (earlier: Node, later: Node, changes: readonly Change[]) => string;

/** Kinds whose differences are told otherwise than by the list of their changes. */
const GISTS: Readonly<Partial<Record<KindName, Gist>>> = { sheet: sheetGist, deck: deckGist };

/** What is different between two documents that were compared, in a line. */
export function toldGist(earlier: Node, later: Node, changes: readonly Change[]): string {
  const gist = GISTS[kindOf(later).name];
  return gist && earlier.type.schema === later.type.schema ? gist(earlier, later, changes) : gistOf(changes);
}

/** Parts of a document that have a title, in the order in which they are read: sections of text, slides as they are shown; sheets have none. */
export function toldSections(doc: Node): Section[] {
  switch (kindOf(doc).name) {
    case 'text':
      return sectionsOf(doc);
    case 'sheet':
      return [];
    case 'deck':
      return slidesOf(doc).map(({ title, at, node }, i) => ({
        title: `${i + 1} ${title}`.trim(),
        from: at,
        to: at + node.nodeSize,
      }));
  }
}

/**
 * The rows of a comparison in the order in which they are read: of decks a row for each slide, as the later one shows them, those that are gone behind what they
 * stood behind.
 */
export function toldRows(earlier: Node, later: Node, rows: readonly Row[]): readonly Row[] {
  if (kindOf(later).name !== 'deck' || kindOf(earlier).name !== 'deck') return rows;
  const stretch = (line: Line | null): Row['later'] =>
    line ? { from: line.at, to: line.at + line.node.nodeSize } : { from: 0, to: 0 };
  return mergedLines(slidesOf(earlier), slidesOf(later)).map((slide) => ({
    earlier: stretch(slide.earlier),
    later: stretch(slide.later),
    paired: slide.earlier !== null && slide.later !== null,
  }));
}

/** A document as those see it to whom it is only shown, such as by a link: of a deck neither hidden slides nor notes. */
export function toldToReaders(doc: Node): Node {
  return kindOf(doc).name === 'deck' ? asShown(doc) : doc;
}
