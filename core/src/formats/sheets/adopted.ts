import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { formatTyped, valueOf } from '../../calculate/index.js';
import { keptPlaces } from '../../kinds/lines.js';
import type { BookView, Line, RowView, SheetView } from '../../kinds/sheet/index.js';
import {
  Places,
  cellAt,
  freshIds,
  isFormula,
  readBook,
  shownFormula,
  storedFormula,
} from '../../kinds/sheet/index.js';
import { pairedColumns, pairedRows } from './pairing.js';

/**
 * A book that knows nothing of another's history, as a file, with the names of the sheets, columns and rows that are likely the same ones: sheets by
 * name, columns by heading and likeness, rows by equal cells. So what is put on top of a book goes on with its history: a cell that changed is that cell. What is
 * new gets names that neither has, made of what `chance` gives: numbers from 0 up to 1. Formulas refer to what they referred to; what files write otherwise, and
 * comes to the same and is shown alike, stays as it was typed.
 */
export function adopted(read: Node, now: Node, chance: () => number): Node {
  const [own, known] = [readBook(read), readBook(now)];
  const sheets = pairedSheets(own.sheets, known.sheets);
  const before = new Places(own);
  const names = new Map<string, SheetNames>();
  for (const sheet of own.sheets) {
    const other = sheets.get(sheet.id) ?? null;
    names.set(sheet.id, namesOf(sheet, other, before, other && new Places(known), chance));
  }
  const shown = (cell: Node, sheet: string): string => {
    const text = cell.textContent;
    return isFormula(text) ? shownFormula(text, before, sheet) : text;
  };
  const renamed: Node[] = [];
  read.forEach((node) => {
    const sheet = String(node.attrs[node.type.name === 'sheet' ? 'id' : 'sheet']);
    const given = names.get(sheet);
    if (!given) return;
    renamed.push(node.type.name === 'sheet' ? head(node, given) : row(node, sheet, given, shown));
  });
  const bare = standing(read.copy(Fragment.fromArray(renamed)), known, now);
  const after = new Places(readBook(bare));
  const rows = new Map(
    known.sheets.flatMap((sheet) => sheet.rows.map((line) => [`${sheet.id} ${line.id}`, line])),
  );
  const blocks = bare.children.map((block) => {
    if (block.type.name !== 'row') return block;
    const sheet = String(block.attrs['sheet']);
    const line = rows.get(`${sheet} ${String(block.attrs['id'])}`);
    const cells = block.children.map((cell) => {
      const text = cell.textContent;
      if (isFormula(text))
        return cell.type.create(cell.attrs, read.type.schema.text(storedFormula(text, after, sheet)));
      const held = line && cellAt(line, String(cell.attrs['column']))?.cell;
      return held && isSame(held, cell) ? held : cell;
    });
    return block.copy(Fragment.fromArray(line ? asStanding(cells, line.node) : cells));
  });
  return bare.copy(Fragment.fromArray(blocks));
}

/**
 * A book whose lines keep the keys of order that they have in another, as far as they stand in the same order; and which has the empty lines that the other has
 * behind all that is filled, which no file tells of. What is there already stands where it does, what is new behind it.
 */
function standing(book: Node, known: BookView, now: Node): Node {
  const heads = new Map<string, Node>();
  const rows = new Map<string, Node>();
  const further: Node[] = [];
  for (const sheet of readBook(book).sheets) {
    const other = known.sheets.find(({ id }) => id === sheet.id);
    if (!other) continue;
    const [columns, lines] = [
      [...sheet.columns, ...emptyBehind(other.columns, sheet.columns, filledColumns(other))],
      [...sheet.rows, ...emptyBehind(other.rows, sheet.rows, filledRows(other))],
    ];
    const placed = (all: readonly Line[], among: readonly Line[]): Node[] => {
      const places = keptPlaces(
        all.map(({ id }) => id),
        among,
      );
      return all.map(({ node }, i) => node.type.create({ ...node.attrs, place: places[i] }, node.content));
    };
    const head = asStanding(placed(columns, other.columns), other.node);
    heads.set(sheet.id, sheet.node.copy(Fragment.fromArray(head)));
    placed(lines, other.rows).forEach((row, i) => {
      if (i < sheet.rows.length) rows.set(`${sheet.id} ${String(row.attrs['id'])}`, row);
      else further.push(row);
    });
  }
  const blocks = book.children.map((block) =>
    block.type.name === 'row'
      ? (rows.get(`${String(block.attrs['sheet'])} ${String(block.attrs['id'])}`) ?? block)
      : (heads.get(String(block.attrs['id'])) ?? block),
  );
  return book.copy(Fragment.fromArray(asStanding([...blocks, ...further], now)));
}

/** Sheets and rows in the order in which another book has them, columns or cells in that of another head or row; what that has not behind. */
export function asStanding(blocks: readonly Node[], now: Node): Node[] {
  const nameOf = ({ type, attrs }: Node): string =>
    [type.name, attrs['sheet'], attrs['id'], attrs['column']].join(' ');
  const order = new Map<string, number>();
  now.forEach((block, _at, i) => order.set(nameOf(block), i));
  const rank = (block: Node): number => order.get(nameOf(block)) ?? Infinity;
  const standing = blocks.map((block, i) => ({ block, i, rank: rank(block) }));
  standing.sort((one, other) => (one.rank === other.rank ? one.i - other.i : one.rank - other.rank));
  return standing.map(({ block }) => block);
}

