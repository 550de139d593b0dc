import * as fc from 'fast-check';
import { plainText } from '../../content/index.js';
import { kindOf } from '../../kinds/index.js';
import { readBook, sheetChanges } from '../../kinds/sheet/index.js';
import { FUZZ } from '../../testing/budget.js';
import { Random } from '../../testing/random.js';
import { anySheets } from '../../testing/workbooks.js';
import { utf8 } from '../bytes.js';
import { FormatError } from '../format.js';
import { pack } from '../packed/zip.js';
import type { PlainSheet } from './index.js';
import {
  bookOf,
  plainOf,
  readCsv,
  readOds,
  readXlsx,
  shownIn,
  writeCsv,
  writeOds,
  writeXlsx,
} from './index.js';
import { formatOf, numberStyle } from './ods-formats.js';
import { openFormula, typedFormula } from './openformula.js';

const ABOUT = { title: 'Budget', author: 'Ines', at: '2026-11-30T10:00:00Z' };

/** A sheet as it is shown: what each cell comes to in its format, and what it looks like. */
function shown(sheets: readonly PlainSheet[]): unknown {
  return sheets.map(({ name, widths, frozenRows, frozenColumns, rows }) => ({
    name,
    widths: widths
      .map((width) => width ?? 96)
      .join(' ')
      .replace(/( ?96)+$/, ''),
    frozenRows,
    frozenColumns,
    cells: rows.map((row) =>
      row.map((cell) =>
        cell
          ? [shownIn(cell), cell.align, cell.bold, cell.fill, cell.text.startsWith('=') ? cell.text : '']
          : null,
      ),
    ),
  }));
}

describe('comma-separated values', () => {
  // The grammar and the numbered rules of RFC 4180, section 2.
  it('are read as RFC 4180 has them', () => {
    const lines = (text: string): unknown[][] =>
      (plainOf(readCsv(text))[0]?.rows ?? []).map((row) => row.map((cell) => cell?.text ?? null));
    expect(lines('aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n')).toEqual([
      ['aaa', 'bbb', 'ccc'],
      ['zzz', 'yyy', 'xxx'],
    ]);
    expect(lines('"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx')).toEqual([
      ['aaa', 'b\nbb', 'ccc'],
      ['zzz', 'yyy', 'xxx'],
    ]);
    expect(lines('"aaa","b""bb","ccc"')).toEqual([['aaa', 'b"bb', 'ccc']]);
  });

  it('may have another sign between, a mark at the start, gaps, and no formulas', () => {
    const texts = (text: string): unknown =>
      plainOf(readCsv(text))[0]?.rows.map((row) => row.map((cell) => cell?.text ?? null));
    expect(texts('\ufeffDay;Who\n1,5;Jun\n')).toEqual([
      ['Day', 'Who'],
      ['1,5', 'Jun'],
    ]);
    expect(texts('a\tb\n\n\tc')).toEqual([['a', 'b'], [], [null, 'c']]);
    expect(texts('=1+1,12')).toEqual([["'=1+1", '12']]);
    expect(plainOf(readCsv('=1+1,12'))[0]?.rows[0]?.map((cell) => cell?.value)).toEqual(['=1+1', 12]);
    expect(() => readCsv('"open')).toThrowError(FormatError);
    expect(kindOf(readCsv('')).name).toBe('sheet');
  });

  it('come back as they are shown', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const book = bookOf(anySheets(new Random(seed)));
        const grid = (rows: readonly (readonly string[])[]): string =>
          rows
            .map((row) => row.join('\t').trimEnd())
            .join('\n')
            .trimEnd();
        const written = (plainOf(book)[0]?.rows ?? []).map((row) =>
          row.map((cell) => (cell ? shownIn(cell).replace(/\r/g, '') : '')),
        );
        const read = (plainOf(readCsv(writeCsv(book)))[0]?.rows ?? []).map((row) =>
          row.map((cell) => cell?.text.replace(/^'(?=[='])/, '') ?? ''),
        );
        expect(grid(read)).toBe(grid(written));
      }),
      { numRuns: 100 * FUZZ },
    );
  });
});

