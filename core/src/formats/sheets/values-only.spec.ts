import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import type { CellForm, RowView } from '../../kinds/sheet/index.js';
import { addSheet, blankBook, moveLines, sheetsOf, writeCells } from '../../kinds/sheet/index.js';
import { toldGist } from '../../kinds/told/index.js';
import { FUZZ } from '../../testing/budget.js';
import { Random } from '../../testing/random.js';
import { FORMATS } from '../../testing/workbooks.js';
import { compare } from '../../compare/index.js';
import { readCsv, writeCsv } from './csv.js';
import { adoptedValues } from './values-only.js';

/** A budget with looks and sums, and another sheet beside it. */
function budget(): Node {
  const tr = new Transform(blankBook());
  const write = (row: number, column: string, text: string, form: Partial<CellForm> = {}): void =>
    writeCells(tr, [{ row: sheetsOf(tr.doc)[0]?.rows[row] as RowView, column, text, form }]);
  write(0, 'c1', 'Item', { bold: true });
  write(0, 'c2', 'Cost', { bold: true, fill: 'sand' });
  for (const [row, name, cost] of [
    [1, 'Rope', '1200'],
    [2, 'Paint', '60'],
  ] as const) {
    write(row, 'c1', name);
    write(row, 'c2', cost, { format: '#,##0.00' });
  }
  write(3, 'c1', 'Total');
  write(3, 'c2', '=SUM([r2.c2]:[r3.c2])', { format: '#,##0.00' });
  write(3, 'c3', '', { fill: 'reed' });
  addSheet(tr, { id: 'second', name: 'Stores' }, ['s1', 's2']);
  return tr.doc;
}

/** What is told of a book, and of its values as a file after somebody changed that. */
function told(book: Node, change: (text: string) => string): string {
  const random = new Random(3);
  const next = adoptedValues(readCsv(change(writeCsv(book))), book, () => random.next());
  next.check();
  return toldGist(book, next, compare(book, next).changes);
}

describe('values that come back', () => {
  it('change nothing but what they say otherwise: formulas, looks and other sheets stay', () => {
    expect(writeCsv(budget())).toBe(
      'Item,Cost,\r\nRope,"1,200.00",\r\nPaint,60.00,\r\nTotal,"1,260.00",\r\n',
    );
    expect(told(budget(), (text) => text)).toBe('No change');
    expect(told(budget(), (text) => text.replace('60.00', '75'))).toBe('B3 was “60”, is “75”');
    expect(told(budget(), (text) => text.replace('Total', 'Sails,90,\r\nTotal'))).toBe('Added 1 row');
    expect(told(budget(), (text) => text.replace('Rope,"1,200.00",\r\n', ''))).toBe('Removed 1 row');
    expect(told(budget(), (text) => text.replace('"1,260.00"', '1300'))).toBe(
      'B4 was “=SUM(B2:B3)”, is “1300”',
    );
  });

  it('look as what stood there', () => {
    const random = new Random(3);
    const file = readCsv(writeCsv(budget()).replace('60.00', '75'));
    const next = adoptedValues(file, budget(), () => random.next());
    expect(writeCsv(next)).toContain('Paint,75.00,\r\nTotal,"1,275.00"');
  });

  it('are the same book where nobody changed them, and one cell otherwise where one was written', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const length = random.between(1, 20);
        const tr = new Transform(blankBook());
        for (let row = 0; row < length; row++)
          writeCells(
            tr,
            ['c1', 'c2', 'c3'].map((column, i) => ({
              row: sheetsOf(tr.doc)[0]?.rows[row] as RowView,
              column,
              text: [`item ${row} of ${seed}`, String(random.between(0, 99_999)), `=[r${row + 1}.c2]*2+1`][
                i
              ] as string,
              form: { format: random.pick(FORMATS), bold: random.chance(0.2) },
            })),
          );
        const rows = sheetsOf(tr.doc)[0]?.rows ?? [];
        moveLines(
          tr,
          rows,
          rows.filter(() => random.chance(0.3)),
          random.between(0, length),
        );
        expect(told(tr.doc, (text) => text)).toBe('No change');
        const [from, to] = [`item ${random.between(0, length - 1)} of ${seed},`, `thing of ${seed},`];
        expect(told(tr.doc, (text) => text.replace(from, to))).toMatch(
          /^A\d+ was “item \d+ of .*”, is “thing of .*”$/,
        );
      }),
      { numRuns: 200 * FUZZ },
    );
  });
});
