import type { Value } from '@oxbow/core/calculate';
import { Fault, formatTyped, shownValue, valueOf } from '@oxbow/core/calculate';
import { FILLER, told } from '@oxbow/core/content';
import { isFormula } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';

/** A cell as it is drawn. */
export interface DrawnCell {
  readonly text: string;
  /** At which side its text stands: where it was put, or numbers at the end, faults and yes or no in the middle. */
  readonly align: 'start' | 'center' | 'end';
  readonly bold: boolean;
  readonly fill: string;
  readonly fault: boolean;
  /** Whether some of what stood in it was erased: that is bars in its text. */
  readonly erased: boolean;
}

const EMPTY: DrawnCell = { text: '', align: 'start', bold: false, fill: '', fault: false, erased: false };

/** How a cell is drawn; `value` is what a formula comes to, not known where it is undefined. */
export function drawnCell(cell: Node | undefined, value: Value | undefined): DrawnCell {
  if (!cell) return EMPTY;
  const { align, bold, fill, format } = cell.attrs as Record<string, string>;
  const stored = cell.textContent;
  const erased = stored.includes(FILLER);
  const [formula, looks] = [isFormula(stored), { bold: Boolean(bold), fill: fill ?? '' }];
  const holds = formula ? (value ?? null) : valueOf(stored);
  const text = erased
    ? told(stored)
    : formula && value === undefined
      ? '…'
      : shownValue(holds, format || (formula ? '' : formatTyped(stored)));
  const own =
    holds === null || typeof holds === 'string' ? 'start' : typeof holds === 'number' ? 'end' : 'center';
  return {
    ...looks,
    text,
    align: (align || own) as DrawnCell['align'],
    fault: holds instanceof Fault,
    erased,
  };
}
