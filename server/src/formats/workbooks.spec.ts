import { bookOf, plainOf, readOds, readXlsx, shownIn, writeOds, writeXlsx } from '@oxbow/core/formats/sheets';
import type { PlainCell, PlainSheet } from '@oxbow/core/formats/sheets';
import { Random, anySheets } from '@oxbow/core/testing';
import exceljs from 'exceljs';
import sheetjs from 'xlsx';
import { openpyxlReads, openpyxlWrites } from '../testing/openpyxl.js';

const ABOUT = { title: 'Budget', author: 'Ines', at: '2026-11-30T10:00:00Z' };
const ALIGNED: Record<string, string | null> = { '': null, start: 'left', center: 'center', end: 'right' };

const letters = (column: number): string => String.fromCharCode(65 + column);

/** Every cell of a sheet with what it is called. */
function cellsOf({ rows }: PlainSheet): [name: string, cell: PlainCell][] {
  return rows.flatMap((row, r) =>
    row.flatMap((cell, c): [string, PlainCell][] => (cell ? [[`${letters(c)}${r + 1}`, cell]] : [])),
  );
}

/** Books that hold anything. */
const BOOKS = Array.from({ length: 12 }, (_, seed) => bookOf(anySheets(new Random(seed))));

/** A value as other readers tell it: what went wrong by its name. */
const worth = (value: PlainCell['value']): unknown =>
  value !== null && typeof value === 'object' ? value.name.replace(/#(CYCLE|ERROR)!/, '#VALUE!') : value;

describe('a workbook that is written', () => {
  it('is read alike by openpyxl: values, formulas, formats, looks, widths, what is frozen', () => {
    for (const book of BOOKS) {
      const [own, read] = [plainOf(book), openpyxlReads(writeXlsx(book, ABOUT))];
      expect(read.map(({ name }) => name)).toEqual(own.map(({ name }) => name));
      own.forEach((sheet, i) => {
        const there = read[i];
        const { frozenRows, frozenColumns } = sheet;
        const corner = frozenRows + frozenColumns > 0 ? `${letters(frozenColumns)}${frozenRows + 1}` : null;
        expect(there?.frozen).toBe(corner);
        for (const [name, cell] of cellsOf(sheet)) {
          const found = there?.cells[name];
          const isBare =
            cell.value === null && !cell.text.startsWith('=') && !cell.bold && !cell.fill && !cell.align;
          if (isBare) continue;
          expect(found?.formula ?? '')
            .withContext(name)
            .toBe(cell.text.startsWith('=') ? cell.text : '');
          const isTime = /^\d{4}-|^\d\d:/.test(String(found?.value));
          if (typeof cell.value === 'number' && !isTime)
            expect(Number(found?.value)).withContext(`${name} ${cell.text}`).toBeCloseTo(cell.value, 8);
          else if (typeof cell.value !== 'number')
            expect(found?.value ?? '')
              .withContext(name)
              .toEqual(worth(cell.value) ?? '');
          expect(found?.bold).toBe(cell.bold);
          expect(found?.align ?? null).toBe(ALIGNED[cell.align] ?? null);
          expect(found?.fill !== null).toBe(cell.fill !== '');
          if (cell.format) expect(found?.format).toBe(cell.format);
        }
      });
    }
  });

  it('is read alike by exceljs', async () => {
    for (const book of BOOKS.slice(0, 6)) {
      const read = new exceljs.Workbook();
      await read.xlsx.load(Buffer.from(writeXlsx(book, ABOUT)) as unknown as exceljs.Buffer);
      const own = plainOf(book);
      expect(read.worksheets.map(({ name }) => name)).toEqual(own.map(({ name }) => name));
      own.forEach((sheet, i) => {
        for (const [name, cell] of cellsOf(sheet)) {
          const found = read.worksheets[i]?.getCell(name);
          expect(found?.formula ?? '')
            .withContext(name)
            .toBe(cell.text.startsWith('=') ? cell.text.slice(1) : '');
          const value = cell.text.startsWith('=') ? found?.result : found?.value;
          // exceljs takes whatever a formula comes to in a format of days for a day.
          if (typeof cell.value === 'string' && !(value instanceof Date))
            expect(value).withContext(name).toBe(cell.value);
          if (typeof cell.value === 'number' && typeof value === 'number')
            expect(value).toBeCloseTo(cell.value, 8);
          expect(found?.font?.bold ?? false).toBe(cell.bold);
        }
      });
    }
  });
});

describe('a spreadsheet that is written', () => {
  // SheetJS reads both kinds of file by code of its own; signs that XML tells by their number it leaves as they are in .ods.
  it('is read alike by SheetJS, as .ods and as .xlsx', () => {
    for (const [i, book] of BOOKS.entries())
      for (const write of [writeOds, writeXlsx]) {
        const read = sheetjs.read(write(book, ABOUT), { cellDates: false, cellNF: true });
        const own = plainOf(book);
        const told = (name: string): string => (write === writeOds ? name.replaceAll('&', '&#x26;') : name);
        expect(read.SheetNames).toEqual(own.map(({ name }) => told(name)));
        for (const sheet of own)
          for (const [name, cell] of cellsOf(sheet)) {
            const found = read.Sheets[told(sheet.name)]?.[name] as sheetjs.CellObject | undefined;
            const where = `${i} ${write.name} ${sheet.name} ${name} ${cell.text}`;
            if (cell.text.startsWith('=') && !/['"&]/.test(cell.text))
              expect(found?.f).withContext(where).toBe(cell.text.slice(1));
            if (typeof cell.value === 'number' && found?.t === 'n')
              expect(found.v as number)
                .withContext(where)
                .toBeCloseTo(cell.value, 8);
            if (typeof cell.value === 'string' && found?.t === 's')
              expect(String(found.v).trim()).withContext(where).toBe(cell.value.trim());
            if (typeof cell.value === 'boolean') expect(found?.v).withContext(where).toBe(cell.value);
            if (cell.value !== null && typeof cell.value !== 'object')
              expect(found).withContext(where).toBeDefined();
          }
      }
  });

  it('of SheetJS is read, with what it says', () => {
    const book = sheetjs.utils.book_new();
    const sheet = sheetjs.utils.aoa_to_sheet([
      ['Day', 'Boats'],
      ['Mon', 4],
      ['Tue', 2.5],
      [true, null],
    ]);
    sheet['B4'] = { t: 'n', f: 'SUM(B2:B3)*Costs!A1', v: 65 };
    sheetjs.utils.book_append_sheet(book, sheet, 'Rota');
    sheetjs.utils.book_append_sheet(book, sheetjs.utils.aoa_to_sheet([[10]]), 'Costs');
    for (const [type, read] of [
      ['ods', readOds],
      ['xlsx', readXlsx],
    ] as const) {
      const bytes = new Uint8Array(sheetjs.write(book, { bookType: type, type: 'buffer' }) as Buffer);
      const { doc, leftOut } = read(bytes);
      expect(leftOut).toEqual([]);
      const sheets = plainOf(doc);
      expect(sheets[0]?.rows.map((row) => row.map((cell) => cell?.text ?? null))).toEqual([
        ['Day', 'Boats'],
        ['Mon', '4'],
        ['Tue', '2.5'],
        ['TRUE', '=SUM(B2:B3)*Costs!A1'],
      ]);
      expect(sheets[0]?.rows[3]?.[1]?.value).toBe(65);
    }
  });
});

describe('a workbook of another writer', () => {
  const shown = (sheets: readonly PlainSheet[], name: string): string | undefined => {
    const cell = cellsOf(sheets[0] as PlainSheet).find(([at]) => at === name)?.[1];
    return cell && `${shownIn(cell)} ${cell.text}`;
  };

  it('is read, of openpyxl', () => {
    const { doc, leftOut } = readXlsx(openpyxlWrites());
    const sheets = plainOf(doc);
    expect(leftOut).toEqual([]);
    expect(sheets.map(({ name }) => name)).toEqual(['Rota', 'Costs']);
    expect(['A1', 'A2', 'A3', 'A4', 'B2', 'B3', 'B4'].map((name) => shown(sheets, name))).toEqual([
      'Day Day',
      '2026-11-30 2026-11-30',
      'TRUE TRUE',
      "007 '007",
      '4 4',
      '2.50 2.5',
      '65 =SUM(B2:B3)*Costs!$A$1',
    ]);
    const [rota] = sheets as [PlainSheet];
    expect([rota.frozenRows, rota.frozenColumns, rota.widths[0]]).toEqual([1, 1, 145]);
    expect(rota.rows[0]?.map((cell) => [cell?.bold, cell?.align])).toEqual([
      [true, ''],
      [false, 'end'],
    ]);
    expect(rota.rows[1]?.[1]?.fill).toBe('reed');
  });

  it('is read, of exceljs', async () => {
    const book = new exceljs.Workbook();
    const sheet = book.addWorksheet('Rota', { views: [{ state: 'frozen', xSplit: 0, ySplit: 1 }] });
    sheet.addRow(['Day', 'Boats', 'Share']);
    sheet.addRow([new Date(Date.UTC(2026, 10, 30)), 4, 0.25]);
    sheet.addRow([
      null,
      { formula: 'B2*2', result: 8 },
      { richText: [{ text: 'low ' }, { font: { bold: true }, text: 'tide' }] },
    ]);
    sheet.getCell('A2').numFmt = 'yyyy-mm-dd';
    sheet.getCell('C2').numFmt = '0%';
    sheet.mergeCells('A4:B4');
    const { doc, leftOut } = readXlsx(new Uint8Array(await book.xlsx.writeBuffer()));
    const sheets = plainOf(doc);
    expect(['A2', 'B2', 'C2', 'B3', 'C3'].map((name) => shown(sheets, name))).toEqual([
      '2026-11-30 2026-11-30',
      '4 4',
      '25% 0.25',
      '8 =B2*2',
      'low tide low tide',
    ]);
    expect(sheets[0]?.frozenRows).toBe(1);
    expect(leftOut.map(({ what }) => what)).toEqual([
      'looks of parts of a cell’s text',
      'cells that were merged',
    ]);
  });
});
