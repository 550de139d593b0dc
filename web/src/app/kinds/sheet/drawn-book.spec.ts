import { readBook, writeCells } from '@oxbow/core/kinds/sheet';
import type { RowView } from '@oxbow/core/kinds/sheet';
import { Transform } from 'prosemirror-transform';
import { drawBook } from './drawn-book';
import { BUDGET, bookWith } from './testing/books';

const book = bookWith(BUDGET);
const lines = (element: HTMLElement): string[] =>
  [...element.querySelectorAll('tbody tr')].map((row) =>
    [...row.children]
      .map((cell) => cell.textContent)
      .join('|')
      .replace(/\|+$/, ''),
  );
const rows = readBook(book).sheets[0]?.rows as readonly RowView[];

describe('a book that is drawn', () => {
  it('shows what its formulas come to, with rows and cells that say where they stand', () => {
    const drawn = drawBook(book, [], { lines: 10 });
    expect(lines(drawn).slice(0, 3)).toEqual([
      '1|Item|Hours|Rate|Cost',
      '2|Caulking|12|38.5|462',
      '3|Tar and rope|3|120|360',
    ]);
    const cell = [...drawn.querySelectorAll('td')].find(({ textContent }) => textContent === 'Caulking');
    expect(book.nodeAt(Number(cell?.dataset['from']))?.textContent).toBe('Caulking');
    const whole = drawn.querySelectorAll<HTMLElement>('.whole')[1];
    expect(book.nodeAt(Number(whole?.dataset['from']))?.attrs['id']).toBe('r2');
  });

  it('draws as many lines as are asked for, round what is marked or some way down', () => {
    const long = bookWith(Array.from({ length: 200 }, (_, i) => [`line ${i + 1}`]));
    expect(lines(drawBook(long, [], { lines: 8, depth: 0.5 })).length).toBe(8);
    expect(lines(drawBook(long, [], { lines: 8, depth: 0.5 }))[2]).toContain('line 103');
    const row = readBook(long).sheets[0]?.rows[150] as RowView;
    const mark = { from: row.at + 1, to: row.at + 3, name: 'was-added', who: 'teal' };
    const drawn = drawBook(long, [mark], { lines: 8 });
    expect(drawn.querySelector('.was-added')?.textContent).toBe('line 151');
    expect(drawn.querySelector<HTMLElement>('.was-added')?.style.getPropertyValue('--who')).toBe('teal');
  });

  it('marks a whole row where the mark holds it, and looks of cells', () => {
    const tr = new Transform(book);
    writeCells(tr, [{ row: rows[1] as RowView, column: 'c1', form: { bold: true, fill: 'reed' } }]);
    const row = readBook(tr.doc).sheets[0]?.rows[1] as RowView;
    const drawn = drawBook(
      tr.doc,
      [{ from: row.at, to: row.at + row.node.nodeSize, name: 'gone', who: '' }],
      { lines: 9 },
    );
    expect(drawn.querySelectorAll('tr.gone').length).toBe(1);
    expect(drawn.querySelector('td.bold.ink-reed')?.textContent).toBe('Caulking');
  });
});
