import type { Node } from 'prosemirror-model';
import type { MergedLine } from '../lines.js';
import { mergedLines } from '../lines.js';
import type { SheetView } from './book.js';
import { readBook } from './book.js';

/** A sheet of two books read as one: its rows and columns as the later one shows them, those that are gone behind what they stood behind. */
export interface MergedSheet {
  readonly id: string;
  readonly earlier: SheetView | null;
  readonly later: SheetView | null;
  readonly rows: readonly MergedLine[];
  readonly columns: readonly MergedLine[];
}

/** Two books of one history read as one. */
export function mergedBooks(earlier: Node, later: Node): MergedSheet[] {
  const [one, other] = [readBook(earlier).sheets, readBook(later).sheets];
  const was = new Map(one.map((sheet) => [sheet.id, sheet]));
  const is = new Map(other.map((sheet) => [sheet.id, sheet]));
  return mergedLines(one, other).map(({ id }) => {
    const [a, b] = [was.get(id) ?? null, is.get(id) ?? null];
    return {
      id,
      earlier: a,
      later: b,
      rows: mergedLines(a?.rows ?? [], b?.rows ?? []),
      columns: mergedLines(a?.columns ?? [], b?.columns ?? []),
    };
  });
}
