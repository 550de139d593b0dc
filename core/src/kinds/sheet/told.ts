import type { Node } from 'prosemirror-model';
import { longestIncreasing } from '../../compare/index.js';
import type { BookView, ColumnView, RowView, SheetView } from './book.js';
import { readBook } from './book.js';
import { isFormula } from './references.js';

/** What became of a cell that both books show: its text before and after, and which of its looks differ. Formulas are as stored. */
export interface CellChange {
  readonly kind: 'cell';
  readonly sheet: string;
  readonly row: string;
  readonly column: string;
  readonly before: string;
  readonly after: string;
  /** What differs: a formula, where either side has one; the value; or only how it looks. */
  readonly what: 'formula' | 'value' | 'form';
  /** Names of the looks that differ. */
  readonly form: readonly string[];
}

/** Rows or columns of one sheet that came, went, or stand elsewhere among those that stayed. */
export interface LinesChange {
  readonly kind: 'rows' | 'columns';
  readonly turn: 'added' | 'removed' | 'moved';
  readonly sheet: string;
  readonly lines: readonly string[];
}

/** A sheet that came, went, was moved, or is called something else. */
export interface WholeChange {
  readonly kind: 'sheet';
  readonly turn: 'added' | 'removed' | 'moved' | 'renamed';
  readonly sheet: string;
  readonly before: string;
  readonly after: string;
}

export type SheetChange = CellChange | LinesChange | WholeChange;

/**
 * What is different between two books of one history, as somebody who reads them would tell it: sheets, rows and columns that came, went or moved, and
 * cells of those that stayed. Everything is known by its name, so that no move is mistaken for a change of cells; of lines that changed their
 * order the fewest are told as moved. Cells of a row or column that came or went are told with it.
 */
export function sheetChanges(earlier: Node, later: Node): SheetChange[] {
  const [one, other] = [readBook(earlier), readBook(later)];
  const out: SheetChange[] = [...wholeChanges(one, other)];
  for (const after of other.sheets) {
    const before = one.sheets.find(({ id }) => id === after.id);
    if (!before) continue;
    out.push(...lineChanges('columns', after.id, before.columns, after.columns));
    out.push(...lineChanges('rows', after.id, before.rows, after.rows));
    out.push(...cellChanges(before, after));
  }
  return out;
}

function wholeChanges(one: BookView, other: BookView): WholeChange[] {
  const { added, removed, moved } = turnsOf(one.sheets, other.sheets);
  const told = (turn: WholeChange['turn'], before: string, after: string, sheet: string): WholeChange => ({
    kind: 'sheet',
    turn,
    sheet,
    before,
    after,
  });
  const renamed = other.sheets.flatMap(({ id, name }) => {
    const before = one.sheets.find((sheet) => sheet.id === id);
    return before && before.name !== name ? [told('renamed', before.name, name, id)] : [];
  });
  return [
    ...removed.map(({ id, name }) => told('removed', name, '', id)),
    ...added.map(({ id, name }) => told('added', '', name, id)),
    ...moved.map(({ id, name }) => told('moved', name, name, id)),
    ...renamed,
  ];
}

function lineChanges(
  kind: LinesChange['kind'],
  sheet: string,
  before: readonly (RowView | ColumnView)[],
  after: readonly (RowView | ColumnView)[],
): LinesChange[] {
  const turns = turnsOf(before, after);
  return (['removed', 'added', 'moved'] as const).flatMap((turn) => {
    const lines = turns[turn].map(({ id }) => id);
    return lines.length > 0 ? [{ kind, turn, sheet, lines }] : [];
  });
}

/** Of lines in their orders before and after: which came, which went, and the fewest that moved. The first of a name counts. */
function turnsOf<T extends { readonly id: string }>(before: readonly T[], after: readonly T[]) {
  const [was, is] = [indexed(before), indexed(after)];
  const kept = [...was].flatMap(([id, a]) => {
    const b = is.get(id);
    return b === undefined ? [] : [{ a, b }];
  });
  const still = new Set(longestIncreasing(kept).map(({ b }) => b));
  return {
    added: after.filter(({ id }, i) => !was.has(id) && is.get(id) === i),
    removed: before.filter(({ id }, i) => !is.has(id) && was.get(id) === i),
    moved: after.filter(({ id }, i) => was.has(id) && is.get(id) === i && !still.has(i)),
  };
}

function indexed(lines: readonly { readonly id: string }[]): Map<string, number> {
  const out = new Map<string, number>();
  lines.forEach(({ id }, i) => {
    if (!out.has(id)) out.set(id, i);
  });
  return out;
}

function cellChanges(before: SheetView, after: SheetView): CellChange[] {
  const out: CellChange[] = [];
  const was = new Map<string, RowView>();
  for (const row of before.rows) if (!was.has(row.id)) was.set(row.id, row);
  const columns = after.columns.filter(({ id }) => before.columns.some((column) => column.id === id));
  const seen = new Set<string>();
  for (const row of after.rows) {
    const old = was.get(row.id);
    if (!old || seen.has(row.id)) continue;
    seen.add(row.id);
    if (old.node === row.node || old.node.content.eq(row.node.content)) continue;
    const [one, other] = [cellsOf(old.node), cellsOf(row.node)];
    for (const { id: column } of columns) {
      const change = cellChange(one.get(column), other.get(column));
      if (change) out.push({ kind: 'cell', sheet: after.id, row: row.id, column, ...change });
    }
  }
  return out;
}

function cellsOf(row: Node): Map<string, Node> {
  const out = new Map<string, Node>();
  row.forEach((cell) => out.set(String(cell.attrs['column']), cell));
  return out;
}

function cellChange(
  before: Node | undefined,
  after: Node | undefined,
): Pick<CellChange, 'before' | 'after' | 'what' | 'form'> | null {
  const [one, other] = [before?.textContent ?? '', after?.textContent ?? ''];
  const looks = (cell: Node | undefined, name: string): unknown => cell?.attrs[name] ?? USUAL[name];
  const form = Object.keys(USUAL).filter((name) => looks(before, name) !== looks(after, name));
  if (one === other && form.length === 0) return null;
  const what = one === other ? 'form' : isFormula(one) || isFormula(other) ? 'formula' : 'value';
  return { before: one, after: other, what, form };
}

/** How a cell looks that nobody set. */
const USUAL: Readonly<Record<string, unknown>> = { format: '', align: '', bold: false, fill: '' };

/** How many of each there are, for a line that says what happened. */
export interface SheetTotals {
  readonly formulas: number;
  readonly values: number;
  readonly forms: number;
  readonly rows: Readonly<Record<LinesChange['turn'], number>>;
  readonly columns: Readonly<Record<LinesChange['turn'], number>>;
  readonly sheets: number;
}

export function sheetTotals(changes: readonly SheetChange[]): SheetTotals {
  const cells = (what: CellChange['what']): number =>
    changes.filter((change) => change.kind === 'cell' && change.what === what).length;
  const lines = (kind: LinesChange['kind']): SheetTotals['rows'] => {
    const count = (turn: LinesChange['turn']): number =>
      changes.reduce(
        (sum, change) => sum + (change.kind === kind && change.turn === turn ? change.lines.length : 0),
        0,
      );
    return { added: count('added'), removed: count('removed'), moved: count('moved') };
  };
  return {
    formulas: cells('formula'),
    values: cells('value'),
    forms: cells('form'),
    rows: lines('rows'),
    columns: lines('columns'),
    sheets: changes.filter(({ kind }) => kind === 'sheet').length,
  };
}
