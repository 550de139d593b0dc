import type { Node } from 'prosemirror-model';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Hand } from '../writing.js';
import type { Place } from './layout.js';
import type { Paper } from './paper.js';
import type { Track } from './runs.js';
import { trackAttributes } from './runs.js';

const ALIGNS: Readonly<Record<string, string>> = { center: 'center', end: 'right', justify: 'both' };

/** Properties of a paragraph for where it stands, in the order of the schema (ECMA-376 Part 1, A.1, CT_PPrBase). */
export function placeProperties({ style, level, left }: Place, number: number | null, node: Node): Element[] {
  const align = ALIGNS[String(node.attrs['align'])];
  return [
    style ? el('w:pStyle', { 'w:val': style }) : null,
    number === null
      ? null
      : el('w:numPr', {}, [el('w:ilvl', { 'w:val': level }), el('w:numId', { 'w:val': number })]),
    left === null ? null : el('w:ind', { 'w:left': left }),
    align ? el('w:jc', { 'w:val': align }) : null,
  ].filter((property) => property !== null);
}

/** All properties of a paragraph: those it has, how its end is tracked, and those it had before. */
export function paragraphProperties(
  now: readonly Element[],
  mark: Track | null,
  before: { readonly properties: readonly Element[]; readonly by: Hand } | null,
  paper: Paper,
): Element | null {
  const content = [
    ...now,
    mark ? el('w:rPr', {}, [el(`w:${mark.kind}`, trackAttributes(paper, mark))]) : null,
    before
      ? el('w:pPrChange', trackAttributes(paper, before.by), [el('w:pPr', {}, before.properties)])
      : null,
  ].filter((property) => property !== null);
  return content.length > 0 ? el('w:pPr', {}, content) : null;
}
