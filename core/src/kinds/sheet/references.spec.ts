import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { FUZZ } from '../../testing/budget.js';
import { Random, freshLetters } from '../../testing/random.js';
import { SHEET_HAND } from '../../testing/sheets.js';
import { cellAt, moveLines, readBook, removeLine, sheetSchema, writeCells } from './index.js';
import {
  Places,
  indexOfLetters,
  isFormula,
  lettersOf,
  referencesOf,
  shiftedFormula,
  shownFormula,
  storedFormula,
} from './references.js';

/** Two sheets of three columns and nine rows each; the second one's name needs quotes. */
function book(): Node {
  const columns = ['x', 'y', 'z'].map((id, i) => sheetSchema.node('column', { id, place: `a${i}` }));
  const rows = (sheet: string): Node[] =>
    Array.from({ length: 9 }, (_, i) =>
      sheetSchema.node('row', { id: `${sheet}${i + 1}`, sheet, place: `a${i}` }),
    );
  return sheetSchema.node('book', null, [
    sheetSchema.node('sheet', { id: 'a', name: 'Rota', place: 'a0' }, columns),
    ...rows('a'),
    sheetSchema.node('sheet', { id: 'b', name: "The mill's costs", place: 'a1' }, columns),
    ...rows('b'),
  ]);
}

const places = new Places(readBook(book()));

describe('references in formulas', () => {
  it('are kept by name and shown in A1 notation', () => {
    const pairs: [typed: string, stored: string][] = [
      ['=A1', '=[a1.x]'],
      ['=SUM(A1:C3)*$B$2', '=SUM([a1.x]:[a3.z])*[$a2.$y]'],
      ["='The mill''s costs'!A2+1", '=[b!b2.x]+1'],
      ['=SUM(A:B)', '=SUM([.x]:[.y])'],
      ['=SUM(2:$4)', '=SUM([a2.]:[$a4.])'],
      ['="A1 and ""A2"""&A3', '="A1 and ""A2"""&[a3.x]'],
      ['=LOG10(A1)+ATAN2(1,2)', '=LOG10([a1.x])+ATAN2(1,2)'],
      ['=D1+A10', '=D1+A10'],
      ['=Unknown!A1', '=Unknown!A1'],
      ['=XA1_b+1.A2', '=XA1_b+1.A2'],
    ];
    for (const [typed, stored] of pairs) {
      expect(storedFormula(typed, places, 'a')).toBe(stored);
      expect(shownFormula(stored, places, 'a')).toBe(typed);
    }
    expect(storedFormula('=a1+rota!b2', places, 'a')).toBe('=[a1.x]+[a!a2.y]');
    expect(isFormula('=')).toBeFalse();
  });

  it('say what they refer to', () => {
    expect(referencesOf('=SUM([a1.x]:[$a3.z])+[b!b2.$x]&"[a9.x]"&[.y]:[.z]')).toEqual([
      [
        { sheet: null, row: 'a1', column: 'x' },
        { sheet: null, row: 'a3', column: 'z' },
      ],
      [{ sheet: 'b', row: 'b2', column: 'x' }],
      [
        { sheet: null, row: null, column: 'y' },
        { sheet: null, row: null, column: 'z' },
      ],
    ]);
  });

  it('refer to what they referred to wherever it goes, and say so when it is gone', () => {
    const tr = new Transform(book());
    const [sheet] = readBook(tr.doc).sheets;
    moveLines(tr, sheet?.rows ?? [], sheet?.rows.slice(0, 1) ?? [], 9);
    moveLines(tr, sheet?.columns ?? [], sheet?.columns.slice(2) ?? [], 0);
    const moved = new Places(readBook(tr.doc));
    expect(shownFormula('=[a1.x]+[a2.z]', moved, 'a')).toBe('=B9+A1');
    const row = readBook(tr.doc).sheets[0]?.rows[0];
    if (row) removeLine(tr, row);
    expect(shownFormula('=[a1.x]+[a2.z]+SUM([a2.]:[a3.])', new Places(readBook(tr.doc)), 'a')).toBe(
      '=B8+#REF!+SUM(#REF!)',
    );
  });

  it('move along when a formula is copied, but for what is fixed', () => {
    expect(shiftedFormula('=A1+$A1+A$1+$A$1', 2, 1)).toBe('=B3+$A3+B$1+$A$1');
    expect(shiftedFormula('=SUM(A:B)+SUM(1:2)&"A1"', 1, 1)).toBe('=SUM(B:C)+SUM(2:3)&"A1"');
    expect(shiftedFormula("='The mill''s costs'!B2", -1, -1)).toBe("='The mill''s costs'!A1");
    expect(shiftedFormula('=A1', -1, 0)).toBe('=#REF!');
  });

  it('name columns as ISO/IEC 29500 does', () => {
    // Values from memory: XFD is the 16,384th column, the last that ISO/IEC 29500-1 lets a sheet have.
    expect([0, 25, 26, 51, 52, 701, 702, 16383].map(lettersOf)).toEqual([
      'A',
      'Z',
      'AA',
      'AZ',
      'BA',
      'ZZ',
      'AAA',
      'XFD',
    ]);
    for (let i = 0; i < 2000; i++) expect(indexOfLetters(lettersOf(i))).toBe(i);
  });

  it('stay with what they named through whatever several people do', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const fresh = freshLetters();
        let now = book();
        const rows = readBook(now).sheets[0]?.rows ?? [];
        const tr = new Transform(now);
        writeCells(
          tr,
          rows.map((row, i) => ({ row, column: 'x', text: `mark ${i}` })),
        );
        now = tr.doc;
        const stored = storedFormula('=A5', new Places(readBook(now)), 'a');
        for (let i = 0; i < 12; i++) now = SHEET_HAND.act(random, now, fresh, true).doc;
        const view = readBook(now);
        const shown = shownFormula(stored, new Places(view), 'a');
        const sheet = view.sheets.find(({ id }) => id === 'a');
        const row = sheet?.rows.find(({ id }) => id === 'a5');
        const column = sheet?.columns.findIndex(({ id }) => id === 'x') ?? -1;
        if (!sheet || !row || column < 0) return void expect(shown).toBe('=#REF!');
        const [, letters = '', digits = ''] = /^=([A-Z]+)(\d+)$/.exec(shown) ?? [];
        const there = sheet.rows[Number(digits) - 1];
        expect(sheet.columns[indexOfLetters(letters)]?.id).toBe('x');
        expect(there?.id).toBe('a5');
        expect(there && cellAt(there, 'x')?.cell).toBe(cellAt(row, 'x')?.cell);
      }),
      { numRuns: 300 * FUZZ },
    );
  });
});
