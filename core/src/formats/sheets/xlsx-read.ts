import { isDay } from '../../calculate/index.js';
import { indexOfLetters, shiftedFormula } from '../../kinds/sheet/index.js';
import { FormatError } from '../format.js';
import { aboutOf, mainPart, relationsOf } from '../packed/opc.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, ownText, parseXml, within } from '../packed/xml.js';
import type { ZipParts } from '../packed/zip.js';
import { unpack } from '../packed/zip.js';
import type { Reading } from '../reading.js';
import { LeftOutTally, plainReading } from '../reading.js';
import { KNOWN_FORMATS, READ, inkOf, widthInPixels } from './ooxml.js';
import type { Look, PlainCell, PlainSheet } from './plain.js';
import { USUAL_LOOK, bookOf } from './plain.js';
import { typedNumber, typedText } from './typed.js';

/** Columns beyond this are no sheet's (ISO/IEC 29500-1, 18.3.1.4: XFD), and rows beyond that. */
const [MOST_COLUMNS, MOST_ROWS] = [16_384, 1_048_576];
/** Days between the 1900 and the 1904 system (18.17.4.1). */
const YEARS_1904 = 1462;

/** What a sheet may hold beside its cells, as it is told when it is left out. */
const BESIDE: Readonly<Record<string, string>> = {
  'x:mergeCells': 'cells that were merged',
  'x:conditionalFormatting': 'formats that depend on values',
  'x:dataValidations': 'rules for what may be typed',
  'x:autoFilter': 'filters',
  'x:hyperlinks': 'links of cells',
  'x:drawing': 'drawings, charts and pictures',
  'x:legacyDrawing': 'notes on cells',
  'x:tableParts': 'tables with names',
  'x:sheetProtection': 'protection of sheets',
};

/**
 * Reads an Office Open XML workbook (ISO/IEC 29500, transitional and strict). Throws `FormatError` for a file that is none, is damaged, or holds
 * more than a book may.
 */
export function readXlsx(bytes: Uint8Array): Reading {
  const parts = unpack(bytes);
  const main = mainPart(parts, 'This file is no workbook (.xlsx).');
  const workbook = parseXml(parts.get(main) ?? new Uint8Array(), READ);
  if (workbook.name !== 'x:workbook') throw new FormatError('This file is no workbook (.xlsx).');
  const related = relationsOf(parts, main);
  const beside = (type: string): Element | null => {
    const target = [...related.values()].find((one) => one.type.endsWith(`/${type}`))?.target;
    const data = target === undefined ? undefined : parts.get(target);
    return data ? parseXml(data, READ) : null;
  };
  const tally = new LeftOutTally();
  const reader = new SheetReader(
    looksOf(beside('styles')),
    stringsOf(beside('sharedStrings'), tally),
    isOn(down(workbook, 'x:workbookPr')?.attributes['date1904']),
    tally,
  );
  if (down(workbook, 'x:definedNames', 'x:definedName')) tally.add('names of cells and ranges');
  const sheets = elementsOf(down(workbook, 'x:sheets'), 'x:sheet').flatMap(({ attributes }): PlainSheet[] => {
    const data = parts.get(related.get(attributes['r:id'] ?? '')?.target ?? '');
    if (!data) return [];
    const root = parseXml(data, READ);
    if (root.name !== 'x:worksheet') {
      tally.add('sheets that hold a chart');
      return [];
    }
    if (attributes['state'] && attributes['state'] !== 'visible') tally.add('that sheets are hidden');
    return [reader.sheet(root, attributes['name'] ?? '')];
  });
  if (sheets.length === 0) throw new FormatError('This workbook has no sheet of cells.');
  const doc = bookOf(sheets);
  doc.check();
  return { ...plainReading(doc, [], tally.list()), ...aboutOf(parts as ZipParts) };
}

function isOn(value: string | undefined): boolean {
  return value === '1' || value === 'true';
}

/** Shared strings (18.4): text alone, without how parts of it look and how it is spoken. */
function stringsOf(part: Element | null, tally: LeftOutTally): string[] {
  return elementsOf(part, 'x:si').map((item) => richText(item, tally));
}

