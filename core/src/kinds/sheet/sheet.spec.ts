import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { plainText } from '../../content/index.js';
import { mapsOf, orderBatch } from '../../history/index.js';
import { FUZZ } from '../../testing/budget.js';
import { Random, freshLetters } from '../../testing/random.js';
import { SHEET_HAND } from '../../testing/sheets.js';
import { kindNamed, kindOf } from '../index.js';
import type { SheetView } from './index.js';
import {
  addColumns,
  addRows,
  addSheet,
  blankBook,
  cellAt,
  freshIds,
  moveLines,
  readBook,
  removeColumns,
  removeLine,
  removeSheet,
  sheetSchema,
  sheetsOf,
  writeCells,
} from './index.js';

/** What a sheet shows, as lines of cells. */
function shown({ rows, columns }: SheetView): string[][] {
  return rows.map((row) => columns.map(({ id }) => cellAt(row, id)?.cell.textContent ?? ''));
}

function first(book: Node): SheetView {
  return sheetsOf(book)[0] as SheetView;
}

function done(book: Node, act: (tr: Transform, on: SheetView) => void): Node {
  const tr = new Transform(book);
  act(tr, first(book));
  tr.doc.check();
  return tr.doc;
}

/** A book of three rows and columns with a letter in each cell. */
function small(): Node {
  const rows = ['a', 'b', 'c'].map((letter, i) =>
    sheetSchema.node(
      'row',
      { id: `r${letter}`, place: `a${i}` },
      ['x', 'y', 'z'].map((column) =>
        sheetSchema.node('cell', { column }, sheetSchema.text(letter + column)),
      ),
    ),
  );
  const columns = ['x', 'y', 'z'].map((id, i) => sheetSchema.node('column', { id, place: `a${i}` }));
  return sheetSchema.node('book', null, [sheetSchema.node('sheet', { name: 'Rota' }, columns), ...rows]);
}

