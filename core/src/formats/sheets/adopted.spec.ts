import * as fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { FUZZ } from '../../testing/budget.js';
import { Random } from '../../testing/random.js';
import type { PlainCell, PlainSheet } from './plain.js';
import { bookOf, plainOf, shownIn } from './plain.js';
import { readXlsx } from './xlsx-read.js';
import { writeXlsx } from './xlsx-write.js';
import { compare } from '../../compare/index.js';
import type { RowView, SheetView } from '../../kinds/sheet/index.js';
import {
  addColumns,
  blankBook,
  moveLines,
  readBook,
  sheetChanges,
  writeCells,
} from '../../kinds/sheet/index.js';
import { adopted } from './adopted.js';

const cell = (text: string): PlainCell => ({
  text,
  value: null,
  format: '',
  align: '',
  bold: false,
  fill: '',
});
const sheet = (name: string, lines: readonly (readonly string[])[]): PlainSheet => ({
  name,
  widths: [],
  frozenRows: 0,
  frozenColumns: 0,
  rows: lines.map((line) => line.map((text) => (text === '' ? null : cell(text)))),
});
const shown = ({ rows }: PlainSheet): string[][] =>
  rows.map((row) => row.map((one) => (one ? shownIn(one) : '')));
const ABOUT = { title: '', author: '', at: '' };

/** What is told of a book and of a file that was made of it and edited elsewhere, as lines. */
function told(before: readonly (readonly string[])[], after: readonly (readonly string[])[]): string[] {
  const now = bookOf([sheet('Rota', before)]);
  const random = new Random(7);
  const { doc } = readXlsx(writeXlsx(bookOf([sheet('Rota', after)]), ABOUT));
  const next = adopted(doc, now, () => random.next());
  next.check();
  expect(plainOf(next).map(shown)).toEqual(plainOf(doc).map(shown));
  return sheetChanges(now, next).map((change) => {
    if (change.kind === 'cell') return `${change.before} > ${change.after}`;
    return change.kind === 'sheet'
      ? `${change.turn} ${change.sheet}`
      : `${change.kind} ${change.turn} ${change.lines.length}`;
  });
}