function richText(item: Element, tally: LeftOutTally): string {
  const runs = elementsOf(item, 'x:r');
  if (runs.some((run) => down(run, 'x:rPr'))) tally.add('looks of parts of a cell’s text');
  const own = elementsOf(item, 'x:t').map(ownText).join('');
  return unescaped(own + runs.flatMap((run) => elementsOf(run, 'x:t').map(ownText)).join(''));
}

/** Text with signs that XML cannot hold, which are told by their number (22.9.2.19). */
function unescaped(text: string): string {
  return text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, code: string) =>
    String.fromCharCode(Number.parseInt(code, 16)),
  );
}

/** What cells look like, by the number of their style (18.8.10). */
function looksOf(part: Element | null): Look[] {
  const own = new Map(
    elementsOf(down(part, 'x:numFmts'), 'x:numFmt').map(({ attributes }) => [
      Number(attributes['numFmtId']),
      attributes['formatCode'] ?? '',
    ]),
  );
  const fonts = elementsOf(down(part, 'x:fonts'), 'x:font').map((font) => {
    const bold = down(font, 'x:b');
    return bold !== null && (bold.attributes['val'] === undefined || isOn(bold.attributes['val']));
  });
  const fills = elementsOf(down(part, 'x:fills'), 'x:fill').map((fill) => {
    const pattern = down(fill, 'x:patternFill');
    const colour = down(pattern, 'x:fgColor')?.attributes['rgb'] ?? '';
    return pattern?.attributes['patternType'] === 'solid' &&
      /^[0-9A-Fa-f]{8}$/.test(colour) &&
      !/ffffff$/i.test(colour)
      ? inkOf(colour.slice(2))
      : '';
  });
  return elementsOf(down(part, 'x:cellXfs'), 'x:xf').map((xf) => {
    const id = Number(xf.attributes['numFmtId'] ?? 0);
    const horizontal = down(xf, 'x:alignment')?.attributes['horizontal'] ?? '';
    const format = own.get(id) ?? KNOWN_FORMATS[id] ?? '';
    return {
      format: /^general$/i.test(format) ? '' : format,
      align: { left: 'start', center: 'center', right: 'end' }[horizontal] ?? '',
      bold: fonts[Number(xf.attributes['fontId'] ?? 0)] ?? false,
      fill: fills[Number(xf.attributes['fillId'] ?? 0)] ?? '',
    };
  });
}

class SheetReader {
  constructor(
    private readonly looks: readonly Look[],
    private readonly strings: readonly string[],
    private readonly is1904: boolean,
    private readonly tally: LeftOutTally,
  ) {}

  sheet(root: Element, name: string): PlainSheet {
    for (const { name: beside } of elementsOf(root)) if (BESIDE[beside]) this.tally.add(BESIDE[beside]);
    const pane = within(root, 'x:pane');
    const isFrozen = /^frozen/.test(pane?.attributes['state'] ?? '');
    const split = (axis: 'xSplit' | 'ySplit'): number =>
      isFrozen ? Math.max(0, Math.floor(Number(pane?.attributes[axis] ?? 0)) || 0) : 0;
    return {
      name,
      widths: widthsOf(root),
      frozenRows: split('ySplit'),
      frozenColumns: split('xSplit'),
      rows: this.rows(root),
    };
  }

  private rows(root: Element): (PlainCell | null)[][] {
    const rows: (PlainCell | null)[][] = [];
    const shared = new Map<string, { text: string; row: number; column: number }>();
    let next = 0;
    for (const element of elementsOf(down(root, 'x:sheetData'), 'x:row')) {
      const row = Number(element.attributes['r'] ?? next + 1) - 1;
      if (!(row >= 0 && row < MOST_ROWS)) continue;
      next = row + 1;
      const cells: (PlainCell | null)[] = [];
      let after = 0;
      for (const cell of elementsOf(element, 'x:c')) {
        const column = columnOf(cell.attributes['r']) ?? after;
        if (column >= MOST_COLUMNS) continue;
        after = column + 1;
        const read = this.cell(cell, row, column, shared);
        if (!read) continue;
        while (cells.length < column) cells.push(null);
        cells[column] = read;
      }
      if (cells.length === 0) continue;
      while (rows.length < row) rows.push([]);
      rows[row] = cells;
    }
    return rows;
  }

