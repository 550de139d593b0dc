import { isDay, valueOf } from '../../calculate/index.js';
import { Bound } from '../bound.js';
import { FormatError } from '../format.js';
import { READ as ODF } from '../odt/names.js';
import type { Element, Namespaces } from '../packed/xml.js';
import { down, elementsOf, ownText, parseXml, textIn } from '../packed/xml.js';
import { unpack } from '../packed/zip.js';
import type { Reading } from '../reading.js';
import { LeftOutTally, plainReading, shortened } from '../reading.js';
import { formatOf } from './ods-formats.js';
import { ODS } from './ods-write.js';
import { inkOf } from './ooxml.js';
import { typedFormula } from './openformula.js';
import type { Look, PlainCell, PlainSheet } from './plain.js';
import { USUAL_LOOK, bookOf } from './plain.js';
import { typedNumber, typedText } from './typed.js';

const READ: Namespaces = {
  ...ODF,
  'urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0': 'number',
  'urn:oasis:names:tc:opendocument:xmlns:config:1.0': 'config',
};

/** What a sheet may hold beside its cells, as it is told when it is left out. */
const BESIDE: Readonly<Record<string, string>> = {
  'table:shapes': 'drawings, charts and pictures',
  'office:annotation': 'notes on cells',
  'draw:frame': 'drawings, charts and pictures',
};

/**
 * Reads an OpenDocument spreadsheet (ODF 1.0 to 1.3). Throws `FormatError` for a file that is none, is damaged, or holds more than a book may.
 */
export function readOds(bytes: Uint8Array): Reading {
  const parts = unpack(bytes);
  const part = (name: string): Element | null => {
    const data = parts.get(name);
    return data ? parseXml(data, READ) : null;
  };
  const type = parts.get('mimetype');
  if (type && String.fromCharCode(...type.slice(0, 200)).trim() !== ODS)
    throw new FormatError('This file is an OpenDocument file, but no spreadsheet (.ods).');
  const content = part('content.xml');
  const body = down(content, 'office:body', 'office:spreadsheet');
  if (!body) throw new FormatError('This file is no OpenDocument spreadsheet (.ods).');
  const tally = new LeftOutTally();
  const styles = new CellStyles([part('styles.xml'), content], tally);
  const frozen = frozenIn(part('settings.xml'));
  if (elementsOf(body, 'table:named-expressions').length > 0) tally.add('names of cells and ranges');
  const reader = new TableReader(styles, tally);
  const sheets = elementsOf(body, 'table:table').map((table): PlainSheet => {
    const name = table.attributes['table:name'] ?? '';
    return { name, ...reader.table(table), ...(frozen.get(name) ?? { frozenRows: 0, frozenColumns: 0 }) };
  });
  if (sheets.length === 0) throw new FormatError('This spreadsheet has no sheet.');
  const doc = bookOf(sheets);
  doc.check();
  const meta = down(part('meta.xml'), 'office:meta');
  const said = (name: string): string => {
    const element = down(meta, name);
    return element ? shortened(textIn(element), 200) : '';
  };
  return { ...plainReading(doc, [], tally.list()), author: said('dc:creator'), title: said('dc:title') };
}

/** What is frozen in each sheet, by its name. */
function frozenIn(settings: Element | null): Map<string, { frozenRows: number; frozenColumns: number }> {
  const out = new Map<string, { frozenRows: number; frozenColumns: number }>();
  const visit = (element: Element): void => {
    if (element.name === 'config:config-item-map-named' && element.attributes['config:name'] === 'Tables')
      for (const entry of elementsOf(element, 'config:config-item-map-entry')) {
        const value = (name: string): number =>
          Number(
            elementsOf(entry, 'config:config-item')
              .filter(({ attributes }) => attributes['config:name'] === name)
              .map(ownText)[0] ?? 0,
          );
        const of = (axis: string): number =>
          value(`${axis}SplitMode`) === 2 ? Math.max(0, Math.floor(value(`${axis}SplitPosition`)) || 0) : 0;
        out.set(entry.attributes['config:name'] ?? '', {
          frozenRows: of('Vertical'),
          frozenColumns: of('Horizontal'),
        });
      }
    else elementsOf(element).forEach(visit);
  };
  if (settings) visit(settings);
  return out;
}