describe('a sheet', () => {
  it('begins with empty rows and columns, in order, and is known by its outermost node', () => {
    const blank = blankBook();
    blank.check();
    expect(blank.eq(blankBook())).toBeTrue();
    expect(shown(first(blank)).length).toBe(24);
    expect(first(blank).columns.map(({ id }) => id)).toEqual([
      'c1',
      'c2',
      'c3',
      'c4',
      'c5',
      'c6',
      'c7',
      'c8',
    ]);
    expect(kindOf(blank)).toBe(kindNamed('sheet'));
    expect(() => kindNamed('map')).toThrowError(RangeError);
  });

  it('is told in plain text by its name and its rows', () => {
    expect(plainText(small())).toBe('Rota\nax\tay\taz\nbx\tby\tbz\ncx\tcy\tcz');
  });

  it('takes what is written into many cells at once, touching only the letters that differ', () => {
    const book = done(small(), (tr, { rows, columns }) => {
      const [one, two] = rows as [SheetView['rows'][number], SheetView['rows'][number]];
      const [x, y, z] = columns.map(({ id }) => id) as [string, string, string];
      writeCells(tr, [
        { row: one, column: x, text: 'a new x' },
        { row: two, column: z, text: '' },
        { row: one, column: 'w', text: 'unseen' },
        { row: two, column: y, form: { bold: true, format: '0.00' } },
      ]);
    });
    expect(shown(first(book))).toEqual([
      ['a new x', 'ay', 'az'],
      ['bx', 'by', ''],
      ['cx', 'cy', 'cz'],
    ]);
    const row = first(book).rows[1] as SheetView['rows'][number];
    expect(cellAt(row, 'y')?.cell.attrs).toEqual(jasmine.objectContaining({ bold: true, format: '0.00' }));
    const tr = new Transform(small());
    writeCells(tr, [
      { row: first(small()).rows[0] as SheetView['rows'][number], column: 'x', text: 'a\u{1F30A}x' },
    ]);
    expect(tr.steps.length).toBe(1);
    expect((tr.steps[0]?.toJSON() as { slice: { content: { text: string }[] } }).slice.content[0]?.text).toBe(
      '\u{1F30A}',
    );
  });

  it('has columns and sheets taken away with what stands in them, the first sheet too', () => {
    const without = done(small(), (tr, on) => removeColumns(tr, on, new Set(['x', 'z'])));
    expect(shown(first(without))).toEqual([['ay'], ['by'], ['cy']]);
    expect(without.textContent).toBe('aybycy');
    const two = done(small(), (tr) => addSheet(tr, { id: 's', name: 'Costs' }, ['k']));
    const rest = done(two, (tr, on) => removeSheet(tr, on));
    expect(sheetsOf(rest).map(({ name }) => name)).toEqual(['Costs']);
    expect(rest.childCount).toBe(1);
  });

  it('gives all rows new keys of order before those of one place become long', () => {
    let book = small();
    for (let i = 0; i < 2000; i++) book = done(book, (tr, on) => addRows(tr, on, 1, [`n${i}`]));
    const { rows } = first(book);
    expect(rows.map(({ id }) => id)).toEqual([
      'ra',
      ...Array.from({ length: 2000 }, (_, i) => `n${1999 - i}`),
      'rb',
      'rc',
    ]);
    expect(Math.max(...rows.map(({ node }) => String(node.attrs['place']).length))).toBeLessThan(200);
  });

  it('has rows and columns added, moved and taken away where they are shown; cells follow their column', () => {
    let book = done(small(), (tr, on) => addRows(tr, on, 1, ['new']));
    expect(first(book).rows.map(({ id }) => id)).toEqual(['ra', 'new', 'rb', 'rc']);
    book = done(book, (tr, { rows }) => moveLines(tr, rows, rows.slice(0, 1), 4));
    expect(first(book).rows.map(({ id }) => id)).toEqual(['new', 'rb', 'rc', 'ra']);
    book = done(book, (tr, on) => addColumns(tr, on, 0, ['w']));
    book = done(book, (tr, { columns }) => moveLines(tr, columns, columns.slice(3), 1));
    expect(first(book).columns.map(({ id }) => id)).toEqual(['w', 'z', 'x', 'y']);
    expect(shown(first(book))[3]).toEqual(['', 'az', 'ax', 'ay']);
    const less = done(book, (tr, { columns }) => removeLine(tr, columns[1] as SheetView['columns'][number]));
    expect(shown(first(less))[3]).toEqual(['', 'ax', 'ay']);
    const back = done(less, (tr, on) => addColumns(tr, on, 3, ['z']));
    expect(shown(first(back))[3]).toEqual(['', 'ax', 'ay', 'az']);
    expect(
      first(done(book, (tr, { rows }) => removeLine(tr, rows[0] as SheetView['rows'][number]))).rows.length,
    ).toBe(3);
  });

  it('gives lines put between two of one place, or again and again at one place, places of their own', () => {
    const twice = sheetSchema.node('book', null, [
      sheetSchema.node('sheet'),
      ...['one', 'two'].map((id) => sheetSchema.node('row', { id, place: 'a0' })),
    ]);
    const book = done(twice, (tr, on) => addRows(tr, on, 1, ['three']));
    expect(first(book).rows.map(({ id }) => id)).toEqual(['one', 'two', 'three']);
    let often = small();
    for (let i = 0; i < 300; i++) often = done(often, (tr, on) => addRows(tr, on, 1, [`n${i}`]));
    expect(first(often).rows[1]?.id).toBe('n299');
  });

  it('shows of two sheets, or two columns, with one name the first', () => {
    const head = sheetSchema.node('sheet', { name: 'Rota' }, [
      sheetSchema.node('column', { id: 'x', place: 'a1' }),
      sheetSchema.node('column', { id: 'x', place: 'a0' }),
    ]);
    const { sheets } = readBook(sheetSchema.node('book', null, [head, head.copy(head.content)]));
    expect(sheets.map(({ columns }) => columns.map(({ node }) => String(node.attrs['place'])))).toEqual([
      ['a1'],
    ]);
  });

  it('makes names that nothing else has', () => {
    const random = new Random(5);
    const ids = freshIds(1000, () => random.next());
    expect(new Set(ids).size).toBe(1000);
    for (const id of ids) expect(id).toMatch(/^[a-z0-9]{12}$/);
  });
});

