import { isFormula, shownFormula } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';
import { viewOf } from './views';

/** The text of cells as it is told: formulas in A1 notation, by where a book has now what they refer to; cells parted by tabs each by itself. */
export function saysCells(text: string, now: Node): string {
  if (!text.includes('=')) return text;
  const view = viewOf(now);
  return text
    .split('\n')
    .map((line) =>
      line
        .split('\t')
        .map((cell) => (isFormula(cell) ? shown(cell) : cell))
        .join('\t'),
    )
    .join('\n');

  /** Of the sheets that a formula may stand in, the one that has most of what it names. */
  function shown(cell: string): string {
    const told = view.sheets.map(({ id }) => shownFormula(cell, view.places, id));
    const lost = (one: string): number => one.split('#REF!').length;
    return [...told].sort((one, other) => lost(one) - lost(other))[0] ?? cell;
  }
}