/** Looks of cells and widths of columns by the names of styles. */
class CellStyles {
  private readonly looks = new Map<string, Look>();
  private readonly parents = new Map<string, string>();
  private readonly widths = new Map<string, number>();

  constructor(parts: readonly (Element | null)[], tally: LeftOutTally) {
    const all = parts.flatMap((part) =>
      ['office:styles', 'office:automatic-styles'].flatMap((name) => elementsOf(down(part, name))),
    );
    const formats = new Map<string, string>();
    for (const style of all)
      if (/^number:.*-style$/.test(style.name)) {
        const format = formatOf(style);
        if (format === null) tally.add('formats of numbers that depend on them');
        else formats.set(style.attributes['style:name'] ?? '', format);
      }
    for (const style of all) {
      const {
        'style:name': name = '',
        'style:family': family,
        'style:data-style-name': data,
      } = style.attributes;
      if (style.name !== 'style:style') continue;
      const width = pixelsOf(down(style, 'style:table-column-properties')?.attributes['style:column-width']);
      if (family === 'table-column' && width !== null) this.widths.set(name, width);
      if (family !== 'table-cell') continue;
      this.parents.set(name, style.attributes['style:parent-style-name'] ?? '');
      const colour = down(style, 'style:table-cell-properties')?.attributes['fo:background-color'] ?? '';
      const align = down(style, 'style:paragraph-properties')?.attributes['fo:text-align'] ?? '';
      this.looks.set(name, {
        format: formats.get(data ?? '') ?? '',
        align: { start: 'start', left: 'start', center: 'center', end: 'end', right: 'end' }[align] ?? '',
        bold: /^(bold|[6-9]00)$/.test(
          down(style, 'style:text-properties')?.attributes['fo:font-weight'] ?? '',
        ),
        fill: /^#[0-9a-f]{6}$/i.test(colour) && !/^#ffffff$/i.test(colour) ? inkOf(colour.slice(1)) : '',
      });
    }
  }

  look(name: string | undefined, depth = 0): Look {
    const own = this.looks.get(name ?? '');
    if (!own) return USUAL_LOOK;
    const parent = this.parents.get(name ?? '') ?? '';
    const above = depth < 20 && parent !== '' ? this.look(parent, depth + 1) : USUAL_LOOK;
    return {
      format: own.format || above.format,
      align: own.align || above.align,
      bold: own.bold || above.bold,
      fill: own.fill || above.fill,
    };
  }

  width(name: string | undefined): number | null {
    return this.widths.get(name ?? '') ?? null;
  }
}

/** A length as pixels, of an inch of 96; null for none. */
function pixelsOf(length: string | undefined): number | null {
  const [, number = '', unit = ''] = /^([\d.]+)(in|cm|mm|pt|px)$/.exec(length ?? '') ?? [];
  const each: Record<string, number> = { in: 96, cm: 96 / 2.54, mm: 96 / 25.4, pt: 96 / 72, px: 1 };
  const pixels = Number(number) * (each[unit] ?? 0);
  return pixels > 0 ? Math.round(pixels) : null;
}

/** Cells and rows beyond these are no book's. */
const [MOST_COLUMNS, MOST_ROWS] = [1000, 100_000];

class TableReader {
  private readonly bound = new Bound();

  constructor(
    private readonly styles: CellStyles,
    private readonly tally: LeftOutTally,
  ) {}

  table(table: Element): Pick<PlainSheet, 'rows' | 'widths'> {
    const rows: (PlainCell | null)[][] = [];
    const widths: (number | null)[] = [];
    let gap = 0;
    const read = (parent: Element): void => {
      for (const child of elementsOf(parent)) {
        if (BESIDE[child.name]) this.tally.add(BESIDE[child.name] as string);
        if (
          /^table:table-(header-)?(rows?|columns?)(-group)?$/.test(child.name) &&
          !/row$|column$/.test(child.name)
        )
          read(child);
        if (child.name === 'table:table-column') {
          const times = repeated(child, 'table:number-columns-repeated');
          const width = this.styles.width(child.attributes['table:style-name']);
          // Widths of all that is to the right of what is used say nothing about it.
          if (times <= 200)
            for (let i = 0; i < times && widths.length < MOST_COLUMNS; i++) widths.push(width);
        }
        if (child.name !== 'table:table-row') continue;
        const cells = this.row(child);
        const times = repeated(child, 'table:number-rows-repeated');
        if (cells.length === 0) gap += times;
        else {
          if (rows.length + gap + times > MOST_ROWS)
            throw new FormatError(`This file has a sheet of more than ${MOST_ROWS} rows.`);
          for (; gap > 0; gap--) rows.push([]);
          for (let i = 0; i < times; i++) {
            this.bound.spend(cells.length + 2);
            rows.push(cells);
          }
        }
      }
    };
    read(table);
    const usual = widths.map((width) => (width === 96 ? null : width));
    return { rows, widths: usual };
  }