for (const [what, write, read] of [
  ['a workbook (.xlsx)', writeXlsx, readXlsx],
  ['a spreadsheet (.ods)', writeOds, readOds],
] as const)
  describe(what, () => {
    it('comes back with all that a book holds: names, widths, what is frozen, values, formulas and looks', () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const book = bookOf(anySheets(new Random(seed)));
          const { doc, leftOut, author, title } = read(write(book, ABOUT));
          doc.check();
          expect(shown(plainOf(doc))).toEqual(shown(plainOf(book)));
          expect(leftOut).toEqual([]);
          expect([author, title]).toEqual(['Ines', 'Budget']);
        }),
        { numRuns: 150 * FUZZ },
      );
    });
    it('gives the same bytes for the same book', () => {
      const book = bookOf(anySheets(new Random(8)));
      expect(write(book, ABOUT)).toEqual(write(book, ABOUT));
    });

    it('keeps formulas by what they refer to', () => {
      const sheets: PlainSheet[] = [
        {
          name: 'Rota',
          widths: [],
          frozenRows: 0,
          frozenColumns: 0,
          rows: [[cell('4'), cell("='Mill costs'!B1*A1")]],
        },
        { name: 'Mill costs', widths: [], frozenRows: 0, frozenColumns: 0, rows: [[null, cell('2.5')]] },
      ];
      const { doc } = read(write(bookOf(sheets), ABOUT));
      expect(doc.textContent).toContain('=[s2!r1.c2]*[r1.c1]');
      expect(plainOf(doc)[0]?.rows[0]?.[1]?.value).toBe(10);
      expect(sheetChanges(bookOf(sheets), doc)).toEqual([]);
      expect(plainText(readBook(doc).sheets[0]?.rows[0]?.node ?? doc)).toBe('4\t=[s2!r1.c2]*[r1.c1]');
    });
  });

