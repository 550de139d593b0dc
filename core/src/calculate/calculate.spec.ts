import * as fc from 'fast-check';
import { format, parseValue } from 'numfmt';
import type { Node } from 'prosemirror-model';
import { FUZZ } from '../testing/budget.js';
import { Places, readBook, sheetSchema, storedFormula } from '../kinds/sheet/index.js';
import { Calculation, Fault, formatTyped, isDay, shownValue, valueOf } from './index.js';
import type { Value } from './index.js';

const LETTERS = 'abcdefgh';

/** A book of one sheet, or of several by name, of lines of cells as they are typed. */
function book(sheets: Readonly<Record<string, readonly (readonly string[])[]>>): Node {
  const nodes = Object.entries(sheets).flatMap(([name, lines], s) => [
    sheetSchema.node(
      'sheet',
      { id: `s${s}`, name, place: `a${s}` },
      [...LETTERS].map((id, i) => sheetSchema.node('column', { id, place: `a${i}` })),
    ),
    ...lines.map((_, i) => sheetSchema.node('row', { id: `r${i}`, sheet: `s${s}`, place: placeOf(i) })),
  ]);
  const bare = sheetSchema.node('book', null, nodes);
  const places = new Places(readBook(bare));
  const lineOf = Object.values(sheets);
  return sheetSchema.node(
    'book',
    null,
    bare.children.map((node) => {
      if (node.type.name !== 'row') return node;
      const sheet = String(node.attrs['sheet']);
      const cells = lineOf[Number(sheet.slice(1))]?.[Number(String(node.attrs['id']).slice(1))] ?? [];
      return node.type.create(
        node.attrs,
        cells.flatMap((typed, i) =>
          typed === ''
            ? []
            : [
                sheetSchema.node(
                  'cell',
                  { column: LETTERS[i] ?? '' },
                  sheetSchema.text(storedFormula(typed, places, sheet)),
                ),
              ],
        ),
      );
    }),
  );
}

/** A key of order for an index, of equal length so that they sort. */
function placeOf(index: number): string {
  return `d${String(index).padStart(4, '0')}`;
}

function values(lines: readonly (readonly string[])[], now: number | null = null): unknown[][] {
  const calculation = new Calculation(readBook(book({ Rota: lines })), now);
  return lines.map((line, row) => line.map((_, column) => plain(calculation.at('s0', row, column))));
}

const plain = (value: Value): unknown => (value instanceof Fault ? value.name : value);
const comesTo = (typed: string, ...more: readonly (readonly string[])[]): unknown =>
  values([[typed], ...more])[0]?.[0];

describe('what is typed into a cell', () => {
  it('is a number, a share, an amount, a day, yes or no, or text', () => {
    const read: [string, Value][] = [
      ['', null],
      ['12', 12],
      ['-3.5', -3.5],
      ['1e5', 100_000],
      ['12%', 0.12],
      ['1,200.50', 1200.5],
      // The 1900 system counts 1 January 1900 as 1 (ISO/IEC 29500-1, 18.17.4.1); the number is from memory, and by a loop over days below.
      ['2026-11-30', 46_356],
      ['TRUE', true],
      ['Heron', 'Heron'],
      ["'007", '007'],
      ['12:30', 12.5 / 24],
      ['3/4', '3/4'],
      ['1 1 80', '1 1 80'],
      ['30.11.2026', '30.11.2026'],
    ];
    for (const [text, value] of read) expect(valueOf(text)).withContext(text).toEqual(value);
    expect(Date.UTC(2026, 10, 30) / 86_400_000 + 25_569).toBe(46_356);
    expect(['12%', '2026-11-30', 'Heron', "'12%"].map(formatTyped)).toEqual(['0%', 'yyyy-mm-dd', '', '']);
  });

  it('reads and shows plain numbers as the reader of all forms does', () => {
    fc.assert(
      fc.property(fc.integer({ min: -(10 ** 12), max: 10 ** 12 }), fc.nat({ max: 4 }), (whole, places) => {
        for (const number of [whole, whole / 10 ** places, whole % 1000]) {
          const text = String(number);
          expect(valueOf(text))
            .withContext(text)
            .toBe(parseValue(text)?.v ?? null);
          expect(formatTyped(text))
            .withContext(text)
            .toBe(parseValue(text)?.z ?? '');
          expect(shownValue(number)).withContext(text).toBe(format('General', number));
        }
      }),
      { numRuns: 500 * FUZZ },
    );
  });

  it('is shown in a number format', () => {
    expect(shownValue(1234.5, '#,##0.00')).toBe('1,234.50');
    expect(shownValue(0.256, '0.0%')).toBe('25.6%');
    expect(shownValue(46_356, 'yyyy-mm-dd')).toBe('2026-11-30');
    expect(shownValue(-2, '0.0;(0.0)')).toBe('(2.0)');
    expect(shownValue(2.5, 'no [format')).toBe('2.5');
    expect(shownValue(null, '0')).toBe('');
    expect(shownValue(new Fault('#REF!'))).toBe('#REF!');
    expect([isDay('yyyy-mm-dd'), isDay('0.00'), isDay('')]).toEqual([true, false, false]);
  });
});