  /** The cells of a row, without what is empty at its end. */
  private row(row: Element): (PlainCell | null)[] {
    const cells: (PlainCell | null)[] = [];
    let gap = 0;
    for (const cell of elementsOf(row)) {
      if (cell.name !== 'table:table-cell' && cell.name !== 'table:covered-table-cell') continue;
      const times = repeated(cell, 'table:number-columns-repeated');
      const spans =
        repeated(cell, 'table:number-columns-spanned') * repeated(cell, 'table:number-rows-spanned');
      if (spans > 1) this.tally.add('cells that were merged');
      const read = this.cell(cell);
      if (!read) gap += times;
      else {
        if (cells.length + gap + times > MOST_COLUMNS)
          throw new FormatError(`This file has a sheet of more than ${MOST_COLUMNS} columns.`);
        for (; gap > 0; gap--) cells.push(null);
        for (let i = 0; i < times; i++) {
          this.bound.spend(read.text.length + 2);
          cells.push(read);
        }
      }
    }
    return cells;
  }

  private cell(cell: Element): PlainCell | null {
    for (const { name } of elementsOf(cell)) if (BESIDE[name]) this.tally.add(BESIDE[name] as string);
    const look = this.styles.look(cell.attributes['table:style-name']);
    const told = cell.attributes['table:formula'];
    const formula = told === undefined ? null : typedFormula(told);
    if (told !== undefined && formula === null) this.tally.add('formulas in other languages');
    const text = formula ?? this.value(cell, look.format);
    const isPlain =
      text === '' && Object.entries(USUAL_LOOK).every(([name, value]) => look[name as keyof Look] === value);
    return isPlain ? null : { ...look, text, value: null };
  }

  private value(cell: Element, format: string): string {
    const { attributes } = cell;
    switch (attributes['office:value-type']) {
      case 'float':
      case 'percentage':
      case 'currency': {
        const value = Number(attributes['office:value']);
        return Number.isFinite(value) ? typedNumber(value, isDay(format) ? format : '') : '';
      }
      case 'date':
        return typedDay(attributes['office:date-value'] ?? '');
      case 'time': {
        const [, hours = '0', minutes = '0', seconds = '0'] =
          /^PT(?:(\d+)H)?(?:(\d+)M)?(?:([\d.]+)S)?$/.exec(attributes['office:time-value'] ?? '') ?? [];
        return String((Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds)) / 86_400);
      }
      case 'boolean':
        return attributes['office:boolean-value'] === 'true' ? 'TRUE' : 'FALSE';
      case undefined:
        return '';
      default:
        return typedText(elementsOf(cell, 'text:p').map(lineOf).join('\n'));
    }
  }
}

/** A day of ISO 8601 as it is typed; with a time as a number. */
function typedDay(told: string): string {
  const [, day = '', hours, minutes = '0', seconds = '0'] =
    /^(\d{4}-\d{2}-\d{2})(?:T(\d{2}):(\d{2})(?::([\d.]+))?)?/.exec(told) ?? [];
  if (hours === undefined || Number(hours) + Number(minutes) + Number(seconds) === 0) return day;
  const value = valueOf(day);
  const time = (Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds)) / 86_400;
  return typeof value === 'number' ? String(value + time) : day;
}

function lineOf(element: Element): string {
  return element.children
    .map((child) => {
      if (child.type === 'text') return child.value.replace(/[ \t\r\n]+/g, ' ');
      if (child.name === 'text:s') return ' '.repeat(repeated(child, 'text:c'));
      if (child.name === 'text:tab') return '\t';
      return child.name === 'text:line-break' ? '\n' : lineOf(child);
    })
    .join('');
}

/** How often something is repeated, at least once and no more than is ever of use. */
function repeated(element: Element, name: string): number {
  const times = Number(element.attributes[name] ?? 1);
  return Number.isInteger(times) && times > 0 ? Math.min(times, 1_048_576) : 1;
}