  private cell(
    cell: Element,
    row: number,
    column: number,
    shared: Map<string, { text: string; row: number; column: number }>,
  ): PlainCell | null {
    const look = this.looks[Number(cell.attributes['s'] ?? 0)] ?? USUAL_LOOK;
    const text = this.formula(down(cell, 'x:f'), row, column, shared) ?? this.value(cell, look.format);
    const isPlain =
      text === '' && Object.entries(USUAL_LOOK).every(([name, value]) => look[name as keyof Look] === value);
    return isPlain ? null : { ...look, text, value: null };
  }

  /** A formula as it is typed; of several that share one (18.3.1.40) as it reads in this cell. Null for none. */
  private formula(
    element: Element | null,
    row: number,
    column: number,
    shared: Map<string, { text: string; row: number; column: number }>,
  ): string | null {
    if (!element) return null;
    const text = plainNames(unescaped(ownText(element)).trim());
    const { t: type, si = '' } = element.attributes;
    if (type === 'array') this.tally.add('that formulas fill several cells');
    if (type === 'dataTable') {
      this.tally.add('tables of what would be');
      return null;
    }
    if (type !== 'shared') return text === '' ? null : `=${text}`;
    if (text !== '') shared.set(si, { text: `=${text}`, row, column });
    const first = shared.get(si);
    return first ? shiftedFormula(first.text, row - first.row, column - first.column) : null;
  }

  private value(cell: Element, format: string): string {
    const element = down(cell, 'x:v');
    const told = element ? ownText(element) : '';
    switch (cell.attributes['t'] ?? 'n') {
      case 's':
        return typedText(this.strings[Number(told)] ?? '');
      case 'inlineStr': {
        const item = down(cell, 'x:is');
        return item ? typedText(richText(item, this.tally)) : '';
      }
      case 'b':
        return isOn(told) ? 'TRUE' : 'FALSE';
      case 'n': {
        const value = Number(told);
        if (told.trim() === '' || !Number.isFinite(value)) return '';
        return typedNumber(this.is1904 && isDay(format) ? value + YEARS_1904 : value, format);
      }
      case 'd':
        return told.replace(/T00:00:00(\.0+)?Z?$/, '');
      default:
        return typedText(unescaped(told));
    }
  }
}

/** A formula with functions that are younger than the standard by their own names, without the prefix that files give them; common practice, no source. */
function plainNames(formula: string): string {
  return formula.replace(/"(?:[^"]|"")*"|_xlfn\.(?:_xlws\.)?/g, (found) =>
    found.startsWith('"') ? found : '',
  );
}

/** The index of the column of a cell, from what the cell is called; null where it is not told. */
function columnOf(reference: string | undefined): number | null {
  const letters = /^([A-Za-z]{1,3})\d+$/.exec(reference ?? '')?.[1];
  return letters === undefined ? null : indexOfLetters(letters);
}

/** Widths of columns in pixels, for those that are told and are no more than a book may have. */
function widthsOf(root: Element): (number | null)[] {
  const widths: (number | null)[] = [];
  for (const { attributes } of elementsOf(down(root, 'x:cols'), 'x:col')) {
    const [min, max, width] = ['min', 'max', 'width'].map((name) => Number(attributes[name])) as [
      number,
      number,
      number,
    ];
    // Widths of all that is to the right of what is used say nothing about it.
    if (!(min >= 1) || !(width > 0) || max - min > 200) continue;
    for (let i = min; i <= Math.min(max, 1000); i++) {
      while (widths.length < i) widths.push(null);
      widths[i - 1] = widthInPixels(width);
    }
  }
  return widths;
}
