import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { compare } from '../../compare/index.js';
import { toldGist } from '../told/index.js';
import type { SheetView } from './index.js';
import {
  addColumns,
  addRows,
  addSheet,
  blankBook,
  moveLines,
  removeLine,
  sheetsOf,
  writeCells,
} from './index.js';

const first = (book: Node): SheetView => sheetsOf(book)[0] as SheetView;

/** What is told of what some acts do to a book. */
function told(book: Node, ...acts: ((tr: Transform, on: SheetView) => void)[]): string {
  const tr = new Transform(book);
  for (const act of acts) act(tr, first(tr.doc));
  return toldGist(book, tr.doc, compare(book, tr.doc).changes);
}

const write =
  (row: number, column: string, text: string) =>
  (tr: Transform, on: SheetView): void =>
    writeCells(tr, [{ row: on.rows[row] as SheetView['rows'][number], column, text }]);

describe('the gist of two books', () => {
  const book = (): Node => {
    const tr = new Transform(blankBook());
    write(0, 'c1', '12')(tr, first(tr.doc));
    write(1, 'c1', '=[r1.c1]*2')(tr, first(tr.doc));
    return tr.doc;
  };

  it('tells few cells by what they held, formulas as they are shown', () => {
    expect(told(book())).toBe('No change');
    expect(told(book(), write(0, 'c1', '14'))).toBe('A1 was “12”, is “14”');
    expect(told(book(), write(1, 'c1', '=[r1.c1]*3'), write(4, 'c2', 'oakum'))).toBe(
      'A2 was “=A1*2”, is “=A1*3”; B5 is “oakum”',
    );
    expect(told(book(), write(0, 'c1', ''))).toBe('A1 lost “12”');
  });

  it('tells many by how many', () => {
    const many = [2, 3, 4].map((row) => write(row, 'c1', `=[r${row}.c1]+1`));
    expect(told(book(), ...many, write(0, 'c1', '1'))).toBe('3 formulas changed; 1 value changed');
    expect(
      told(
        book(),
        (tr, on) => addRows(tr, on, 1, ['x', 'y']),
        (tr, on) => addColumns(tr, on, 1, ['z']),
        (tr, { rows }) => removeLine(tr, rows[9] as SheetView['rows'][number]),
        (tr, { rows }) => moveLines(tr, rows, rows.slice(5, 6), 0),
        (tr, { rows }) =>
          writeCells(tr, [{ row: rows[6] as SheetView['rows'][number], column: 'c1', form: { bold: true } }]),
      ),
    ).toBe('Added 2 rows; removed 1 row; moved 1 row; added 1 column; the look of 1 cell');
  });

  it('tells of sheets by their names', () => {
    const named = (tr: Transform, on: SheetView): void => void tr.setNodeAttribute(on.at, 'name', 'Rota');
    expect(told(book(), named)).toBe('A sheet is called “Rota”');
    expect(told(book(), (tr) => addSheet(tr, { id: 's', name: 'Costs' }, []))).toBe(
      'Added the sheet “Costs”',
    );
  });
});
