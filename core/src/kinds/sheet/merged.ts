import type { Node } from 'prosemirror-model';
import type { Line } from '../lines.js';
import type { SheetView } from './book.js';
import { readBook } from './book.js';

/** A line of two books read as one: on which side it stands, one of them at least. */
export interface MergedLine {
  readonly id: string;
  readonly earlier: Line | null;
  readonly later: Line | null;
}

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

/** Lines in the order after, and those that are gone right behind what stood before them. Of several with one name the first counts. */
export function mergedLines(before: readonly Line[], after: readonly Line[]): MergedLine[] {
  const [was, is] = [firsts(before), firsts(after)];
  const gone = new Map<string | null, MergedLine[]>();
  let stands: string | null = null;
  for (const line of was.values()) {
    if (is.has(line.id)) stands = line.id;
    else gone.set(stands, [...(gone.get(stands) ?? []), { id: line.id, earlier: line, later: null }]);
  }
  const behind = (id: string | null): readonly MergedLine[] => gone.get(id) ?? [];
  return [
    ...behind(null),
    ...[...is.values()].flatMap((later): MergedLine[] => [
      { id: later.id, earlier: was.get(later.id) ?? null, later },
      ...behind(later.id),
    ]),
  ];
}

function firsts(lines: readonly Line[]): Map<string, Line> {
  const out = new Map<string, Line>();
  for (const line of lines) if (!out.has(line.id)) out.set(line.id, line);
  return out;
}
