import type { Node } from 'prosemirror-model';
import { Fault, formatTyped } from '../../calculate/index.js';
import { isFormula, lettersOf } from '../../kinds/sheet/index.js';
import { coreProperties, relations } from '../docx/parts.js';
import type { Element } from '../packed/xml.js';
import { el, printXml } from '../packed/xml.js';
import { pack } from '../packed/zip.js';
import type { WriteOptions } from '../writing.js';
import { FILL_COLOURS, KNOWN_FORMATS, OWN_FORMATS, WRITTEN, widthInFigures } from './ooxml.js';
import type { Look, PlainCell, PlainSheet } from './plain.js';
import { plainOf } from './plain.js';

const MAIN = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';

/** Writes a book as an Office Open XML workbook (ISO/IEC 29500 transitional), formulas with what they come to. */
export function writeXlsx(book: Node, options: Pick<WriteOptions, 'title' | 'author' | 'at'>): Uint8Array {
  const sheets = plainOf(book);
  const looks = new Looks();
  const pages = sheets.map((sheet) => worksheet(sheet, looks));
  const names = sheetNames(sheets);
  const part = (name: string, root: Element): { name: string; content: string } => ({
    name,
    content: printXml(root),
  });
  return pack([
    part('[Content_Types].xml', contentTypes(sheets.length)),
    part(
      '_rels/.rels',
      relations([
        el('Relationship', { Id: 'main', Type: `${WRITTEN.r}/officeDocument`, Target: 'xl/workbook.xml' }),
        el('Relationship', {
          Id: 'core',
          Type: `${PACKAGE}/relationships/metadata/core-properties`,
          Target: 'docProps/core.xml',
        }),
      ]),
    ),
    part(
      'xl/workbook.xml',
      el('workbook', { xmlns: WRITTEN.x, 'xmlns:r': WRITTEN.r }, [
        el(
          'sheets',
          {},
          names.map((name, i) => el('sheet', { name, sheetId: i + 1, 'r:id': `sheet${i + 1}` })),
        ),
      ]),
    ),
    part(
      'xl/_rels/workbook.xml.rels',
      relations([
        ...sheets.map((_, i) =>
          el('Relationship', {
            Id: `sheet${i + 1}`,
            Type: `${WRITTEN.r}/worksheet`,
            Target: `worksheets/sheet${i + 1}.xml`,
          }),
        ),
        el('Relationship', { Id: 'styles', Type: `${WRITTEN.r}/styles`, Target: 'styles.xml' }),
      ]),
    ),
    ...pages.map((page, i) => part(`xl/worksheets/sheet${i + 1}.xml`, page)),
    part('xl/styles.xml', looks.part()),
    part('docProps/core.xml', coreProperties(options.title, options.author, options.at)),
  ]);
}

function contentTypes(sheets: number): Element {
  const part = (name: string, type: string): Element =>
    el('Override', { PartName: `/${name}`, ContentType: type });
  return el('Types', { xmlns: `${PACKAGE}/content-types` }, [
    el('Default', {
      Extension: 'rels',
      ContentType: 'application/vnd.openxmlformats-package.relationships+xml',
    }),
    el('Default', { Extension: 'xml', ContentType: 'application/xml' }),
    part('xl/workbook.xml', `${MAIN}.sheet.main+xml`),
    ...Array.from({ length: sheets }, (_, i) =>
      part(`xl/worksheets/sheet${i + 1}.xml`, `${MAIN}.worksheet+xml`),
    ),
    part('xl/styles.xml', `${MAIN}.styles+xml`),
    part('docProps/core.xml', 'application/vnd.openxmlformats-package.core-properties+xml'),
  ]);
}