describe('a workbook file', () => {
  it('reads shared formulas and strings, formats by number, days of the 1904 system, and says what it leaves out', () => {
    const X = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"';
    const R = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
    const rel = (id: string, type: string, target: string): string =>
      `<Relationship Id="${id}" Type="${R}/${type}" Target="${target}"/>`;
    const rels = (all: string): string =>
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${all}</Relationships>`;
    const bytes = pack([
      { name: '_rels/.rels', content: rels(rel('a', 'officeDocument', 'xl/workbook.xml')) },
      {
        name: 'xl/workbook.xml',
        content: `<workbook ${X} xmlns:r="${R}"><workbookPr date1904="1"/><sheets><sheet name="One" sheetId="1" state="hidden" r:id="s"/></sheets></workbook>`,
      },
      {
        name: 'xl/_rels/workbook.xml.rels',
        content: rels(
          rel('s', 'worksheet', 'worksheets/one.xml') +
            rel('t', 'styles', 'styles.xml') +
            rel('u', 'sharedStrings', 'strings.xml'),
        ),
      },
      {
        name: 'xl/styles.xml',
        content: `<styleSheet ${X}><fonts><font/></fonts><fills><fill><patternFill patternType="solid"><fgColor rgb="FFFFF0A8"/></patternFill></fill></fills><cellXfs><xf numFmtId="0"/><xf numFmtId="14" fillId="0"/><xf numFmtId="10"/></cellXfs></styleSheet>`,
      },
      {
        name: 'xl/strings.xml',
        content: `<sst ${X}><si><t>12</t></si><si><r><rPr><b/></rPr><t>bold</t></r><r><t xml:space="preserve"> plain_x000A_end</t></r><rPh><t>said</t></rPh></si></sst>`,
      },
      {
        name: 'xl/worksheets/one.xml',
        content: `<worksheet ${X}><sheetData><row r="2"><c r="B2" t="s"><v>0</v></c><c t="s"><v>1</v></c><c r="E2" s="1"><v>1</v></c></row><row><c><f t="shared" ref="A3:A4" si="0">B3+$B$3</f><v>9</v></c><c s="2"><v>0.5</v></c></row><row><c><f t="shared" si="0"/></c><c t="b"><v>1</v></c><c t="e"><v>#N/A</v></c><c><f>_xlfn.CONCAT("_xlfn.",1)</f></c></row></sheetData><mergeCells count="1"><mergeCell ref="A1:B1"/></mergeCells></worksheet>`,
      },
    ]);
    const { doc, leftOut } = readXlsx(bytes);
    const [sheet] = plainOf(doc);
    expect(sheet?.rows.map((row) => row.map((one) => one?.text ?? null))).toEqual([
      [],
      [null, "'12", 'bold plain\nend', null, '1904-01-02'],
      ['=B3+$B$3', '0.5'],
      ['=B4+$B$3', 'TRUE', '#N/A', '=CONCAT("_xlfn.",1)'],
    ]);
    expect(sheet?.rows[2]?.[1]?.format).toBe('0.00%');
    expect(sheet?.rows[1]?.[4]?.fill).toBe('sand');
    expect(sheet?.rows[3]?.[0]?.value).toBe(1.5);
    expect(leftOut).toEqual([
      { what: 'looks of parts of a cell’s text', times: 1 },
      { what: 'that sheets are hidden', times: 1 },
      { what: 'cells that were merged', times: 1 },
    ]);
  });

  it('of OpenDocument has formulas in OpenFormula, and says number formats as styles', () => {
    // The syntax of ODF 1.2 Part 2, 5.8 (references) and 5.13 (arrays in braces, rows parted by a bar).
    const pairs: [string, string][] = [
      ['=SUM(A1:B2,3)*$C$4', 'of:=SUM([.A1:.B2];3)*[.$C$4]'],
      ["='Mill costs'!A1+Rota!B2", "of:=[$'Mill costs'.A1]+[$Rota.B2]"],
      ['=IF(A1>1,"a, b; ""A1""","")', 'of:=IF([.A1]>1;"a, b; ""A1""";"")'],
      ['=SUM({1,2;3,4})', 'of:=SUM({1;2|3;4})'],
      ['=SUM(A:$B)+SUM(2:3)', 'of:=SUM([.A1:.$B1048576])+SUM([.A2:.XFD3])'],
    ];
    for (const [typed, open] of pairs) {
      expect(openFormula(typed)).toBe(open);
      expect(typedFormula(open)).toBe(typed);
    }
    expect(typedFormula('msoxl:A1')).toBeNull();
    const formats =
      '0|0.00|#,##0|#,##0.00|0%|0.0%|0.00E+00|yyyy-mm-dd|d mmm yyyy|dddd|hh:mm|hh:mm:ss|h:mm AM/PM|@|"about "0|0.00" kg"';
    for (const format of formats.split('|')) {
      const style = numberStyle('N', format);
      expect(style && formatOf(style))
        .withContext(format)
        .toBe(format);
    }
    for (const format of ['0;(0)', '[>1]0', '# ?/?'])
      expect(numberStyle('N', format)).withContext(format).toBeNull();
  });

  it('says what is wrong with one that is none, is damaged, or is too large', () => {
    for (const bytes of [utf8('no zip'), pack([{ name: 'a.txt', content: 'x' }]), new Uint8Array()])
      for (const read of [readXlsx, readOds]) expect(() => read(bytes)).toThrowError(FormatError);
    const wide: PlainSheet = {
      name: '',
      widths: [],
      frozenRows: 0,
      frozenColumns: 0,
      rows: [Array<null>(1001).fill(null)],
    };
    expect(() => bookOf([wide])).toThrowError(FormatError);
  });
});

function cell(text: string) {
  return { text, value: null, format: '', align: '', bold: false, fill: '' };
}
