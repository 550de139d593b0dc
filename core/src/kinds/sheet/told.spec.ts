import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { FUZZ } from '../../testing/budget.js';
import { Random } from '../../testing/random.js';
import type { SheetView } from './index.js';
import {
  addColumns,
  addRows,
  addSheet,
  cellAt,
  moveLines,
  readBook,
  removeLine,
  sheetChanges,
  sheetSchema,
  sheetTotals,
  writeCells,
} from './index.js';

/** A sheet as plain lists, which know what is which by its name: what comparing is held against. */
interface Plain {
  rows: string[];
  columns: string[];
  /** Texts of cells by "row column", those of columns that are gone among them. */
  cells: Map<string, string>;
}

/** The same sheet as a document, and as plain lists. */
interface Twin {
  book: Node;
  plain: Plain;
}

function start(): Twin {
  const columns = ['c1', 'c2', 'c3'];
  const book = sheetSchema.node('book', null, [
    sheetSchema.node(
      'sheet',
      { name: 'Rota' },
      columns.map((id, i) => sheetSchema.node('column', { id, place: `a${i}` })),
    ),
  ]);
  return { book, plain: { rows: [], columns, cells: new Map() } };
}

const copied = ({ book, plain }: Twin): Twin => ({
  book,
  plain: { rows: [...plain.rows], columns: [...plain.columns], cells: new Map(plain.cells) },
});

/** Does one thing to both. */
function act(random: Random, twin: Twin, id: string): void {
  const { plain } = twin;
  const tr = new Transform(twin.book);
  const on = readBook(twin.book).sheets[0] as SheetView;
  const at = (length: number): number => random.between(0, length);
  const kind = random.between(0, 9);
  if (kind < 2) {
    const before = at(plain.rows.length);
    addRows(tr, on, before, [id]);
    plain.rows.splice(before, 0, id);
  } else if (kind === 2 && plain.rows.length > 0) {
    const index = random.between(0, plain.rows.length - 1);
    removeLine(tr, on.rows[index] as SheetView['rows'][number]);
    plain.rows.splice(index, 1);
  } else if (kind === 3 && plain.rows.length > 1) {
    const moved = on.rows.filter(() => random.chance(0.3));
    const before = at(plain.rows.length);
    moveLines(tr, on.rows, moved, before);
    const ids = new Set(moved.map((row) => row.id));
    const head = plain.rows.slice(0, before).filter((row) => !ids.has(row));
    const tail = plain.rows.slice(before).filter((row) => !ids.has(row));
    plain.rows = [...head, ...ids, ...tail];
  } else if (kind === 4) {
    const before = at(plain.columns.length);
    addColumns(tr, on, before, [id]);
    plain.columns.splice(before, 0, id);
  } else if (kind === 5 && plain.columns.length > 1 && random.chance(0.4)) {
    const index = random.between(0, plain.columns.length - 1);
    removeLine(tr, on.columns[index] as SheetView['columns'][number]);
    plain.columns.splice(index, 1);
  } else if (plain.rows.length > 0 && plain.columns.length > 0) {
    const row = random.pick(on.rows);
    const column = random.pick(plain.columns);
    const text = random.pick(['', '4', '4', 'Heron', '=[r.c]', `${id}`]);
    writeCells(tr, [{ row, column, text }]);
    plain.cells.set(`${row.id} ${column}`, text);
  }
  twin.book = tr.doc;
}

const textIn = ({ cells }: Plain, row: string, column: string): string => cells.get(`${row} ${column}`) ?? '';

/** Length of the longest run that is in order on both sides, by a table. */
function longestInOrder(one: readonly string[], other: readonly string[]): number {
  const table = Array.from({ length: one.length + 1 }, () => new Array<number>(other.length + 1).fill(0));
  for (let i = one.length - 1; i >= 0; i--)
    for (let j = other.length - 1; j >= 0; j--)
      (table[i] as number[])[j] =
        one[i] === other[j]
          ? 1 + (table[i + 1]?.[j + 1] ?? 0)
          : Math.max(table[i + 1]?.[j] ?? 0, table[i]?.[j + 1] ?? 0);
  return table[0]?.[0] ?? 0;
}

