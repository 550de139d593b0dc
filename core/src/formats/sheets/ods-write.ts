import type { Node } from 'prosemirror-model';
import { Fault, formatTyped, isDay } from '../../calculate/index.js';
import { isFormula } from '../../kinds/sheet/index.js';
import { INK_COLOURS, PIXELS_PER_INCH, SPACES } from '../odt/names.js';
import { manifestPart, metaPart } from '../odt/parts.js';
import type { Element } from '../packed/xml.js';
import { el, printXml } from '../packed/xml.js';
import { pack } from '../packed/zip.js';
import type { WriteOptions } from '../writing.js';
import { numberStyle } from './ods-formats.js';
import { openFormula } from './openformula.js';
import type { PlainCell, PlainSheet } from './plain.js';
import { plainOf, shownIn } from './plain.js';

export const ODS = 'application/vnd.oasis.opendocument.spreadsheet';
const VERSION = { 'office:version': '1.2' };
const DECLARED = {
  ...Object.fromEntries(Object.entries(SPACES).map(([prefix, uri]) => [`xmlns:${prefix}`, uri])),
  'xmlns:number': 'urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0',
  'xmlns:of': 'urn:oasis:names:tc:opendocument:xmlns:of:1.2',
  'xmlns:config': 'urn:oasis:names:tc:opendocument:xmlns:config:1.0',
};

/** Writes a book as an OpenDocument spreadsheet (ODF 1.2, ISO/IEC 26300), formulas with what they come to. */
export function writeOds(
  book: Node,
  { title, author, at }: Pick<WriteOptions, 'title' | 'author' | 'at'>,
): Uint8Array {
  const sheets = plainOf(book);
  const styles = new Styles();
  const tables = sheets.map((sheet) => table(sheet, styles));
  const content = el('office:document-content', { ...DECLARED, ...VERSION }, [
    el('office:automatic-styles', {}, styles.all),
    el('office:body', {}, [el('office:spreadsheet', {}, tables)]),
  ]);
  return pack([
    { name: 'mimetype', content: ODS, stored: true },
    { name: 'content.xml', content: printXml(content) },
    { name: 'styles.xml', content: printXml(el('office:document-styles', { ...DECLARED, ...VERSION })) },
    { name: 'settings.xml', content: printXml(settings(sheets)) },
    { name: 'meta.xml', content: printXml(metaPart(title, author, at)) },
    { name: 'META-INF/manifest.xml', content: printXml(manifestPart([['settings.xml', 'text/xml']], ODS)) },
  ]);
}

/** The styles of cells and columns, made as they are asked for. */
class Styles {
  readonly all: Element[] = [];
  private readonly names = new Map<string, string>();

  private named(key: string, prefix: string, make: (name: string) => Element | null): string | null {
    const known = this.names.get(key);
    if (known !== undefined) return known || null;
    const name = `${prefix}${this.names.size + 1}`;
    const made = make(name);
    if (made) this.all.push(made);
    this.names.set(key, made ? name : '');
    return made ? name : null;
  }

  column(width: number): string | null {
    return this.named(`column ${width}`, 'co', (name) =>
      el('style:style', { 'style:name': name, 'style:family': 'table-column' }, [
        el('style:table-column-properties', {
          'style:column-width': `${(width / PIXELS_PER_INCH).toFixed(4)}in`,
        }),
      ]),
    );
  }

  cell({ align, bold, fill }: PlainCell, format: string): string | null {
    const data =
      format === '' ? null : this.named(`format ${format}`, 'N', (name) => numberStyle(name, format));
    if (!data && !align && !bold && !fill) return null;
    const colour = fill === '' ? null : INK_COLOURS[fill as keyof typeof INK_COLOURS];
    return this.named(`cell ${JSON.stringify([align, bold, fill, data])}`, 'ce', (name) =>
      el('style:style', { 'style:name': name, 'style:family': 'table-cell', 'style:data-style-name': data }, [
        colour ? el('style:table-cell-properties', { 'fo:background-color': colour }) : null,
        align ? el('style:paragraph-properties', { 'fo:text-align': align }) : null,
        bold ? el('style:text-properties', { 'fo:font-weight': 'bold' }) : null,
      ]),
    );
  }
}