/** Names as a workbook takes them: of at most 31 letters, without signs that formulas use, each once (18.2.19). */
function sheetNames(sheets: readonly PlainSheet[]): string[] {
  const taken = new Set<string>();
  return sheets.map(({ name }) => {
    const plain =
      name
        .replace(/[[\]:*?/\\]/g, ' ')
        .replace(/^'+|'+$/g, '')
        .trim()
        .slice(0, 31) || 'Sheet';
    let own = plain;
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${plain.slice(0, 27)} ${n}`;
    taken.add(own.toLowerCase());
    return own;
  });
}

function worksheet(sheet: PlainSheet, looks: Looks): Element {
  const { frozenRows, frozenColumns, widths } = sheet;
  const isFrozen = frozenRows + frozenColumns > 0;
  const pane = el('pane', {
    xSplit: frozenColumns || null,
    ySplit: frozenRows || null,
    topLeftCell: `${lettersOf(frozenColumns)}${frozenRows + 1}`,
    activePane: frozenColumns === 0 ? 'bottomLeft' : frozenRows === 0 ? 'topRight' : 'bottomRight',
    state: 'frozen',
  });
  const columns = widths.flatMap((width, i) =>
    width === null
      ? []
      : [el('col', { min: i + 1, max: i + 1, width: widthInFigures(width), customWidth: 1 })],
  );
  return el('worksheet', { xmlns: WRITTEN.x }, [
    el('sheetViews', {}, [el('sheetView', { workbookViewId: 0 }, isFrozen ? [pane] : [])]),
    columns.length > 0 ? el('cols', {}, columns) : null,
    el(
      'sheetData',
      {},
      sheet.rows.flatMap((row, r) => {
        const cells = row.flatMap((cell, c) =>
          cell ? [cellOf(cell, `${lettersOf(c)}${r + 1}`, looks)] : [],
        );
        return cells.length > 0 ? [el('row', { r: r + 1 }, cells)] : [];
      }),
    ),
  ]);
}

function cellOf(cell: PlainCell, r: string, looks: Looks): Element {
  const { text, value } = cell;
  const s = looks.number({ ...cell, format: cell.format || formatTyped(text) }) || null;
  const formula = isFormula(text) ? el('f', {}, [text.slice(1)]) : null;
  const valued = (t: string | null, told: string): Element =>
    el('c', { r, s, t }, [formula, el('v', {}, [told])]);
  if (value instanceof Fault)
    return valued('e', value.name === '#CYCLE!' || value.name === '#ERROR!' ? '#VALUE!' : value.name);
  if (typeof value === 'number') return valued(null, String(value));
  if (typeof value === 'boolean') return valued('b', value ? '1' : '0');
  if (value === null) return el('c', { r, s }, [formula]);
  if (formula) return valued('str', value);
  return el('c', { r, s, t: 'inlineStr' }, [el('is', {}, [el('t', { 'xml:space': 'preserve' }, [value])])]);
}

/** The looks of the cells of a workbook, numbered as they come (ISO/IEC 29500-1, 18.8). */
class Looks {
  private readonly numbers = new Map<string, number>([
    [keyOf({ format: '', align: '', bold: false, fill: '' }), 0],
  ]);
  private readonly formats = new Map<string, number>();
  private readonly all: Look[] = [{ format: '', align: '', bold: false, fill: '' }];

  number({ format, align, bold, fill }: Look): number {
    const look = { format, align, bold, fill };
    const known = this.numbers.get(keyOf(look));
    if (known !== undefined) return known;
    this.numbers.set(keyOf(look), this.all.length);
    return this.all.push(look) - 1;
  }

  part(): Element {
    const inks = Object.keys(FILL_COLOURS);
    const fills = [
      el('fill', {}, [el('patternFill', { patternType: 'none' })]),
      el('fill', {}, [el('patternFill', { patternType: 'gray125' })]),
      ...inks.map((ink) =>
        el('fill', {}, [
          el('patternFill', { patternType: 'solid' }, [
            el('fgColor', { rgb: `FF${FILL_COLOURS[ink] ?? ''}` }),
          ]),
        ]),
      ),
    ];
    const cells = this.all.map((look) => {
      const { align, bold, fill, format } = look;
      const horizontal = { start: 'left', center: 'center', end: 'right' }[align];
      return el(
        'xf',
        {
          numFmtId: this.formatNumber(format),
          fontId: bold ? 1 : 0,
          fillId: fill === '' ? 0 : inks.indexOf(fill) + 2,
          borderId: 0,
          xfId: 0,
          applyNumberFormat: format ? 1 : null,
          applyFont: bold ? 1 : null,
          applyFill: fill ? 1 : null,
          applyAlignment: horizontal ? 1 : null,
        },
        [horizontal ? el('alignment', { horizontal }) : null],
      );
    });
    const font = (bold: boolean): Element =>
      el('font', {}, [bold ? el('b') : null, el('sz', { val: 11 }), el('name', { val: 'Figtree' })]);
    const own = [...this.formats].map(([formatCode, numFmtId]) => el('numFmt', { numFmtId, formatCode }));
    const list = (name: string, items: readonly Element[]): Element =>
      el(name, { count: items.length }, items);
    return el('styleSheet', { xmlns: WRITTEN.x }, [
      own.length > 0 ? list('numFmts', own) : null,
      list('fonts', [font(false), font(true)]),
      list('fills', fills),
      list('borders', [
        el(
          'border',
          {},
          ['left', 'right', 'top', 'bottom', 'diagonal'].map((side) => el(side)),
        ),
      ]),
      list('cellStyleXfs', [el('xf', { numFmtId: 0, fontId: 0, fillId: 0, borderId: 0 })]),
      list('cellXfs', cells),
      list('cellStyles', [el('cellStyle', { name: 'Normal', xfId: 0, builtinId: 0 })]),
    ]);
  }

  private formatNumber(format: string): number {
    if (format === '') return 0;
    const known = Object.entries(KNOWN_FORMATS).find(([, code]) => code === format);
    if (known) return Number(known[0]);
    const own = this.formats.get(format) ?? OWN_FORMATS + this.formats.size;
    this.formats.set(format, own);
    return own;
  }
}

function keyOf({ format, align, bold, fill }: Look): string {
  return JSON.stringify([format, align, bold, fill]);
}