describe('what is told of two books', () => {
  it('is every change of a plain model that knows what is which, and none beside', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const twin = start();
        let next = 0;
        for (let i = 0; i < random.between(4, 25); i++) act(random, twin, `n${next++}`);
        const earlier = copied(twin);
        for (let i = 0; i < random.between(0, 15); i++) act(random, twin, `n${next++}`);
        const shown = readBook(twin.book).sheets[0] as SheetView;
        expect(shown.rows.map(({ id }) => id)).toEqual(twin.plain.rows);
        expect(shown.columns.map(({ id }) => id)).toEqual(twin.plain.columns);
        const [was, is] = [earlier.plain, twin.plain];
        const changes = sheetChanges(earlier.book, twin.book);
        for (const kind of ['rows', 'columns'] as const) {
          const of = (turn: string): readonly string[] =>
            changes.flatMap((change) => (change.kind === kind && change.turn === turn ? change.lines : []));
          expect([...of('added')].sort()).toEqual(is[kind].filter((id) => !was[kind].includes(id)).sort());
          expect([...of('removed')].sort()).toEqual(was[kind].filter((id) => !is[kind].includes(id)).sort());
          const [before, after] = [
            was[kind].filter((id) => is[kind].includes(id)),
            is[kind].filter((id) => was[kind].includes(id)),
          ];
          const moved = of('moved');
          expect(moved.length).toBe(after.length - longestInOrder(before, after));
          const still = (list: readonly string[]): readonly string[] =>
            list.filter((id) => !moved.includes(id));
          expect(still(before)).toEqual(still(after));
        }
        const wanted = is.rows.flatMap((row) =>
          is.columns.flatMap((column) => {
            if (!was.rows.includes(row) || !was.columns.includes(column)) return [];
            const [before, after] = [textIn(was, row, column), textIn(is, row, column)];
            return before === after ? [] : [`${row} ${column}: ${before} > ${after}`];
          }),
        );
        const found = changes.flatMap((change) =>
          change.kind === 'cell'
            ? [`${change.row} ${change.column}: ${change.before} > ${change.after}`]
            : [],
        );
        expect([...found].sort()).toEqual([...wanted].sort());
      }),
      { numRuns: 2000 * FUZZ },
    );
  });

  it('tells formulas apart from values, and looks from both', () => {
    const twin = start();
    const edited = (act: (tr: Transform, on: SheetView) => void): void => {
      const tr = new Transform(twin.book);
      act(tr, readBook(twin.book).sheets[0] as SheetView);
      twin.book = tr.doc;
    };
    edited((tr, on) => addRows(tr, on, 0, ['r1', 'r2']));
    const row = (on: SheetView, index: number) => on.rows[index] as SheetView['rows'][number];
    edited((tr, on) =>
      writeCells(tr, [
        { row: row(on, 0), column: 'c1', text: '4' },
        { row: row(on, 0), column: 'c2', text: '=[r1.c1]*2' },
      ]),
    );
    const before = twin.book;
    edited((tr, on) =>
      writeCells(tr, [
        { row: row(on, 0), column: 'c1', text: '5', form: { bold: true } },
        { row: row(on, 0), column: 'c2', text: '=[r1.c1]*3' },
        { row: row(on, 0), column: 'c3', form: { fill: 'sky' } },
      ]),
    );
    edited((tr, on) => moveLines(tr, on.rows, on.rows.slice(1), 0));
    const changes = sheetChanges(before, twin.book);
    expect(
      changes.flatMap((change) => (change.kind === 'cell' ? [[change.what, ...change.form]] : [])),
    ).toEqual([['value', 'bold'], ['formula'], ['form', 'fill']]);
    expect(sheetTotals(changes)).toEqual({
      formulas: 1,
      values: 1,
      forms: 1,
      rows: { added: 0, removed: 0, moved: 1 },
      columns: { added: 0, removed: 0, moved: 0 },
      sheets: 0,
    });
    expect(cellAt(row(readBook(twin.book).sheets[0] as SheetView, 1), 'c1')?.cell.textContent).toBe('5');
  });

  it('tells of sheets that came, went, moved or were renamed', () => {
    const first = start().book;
    const tr = new Transform(first);
    addSheet(tr, { id: 'costs', name: 'Costs' }, ['c9']);
    addSheet(tr, { id: 'boats', name: 'Boats' }, []);
    const three = tr.doc;
    const later = new Transform(three);
    const sheets = readBook(three).sheets;
    moveLines(later, sheets, sheets.slice(2), 0);
    later.setNodeAttribute((sheets[1] as SheetView).at, 'name', 'Spending');
    removeLine(later, readBook(later.doc).sheets.find(({ id }) => id === 'first') as SheetView);
    const told = (one: Node, other: Node): unknown[] =>
      sheetChanges(one, other).map((change) => ('turn' in change ? [change.turn, change.sheet] : change));
    expect(told(first, three)).toEqual([
      ['added', 'costs'],
      ['added', 'boats'],
    ]);
    expect(told(three, later.doc)).toEqual([
      ['removed', 'first'],
      ['moved', jasmine.stringMatching(/costs|boats/)],
      ['renamed', 'costs'],
    ]);
    expect(told(three, three)).toEqual([]);
  });
});