/** The first letter of those that are written once ever. */
const PRIVATE = '\u4e00';

/** How often each letter that is written once ever stands in a book. */
function lettersIn(book: Node): Map<string, number> {
  const out = new Map<string, number>();
  book.descendants((node) => {
    for (const letter of node.text ?? '') if (letter >= PRIVATE) out.set(letter, (out.get(letter) ?? 0) + 1);
  });
  return out;
}

describe('a sheet under several hands at once', () => {
  it('loses and doubles no cell, but for two in one place of which one leaves', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const fresh = freshLetters();
        let base = small();
        for (let i = 0; i < random.between(0, 6); i++) base = SHEET_HAND.act(random, base, fresh, true).doc;
        const acts = Array.from({ length: random.between(2, 4) }, () => {
          let doc = base;
          const steps = Array.from({ length: random.between(1, 3) }, () => {
            const tr = SHEET_HAND.act(random, doc, fresh, true);
            doc = tr.doc;
            return tr.steps;
          }).flat();
          return { doc, proposal: { steps, sources: [] } };
        });
        let now = base;
        const done = [...mapsOf([])];
        for (const { proposal } of acts) {
          const [verdict] = orderBatch(now, [proposal], done);
          // A whole edit is refused where it would leave no sheet.
          if (!verdict?.taken) {
            expect(verdict?.refusal?.message).toBe('leaves a document without content');
            return;
          }
          for (const step of verdict.steps) now = step.apply(now).doc as Node;
          done.push(...mapsOf(verdict.steps));
        }
        now.check();
        const found = lettersIn(now);
        for (const [letter, count] of found) expect(count).withContext(letter).toBe(1);
        const gone = new Set(
          acts.flatMap(({ doc }) =>
            [...lettersIn(base).keys()].filter((letter) => !lettersIn(doc).has(letter)),
          ),
        );
        for (const { doc } of acts)
          for (const letter of lettersIn(doc).keys())
            if (!found.has(letter) && !gone.has(letter)) expectLeft(base, doc, now, letter);
        for (const { rows } of readBook(now).sheets)
          for (const row of rows) {
            const columns = row.node.children.map((cell) => String(cell.attrs['column']));
            expect(new Set(columns).size).toBe(columns.length);
          }
      }),
      { numRuns: 2000 * FUZZ },
    );
  });

  /** A letter that is gone though nobody took it away: its row went, or another cell stands where its cell was made. */
  function expectLeft(base: Node, doc: Node, now: Node, letter: string): void {
    let place = { row: '', column: '' };
    doc.forEach((row) =>
      row.forEach((cell) => {
        if (cell.textContent.includes(letter))
          place = { row: String(row.attrs['id']), column: String(cell.attrs['column']) };
      }),
    );
    const cellsAt = (book: Node): Node[] =>
      book.children.flatMap((row) =>
        row.attrs['id'] === place.row
          ? row.children.filter((cell) => cell.attrs['column'] === place.column)
          : [],
      );
    const rowIsGone = !now.children.some((row) => row.attrs['id'] === place.row);
    const cellIsGone = cellsAt(base).length > 0 && cellsAt(now).length === 0;
    const before = cellsAt(base)[0]?.textContent ?? '';
    const wasCleared = !before || [...before].some((one) => !lettersIn(now).has(one));
    const isDouble = cellsAt(now).length === 1 && wasCleared;
    expect(rowIsGone || cellIsGone || isDouble)
      .withContext(letter)
      .toBeTrue();
  }
});