/** Lines of a known sheet behind the last that is filled, but for those that are there already. */
function emptyBehind(
  known: readonly Line[],
  own: readonly Line[],
  filled: ReadonlySet<string>,
): readonly Line[] {
  const last = known.findLastIndex(({ id }) => filled.has(id));
  const there = new Set(own.map(({ id }) => id));
  return known.slice(last + 1).filter(({ id }) => !there.has(id));
}

function filledRows({ rows }: SheetView): Set<string> {
  return new Set(rows.flatMap(({ id, node }) => (node.textContent === '' ? [] : [id])));
}

function filledColumns({ rows }: SheetView): Set<string> {
  return new Set(
    rows.flatMap(({ node }) =>
      node.children.flatMap((cell) => (cell.textContent === '' ? [] : [String(cell.attrs['column'])])),
    ),
  );
}

/** Whether two cells come to the same and are shown alike, however that was typed. */
function isSame(one: Node, other: Node): boolean {
  if (isFormula(one.textContent) || valueOf(one.textContent) !== valueOf(other.textContent)) return false;
  const shownAs = ({ attrs, textContent }: Node): string =>
    JSON.stringify([
      String(attrs['format']) || formatTyped(textContent),
      attrs['align'],
      attrs['bold'],
      attrs['fill'],
    ]);
  return shownAs(one) === shownAs(other);
}

/** New names of a sheet, and of its columns and rows by their old ones. */
interface SheetNames {
  readonly id: string;
  /** Whether nobody named it, and the file calls it by its number because it has to. */
  readonly isUnnamed: boolean;
  readonly columns: ReadonlyMap<string, string>;
  readonly rows: ReadonlyMap<string, string>;
}

function head(node: Node, { id, columns, isUnnamed }: SheetNames): Node {
  const children = node.children.map((column) =>
    column.type.create({ ...column.attrs, id: columns.get(String(column.attrs['id'])) ?? '' }),
  );
  return node.type.create({ ...node.attrs, id, ...(isUnnamed ? { name: '' } : {}) }, children);
}

/** A row under its new names; formulas are as they are shown until all have theirs. */
function row(
  node: Node,
  sheet: string,
  { id, columns, rows }: SheetNames,
  shown: (cell: Node, sheet: string) => string,
): Node {
  const cells = node.children.flatMap((cell) => {
    const column = columns.get(String(cell.attrs['column']));
    const text = shown(cell, sheet);
    return column === undefined
      ? []
      : [cell.type.create({ ...cell.attrs, column }, text === '' ? [] : node.type.schema.text(text))];
  });
  return node.type.create({ ...node.attrs, sheet: id, id: rows.get(String(node.attrs['id'])) ?? '' }, cells);
}

/** Sheets of one name, then those left, in order. */
function pairedSheets(own: readonly SheetView[], known: readonly SheetView[]): Map<string, SheetView> {
  const out = new Map<string, SheetView>();
  const free = new Set(known);
  const named = (name: string): SheetView | undefined =>
    [...free].find((one) => one.name.toLowerCase() === name.toLowerCase());
  for (const sheet of own) {
    const other = named(sheet.name);
    if (other) out.set(sheet.id, other);
    if (other) free.delete(other);
  }
  for (const sheet of own) {
    const [next] = free;
    if (out.has(sheet.id) || !next) continue;
    out.set(sheet.id, next);
    free.delete(next);
  }
  return out;
}

function namesOf(
  sheet: SheetView,
  other: SheetView | null,
  places: Places,
  known: Places | null,
  chance: () => number,
): SheetNames {
  const [fresh = ''] = freshIds(1, chance);
  const [one, two] = [textsOf(sheet, places), other && known ? textsOf(other, known) : []];
  const columns = pairedColumns(one, sheet.columns.length, two, other?.columns.length ?? 0);
  const rows = pairedRows(one, two, columns);
  const given = <T extends { readonly id: string }>(
    lines: readonly T[],
    of: readonly T[],
    pairs: ReadonlyMap<number, number>,
  ): Map<string, string> => {
    const names = freshIds(lines.length, chance);
    return new Map(lines.map(({ id }, i) => [id, of[pairs.get(i) ?? -1]?.id ?? names[i] ?? '']));
  };
  return {
    id: other?.id ?? fresh,
    isUnnamed: other?.name === '' && /^Sheet ?\d+$/.test(sheet.name),
    columns: given(sheet.columns, other?.columns ?? [], columns),
    rows: given<RowView>(sheet.rows, other?.rows ?? [], rows),
  };
}

/** The texts of a sheet's cells by row and column as shown, formulas in A1 notation. */
function textsOf(sheet: SheetView, places: Places): string[][] {
  return sheet.rows.map(({ node }) => {
    const line = sheet.columns.map(() => '');
    node.forEach((cell) => {
      const column = places.column(sheet.id, String(cell.attrs['column']));
      const text = cell.textContent;
      if (column >= 0) line[column] = isFormula(text) ? shownFormula(text, places, sheet.id) : text;
    });
    return line;
  });
}