describe('formulas', () => {
  it('are calculated after what they need, wherever that stands', () => {
    expect(
      values([
        ['=B1+1', '=C1*2', '=SUM(A3:C4)'],
        ['=A1&" boats"', '', ''],
        ['1', '2', '3'],
        ['4', '5', '=A3+10'],
      ]),
    ).toEqual([
      [53, 52, 26],
      ['53 boats', null, null],
      [1, 2, 3],
      [4, 5, 11],
    ]);
  });

  it('reach other sheets, whole columns and whole rows', () => {
    const two = book({
      Rota: [
        ["='Mill costs'!A1+SUM('Mill costs'!A:A)", '=SUM(2:2)'],
        ['4', '5'],
      ],
      'Mill costs': [['10'], ['20']],
    });
    const calculation = new Calculation(readBook(two));
    expect(calculation.value('s0', 'r0', 'a')).toBe(40);
    expect(calculation.value('s0', 'r0', 'b')).toBe(9);
  });

  it('say what is wrong with them', () => {
    const faults: [string, string][] = [
      ['=1/0', '#DIV/0!'],
      ['=NOSUCH(1)', '#NAME?'],
      ['="a"+1', '#VALUE!'],
      ['=SQRT(-1)', '#NUM!'],
      ['=Nowhere!A1', '#REF!'],
      ['=SUM(1,', '#ERROR!'],
      ['=RAND()', '#NAME?'],
      ['=NOW()', '#NAME?'],
      ['=B1+1', '#DIV/0!'],
    ];
    for (const [typed, fault] of faults)
      expect(values([[typed, '=1/0']])[0]?.[0])
        .withContext(typed)
        .toBe(fault);
  });

  it('that need themselves are told so, and what needs those', () => {
    expect(values([['=B1', '=A1', '=A1+1', '=D1', '7']])).toEqual([
      ['#CYCLE!', '#CYCLE!', '#CYCLE!', '#CYCLE!', 7],
    ]);
    expect(values([['=SUM(A1:C1)', '1', '2']])[0]?.[0]).toBe('#CYCLE!');
  });

  it('in a chain of five thousand are no deeper than one', () => {
    const lines = Array.from({ length: 5000 }, (_, i) => [i === 0 ? '1' : `=A${i}+1`]);
    expect(values(lines).at(-1)).toEqual([5000]);
  });

  it('know the day that they are asked on, and no other', () => {
    expect(values([['=TODAY()', '=NOW()-TODAY()']], 46_356.25)).toEqual([[46_356, 0.25]]);
  });

  // Functions and their arguments as ISO/IEC 29500-1, 18.17.7, names and defines them. The standard is not at hand here: the values follow from its
  // definitions, worked out by hand or known by heart (from memory).
  const DATA = [
    ['3', '1', 'Heron', '46023'],
    ['5', '2', 'Teal', '46054'],
    ['8', '3', 'Gull', '46082'],
    ['13', '4', 'Heron', '46113'],
  ];
  const FUNCTIONS: [section: string, typed: string, value: unknown][] = [
    ['ABS', '=ABS(-2.5)', 2.5],
    ['ACOS', '=ACOS(-1)', Math.PI],
    ['ACOSH', '=ACOSH(1)', 0],
    ['AND', '=AND(TRUE,1>2)', false],
    ['ASIN', '=ASIN(1)', Math.PI / 2],
    ['ASINH', '=ASINH(0)', 0],
    ['ATAN', '=ATAN(1)', Math.PI / 4],
    ['ATAN2', '=ATAN2(1,1)', Math.PI / 4],
    ['ATANH', '=ATANH(0)', 0],
    ['AVEDEV', '=AVEDEV(2,4,8,16)', 4.5],
    ['AVERAGE', '=AVERAGE(A2:A5)', 7.25],
    ['AVERAGEA', '=AVERAGEA(1,2,3)', 2],
    ['AVERAGEIF', '=AVERAGEIF(A2:A5,">4")', 26 / 3],
    ['BIN2DEC', '=BIN2DEC("1100100")', 100],
    ['BIN2HEX', '=BIN2HEX("11111011")', 'FB'],
    ['BIN2OCT', '=BIN2OCT("1100100")', '144'],
    ['CEILING', '=CEILING(2.5,1)', 3],
    ['CHAR', '=CHAR(65)', 'A'],
    ['CHOOSE', '=CHOOSE(2,"ebb","flood","slack")', 'flood'],
    ['CODE', '=CODE("A")', 65],
    ['COLUMN', '=COLUMN(C5)', 3],
    ['COLUMNS', '=COLUMNS(A2:C5)', 3],
    ['COMBIN', '=COMBIN(8,2)', 28],
    ['CONCATENATE', '=CONCATENATE("mill"," ","race")', 'mill race'],
    ['CONVERT', '=CONVERT(1,"km","m")', 1000],
    ['CORREL', '=CORREL(A2:A3,B2:B3)', 1],
    ['COS', '=COS(0)', 1],
    ['COSH', '=COSH(0)', 1],
    ['COUNT', '=COUNT(A2:C5)', 8],
    ['COUNTA', '=COUNTA(A2:C5)', 12],
    ['COUNTBLANK', '=COUNTBLANK(A2:E2)', 1],
    ['COUNTIF', '=COUNTIF(C2:C5,"Heron")', 2],
    ['DATE', '=DATE(2026,11,30)', 46_356],
    ['DAY', '=DAY(46356)', 30],
    ['DAYS360', '=DAYS360(DATE(2026,1,30),DATE(2026,2,1))', 1],
    ['DEC2BIN', '=DEC2BIN(9,4)', '1001'],
    ['DEC2HEX', '=DEC2HEX(100,4)', '0064'],
    ['DEC2OCT', '=DEC2OCT(58,3)', '072'],
    ['DEGREES', '=DEGREES(PI())', 180],
    ['DELTA', '=DELTA(5,5)', 1],
    ['DEVSQ', '=DEVSQ(1,2,3)', 2],
    ['EDATE', '=EDATE(DATE(2026,1,15),1)', 46_068],
    ['EOMONTH', '=EOMONTH(DATE(2026,1,15),0)', 46_053],
    ['EVEN', '=EVEN(1.5)', 2],
    ['EXACT', '=EXACT("Weir","weir")', false],
    ['EXP', '=EXP(0)', 1],
    ['FACT', '=FACT(5)', 120],
    ['FACTDOUBLE', '=FACTDOUBLE(7)', 105],
    ['FALSE', '=FALSE()', false],
    ['FIND', '=FIND("M","Miriam McGovern")', 1],
    ['FISHER', '=FISHER(0)', 0],
    ['FLOOR', '=FLOOR(2.5,1)', 2],
    ['FV', '=FV(0,10,-100)', 1000],
    ['GCD', '=GCD(24,36)', 12],
    ['GEOMEAN', '=GEOMEAN(2,8)', 4],
    ['GESTEP', '=GESTEP(5,4)', 1],
    ['HARMEAN', '=HARMEAN(2,2)', 2],
    ['HEX2BIN', '=HEX2BIN("F",8)', '00001111'],
    ['HEX2DEC', '=HEX2DEC("A5")', 165],
    ['HLOOKUP', '=HLOOKUP(3,A2:C3,2,FALSE)', 5],
    ['HOUR', '=HOUR(0.78125)', 18],
    ['IF', '=IF(A2>2,"spring","neap")', 'spring'],
    ['IFERROR', '=IFERROR(1/0,"none")', 'none'],
    ['IMABS', '=IMABS("5+12i")', 13],
    ['INDEX', '=INDEX(A2:C5,2,3)', 'Teal'],
    ['INT', '=INT(-8.9)', -9],
    ['ISBLANK', '=ISBLANK(E2)', true],
    ['ISERROR', '=ISERROR(1/0)', true],
    ['ISEVEN', '=ISEVEN(2.5)', true],
    ['ISNUMBER', '=ISNUMBER(A2)', true],
    ['ISTEXT', '=ISTEXT(C2)', true],
    ['LARGE', '=LARGE(A2:A5,2)', 8],
    ['LCM', '=LCM(24,36)', 72],
    ['LEFT', '=LEFT("sluice",3)', 'slu'],
    ['LEN', '=LEN("tide mill")', 9],
    ['LN', '=LN(1)', 0],
    ['LOG', '=LOG(8,2)', 3],
    ['LOG10', '=LOG10(1000)', 3],
    ['LOWER', '=LOWER("Mill")', 'mill'],
    ['MATCH', '=MATCH(8,A2:A5,0)', 3],
    ['MAX', '=MAX(A2:A5)', 13],
    ['MEDIAN', '=MEDIAN(A2:A5)', 6.5],
    ['MID', '=MID("sluice",2,3)', 'lui'],
    ['MIN', '=MIN(A2:A5)', 3],
    ['MINUTE', '=MINUTE(0.78125)', 45],
    ['MOD', '=MOD(-3,2)', 1],
    ['MODE', '=MODE(1,2,2,3)', 2],
    ['MONTH', '=MONTH(46356)', 11],
    ['MROUND', '=MROUND(10,3)', 9],
    ['MULTINOMIAL', '=MULTINOMIAL(2,3,4)', 1260],
    ['NETWORKDAYS', '=NETWORKDAYS(DATE(2026,11,23),DATE(2026,11,30))', 6],
    ['NOT', '=NOT(FALSE)', true],
    ['NPV', '=NPV(0,1,2,3)', 6],
    ['OCT2DEC', '=OCT2DEC("54")', 44],
    ['ODD', '=ODD(1.5)', 3],
    ['OR', '=OR(FALSE,1<2)', true],
    ['PERCENTILE', '=PERCENTILE(B2:B5,0.5)', 2.5],
    ['PERMUT', '=PERMUT(5,2)', 20],
    ['PI', '=PI()', Math.PI],
    ['PMT', '=PMT(0,10,1000)', -100],
    ['POWER', '=POWER(5,2)', 25],
    ['PRODUCT', '=PRODUCT(B2:B5)', 24],
    ['PROPER', '=PROPER("tide mill")', 'Tide Mill'],
    ['QUARTILE', '=QUARTILE(B2:B5,2)', 2.5],
    ['QUOTIENT', '=QUOTIENT(5,2)', 2],
    ['RADIANS', '=RADIANS(180)', Math.PI],
    ['RANK', '=RANK(8,A2:A5)', 2],
    ['REPLACE', '=REPLACE("sluice",1,2,"j")', 'juice'],
    ['REPT', '=REPT("ab",3)', 'ababab'],
    ['RIGHT', '=RIGHT("sluice",3)', 'ice'],
    ['ROMAN', '=ROMAN(499,0)', 'CDXCIX'],
    ['ROUND', '=ROUND(2.15,1)', 2.2],
    ['ROUNDDOWN', '=ROUNDDOWN(3.9,0)', 3],
    ['ROUNDUP', '=ROUNDUP(3.2,0)', 4],
    ['ROW', '=ROW(C5)', 5],
    ['ROWS', '=ROWS(A2:C5)', 4],
    ['SEARCH', '=SEARCH("m","The mill")', 5],
    ['SIGN', '=SIGN(-3)', -1],
    ['SIN', '=SIN(0)', 0],
    ['SLOPE', '=SLOPE(B2:B3,B2:B3)', 1],
    ['SMALL', '=SMALL(A2:A5,2)', 5],
    ['SQRT', '=SQRT(16)', 4],
    ['STDEV', '=STDEV(1,2,3)', 1],
    ['SUBSTITUTE', '=SUBSTITUTE("low tide","low","high")', 'high tide'],
    ['SUM', '=SUM(A2:A5)', 29],
    ['SUMIF', '=SUMIF(C2:C5,"Heron",A2:A5)', 16],
    ['SUMPRODUCT', '=SUMPRODUCT(A2:A5,B2:B5)', 89],
    ['SUMSQ', '=SUMSQ(3,4)', 25],
    ['TAN', '=TAN(0)', 0],
    ['TEXT', '=TEXT(0.25,"0.0%")', '25.0%'],
    ['TIME', '=TIME(12,0,0)', 0.5],
    ['TRIM', '=TRIM(" the  mill ")', 'the mill'],
    ['TRUE', '=TRUE()', true],
    ['TRUNC', '=TRUNC(-8.9)', -8],
    ['UPPER', '=UPPER("mill")', 'MILL'],
    ['VAR', '=VAR(1,2,3)', 1],
    ['VLOOKUP', '=VLOOKUP(8,A2:C5,3,FALSE)', 'Gull'],
    ['WEEKDAY', '=WEEKDAY(46356)', 2],
    ['YEAR', '=YEAR(46356)', 2026],
  ];

  it('know at least a hundred of the functions of ISO/IEC 29500-1, 18.17.7', () => {
    expect(new Set(FUNCTIONS.map(([name]) => name)).size).toBeGreaterThanOrEqual(100);
    for (const [, typed, value] of FUNCTIONS) {
      const found = comesTo(typed, ...DATA);
      if (typeof value === 'number' && typeof found === 'number')
        expect(found).withContext(typed).toBeCloseTo(value, 10);
      else expect(found).withContext(typed).toEqual(value);
    }
  });
});