describe('a file that goes on with the history of a book', () => {
  const ROTA = [
    ['Day', 'Who', 'Boat'],
    ['Mon', 'Jun', 'Heron'],
    ['Tue', 'Ada', 'Teal'],
    ['Wed', 'Ida', 'Gull'],
  ];

  it('knows rows by what they are called though all else in them is other, but not by numbers that count them', () => {
    expect(told(ROTA, [...ROTA.slice(0, 2), ['Tue', 'Noor', 'Wren', 'late'], ROTA[3] as string[]])).toEqual([
      'columns added 1',
      'Ada > Noor',
      'Teal > Wren',
    ]);
    const counted = [
      ['1', 'Jun'],
      ['2', 'Ada'],
      ['3', 'Ida'],
    ];
    expect(
      told(counted, [
        ['1', 'Jun'],
        ['2', 'Noor'],
        ['3', 'Ada'],
        ['4', 'Ida'],
      ]),
    ).toContain('rows added 1');
  });

  it('leaves cells and columns where they stand, in whatever order they were made', () => {
    const tr = new Transform(blankBook());
    addColumns(tr, readBook(tr.doc).sheets[0] as SheetView, 1, ['new']);
    for (const column of ['c3', 'c1', 'new', 'c2'])
      writeCells(tr, [{ row: readBook(tr.doc).sheets[0]?.rows[0] as RowView, column, text: column }]);
    const next = adopted(readXlsx(writeXlsx(tr.doc, ABOUT)).doc, tr.doc, () => 0.5);
    expect(next.toJSON()).toEqual(tr.doc.toJSON());
  });

  it('leaves the order of rows as it was kept, and empty rows and columns where they are', () => {
    const tr = new Transform(blankBook());
    const on = (): SheetView => readBook(tr.doc).sheets[0] as SheetView;
    const write = (row: number, text: string): void =>
      writeCells(tr, [{ row: on().rows[row] as RowView, column: 'c1', text }]);
    ['Mon', 'Tue', 'Wed', 'Thu'].forEach((text, row) => write(row, text));
    writeCells(
      tr,
      on()
        .rows.slice(0, 4)
        .map((row, i) => ({ row, column: 'c2', text: `boat ${i}` })),
    );
    moveLines(tr, on().rows, on().rows.slice(3, 4), 1);
    const now = tr.doc;
    const { doc } = readXlsx(writeXlsx(now, ABOUT));
    const random = new Random(3);
    const same = adopted(doc, now, () => random.next());
    expect(sheetChanges(now, same)).toEqual([]);
    expect(compare(now, same).changes).toEqual([]);
    write(1, 'Fri');
    const { doc: other } = readXlsx(writeXlsx(tr.doc, ABOUT));
    const next = adopted(other, now, () => random.next());
    expect(
      sheetChanges(now, next).flatMap((change) => (change.kind === 'cell' ? [change.after] : [])),
    ).toEqual(['Fri']);
  });

  it('is told by what changed in it: cells, rows and columns', () => {
    expect(told(ROTA, ROTA)).toEqual([]);
    expect(told(ROTA, [ROTA[0] ?? [], ['Mon', 'Max', 'Heron'], ...ROTA.slice(2)])).toEqual(['Jun > Max']);
    expect(told(ROTA, [...ROTA.slice(0, 2), ['Thu', 'Bo', 'Kite'], ...ROTA.slice(2)])).toEqual([
      'rows added 1',
    ]);
    expect(told(ROTA, [...ROTA.slice(0, 1), ...ROTA.slice(2)])).toEqual(['rows removed 1']);
    expect(told(ROTA, [...ROTA.slice(0, 1), ...ROTA.slice(2), ROTA[1] ?? []])).toEqual(['rows moved 1']);
    expect(
      told(
        ROTA,
        ROTA.map(([day = '', who = '', boat = '']) => [day, boat, who]),
      ),
    ).toEqual(['columns moved 1']);
    expect(
      told(
        ROTA,
        ROTA.map(([day = '', ...rest], i) => [day, `note ${i}`, ...rest]),
      ),
    ).toEqual(['columns added 1']);
    expect(
      told(
        ROTA,
        ROTA.map(([day = '', , boat = '']) => [day, boat]),
      ),
    ).toEqual(['columns removed 1']);
  });

  it('takes nothing for changed that a file only writes otherwise', () => {
    const typed = [['1,200.50', '12%', '2026-11-30', "'007", 'TRUE', '  spaced ']];
    expect(told(typed, typed)).toEqual([]);
    expect(told(typed, [['1,200.50', '13%', ...(typed[0] ?? []).slice(2)]])).toEqual(['12% > 0.13']);
  });

  it('keeps what formulas refer to', () => {
    const before = [
      ['4', '=A1*2'],
      ['5', '=A2*2'],
    ];
    expect(told(before, before)).toEqual([]);
    expect(
      told(before, [
        ['new', ''],
        ['4', '=A2*2'],
        ['5', '=A3*2'],
      ]),
    ).toEqual(['rows added 1']);
  });

  it('finds sheets by their name, and gives what is new a name of its own', () => {
    const now = bookOf([sheet('Rota', ROTA), sheet('Costs', [['1']])]);
    const random = new Random(1);
    const next = adopted(
      bookOf([sheet('Costs', [['1']]), sheet('Boats', [['x']]), sheet('Rota', ROTA)]),
      now,
      () => random.next(),
    );
    const ids = readBook(next).sheets.map(({ id, name }) => [name, id]);
    expect(ids.filter(([name]) => name !== 'Boats')).toEqual([
      ['Costs', 's2'],
      ['Rota', 'first'],
    ]);
    expect(ids[1]?.[1]).toMatch(/^[a-z0-9]{12}$/);
  });

  it('is told exactly, where rows can be told apart', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const before = Array.from({ length: random.between(2, 20) }, (_, r) =>
          Array.from({ length: 5 }, (_, c) => `${r} ${c} ${random.between(0, 999)}`),
        );
        const after = before.map((row) => [...row]);
        const wanted: string[] = [];
        for (const row of after) {
          if (!random.chance(0.3)) continue;
          const column = random.between(0, 4);
          const text = `changed ${random.between(0, 999)}`;
          wanted.push(`${row[column] ?? ''} > ${text}`);
          row[column] = text;
        }
        const added = random.between(0, 2);
        for (let i = 0; i < added; i++)
          after.splice(
            random.between(0, after.length),
            0,
            Array.from({ length: 5 }, (_, c) => `new ${i} ${c}`),
          );
        if (added > 0) wanted.push(`rows added ${added}`);
        expect(told(before, after).sort()).toEqual(wanted.sort());
      }),
      { numRuns: 200 * FUZZ },
    );
  });
});