function table(sheet: PlainSheet, styles: Styles): Element {
  const width = sheet.rows.reduce(
    (most, row) => Math.max(most, row.length),
    Math.max(1, sheet.widths.length),
  );
  const columns = Array.from({ length: width }, (_, i) =>
    el('table:table-column', { 'table:style-name': styles.column(sheet.widths[i] ?? 96) }),
  );
  const rows = sheet.rows.map((row) =>
    el(
      'table:table-row',
      {},
      row.length === 0 ? [el('table:table-cell')] : row.map((cell) => cellOf(cell, styles)),
    ),
  );
  return el('table:table', { 'table:name': sheet.name }, [
    ...columns,
    ...(rows.length > 0 ? rows : [el('table:table-row', {}, [el('table:table-cell')])]),
  ]);
}

function cellOf(cell: PlainCell | null, styles: Styles): Element {
  if (!cell) return el('table:table-cell');
  const { text, value } = cell;
  const format = cell.format || formatTyped(text);
  const shown = shownIn(cell);
  const held = {
    'table:style-name': styles.cell(cell, format),
    'table:formula': isFormula(text) ? openFormula(text) : null,
  };
  const lines = (told: string): Element[] => told.split('\n').map((line) => el('text:p', {}, spaced(line)));
  if (value === null && !isFormula(text)) return el('table:table-cell', held);
  if (typeof value === 'number') {
    const type =
      isDay(format) && /[yd]/i.test(format) && Number.isInteger(value) && value > 60
        ? 'date'
        : format.includes('%')
          ? 'percentage'
          : 'float';
    const told = type === 'date' ? { 'office:date-value': dayOf(value) } : { 'office:value': String(value) };
    return el('table:table-cell', { ...held, 'office:value-type': type, ...told }, lines(shown));
  }
  if (typeof value === 'boolean')
    return el(
      'table:table-cell',
      { ...held, 'office:value-type': 'boolean', 'office:boolean-value': String(value) },
      lines(shown),
    );
  const said = value instanceof Fault ? value.name : (value ?? '');
  return el('table:table-cell', { ...held, 'office:value-type': 'string' }, lines(said));
}

/** A day as ISO 8601 tells it. */
function dayOf(value: number): string {
  return shownIn({ text: String(value), value, format: 'yyyy-mm-dd' });
}

/** A line of text in which blanks side by side, and at its ends, are told by their number (ODF 1.2 Part 1, 6.1.2). */
function spaced(line: string): (Element | string)[] {
  return line
    .split(/( {2,}|^ | $|\t)/)
    .filter((part) => part !== '')
    .map((part) =>
      part === '\t'
        ? el('text:tab')
        : /^ +$/.test(part) && (part.length > 1 || line.startsWith(part) || line.endsWith(part))
          ? el('text:s', { 'text:c': part.length })
          : part,
    );
}

/** What is frozen, as settings of the view (ODF 1.2 Part 1, 3.10.3; the names are common practice). */
function settings(sheets: readonly PlainSheet[]): Element {
  const item = (name: string, type: string, value: number): Element =>
    el('config:config-item', { 'config:name': name, 'config:type': type }, [String(value)]);
  const entries = sheets.map(({ name, frozenRows, frozenColumns }) =>
    el('config:config-item-map-entry', { 'config:name': name }, [
      item('HorizontalSplitMode', 'short', frozenColumns > 0 ? 2 : 0),
      item('VerticalSplitMode', 'short', frozenRows > 0 ? 2 : 0),
      item('HorizontalSplitPosition', 'int', frozenColumns),
      item('VerticalSplitPosition', 'int', frozenRows),
    ]),
  );
  return el('office:document-settings', { ...DECLARED, ...VERSION }, [
    el('office:settings', {}, [
      el('config:config-item-set', { 'config:name': 'ooo:view-settings' }, [
        el('config:config-item-map-indexed', { 'config:name': 'Views' }, [
          el('config:config-item-map-entry', {}, [
            el('config:config-item-map-named', { 'config:name': 'Tables' }, entries),
          ]),
        ]),
      ]),
    ]),
  ]);
}
