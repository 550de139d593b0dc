import type { Node } from 'prosemirror-model';
import { shortened, told } from '../../content/index.js';
import { moved } from '../telling.js';
import type { Teller, Where } from '../telling.js';
import { cellAt, readBook } from './book.js';
import { GONE, Places, isFormula, lettersOf, shownFormula } from './references.js';

/** Most letters of what a row is called by. */
const LETTERS = 30;

/** How what several made of one book is told: cells by column and row, formulas as they are shown where they stand. */
export function sheetTeller(books: readonly Node[]): Teller {
  const made: (Places | undefined)[] = [];
  const placesOf = (version: number): Places =>
    (made[version] ??= new Places(readBook(books[version] ?? (books[0] as Node))));
  // In the base's names as far as those reach: where versions have other rows, one name would say different cells.
  const shown = (text: string, sheet: string, version: number): string => {
    if (!isFormula(text)) return told(text);
    const inBase = shownFormula(text, placesOf(0), sheet);
    return inBase.includes(GONE) ? shownFormula(text, placesOf(version), sheet) : inBase;
  };
  const cellSaid = (cell: Node, sheet: string, version: number, exact: boolean): string => {
    const text = shown(cell.textContent, sheet, version);
    const looks = exact ? looksOf(cell) : '';
    return looks ? `${text} (${looks})`.trim() : text;
  };
  const cells = (row: Node, version: number, exact = false): string[] => {
    const sheet = String(row.attrs['sheet']);
    const columns = placesOf(version).sheet(sheet)?.columns ?? [];
    return columns.flatMap(({ id }, i) => {
      const cell = cellAt({ id: '', node: row, at: 0 }, id)?.cell;
      const text = cell ? cellSaid(cell, sheet, version, exact) : '';
      return text === '' ? [] : [exact ? `${lettersOf(i)} ${text}` : text];
    });
  };
  const words = (node: Node, within: readonly Node[], version: number, exact: boolean): string => {
    switch (node.type.name) {
      case 'row':
        return cells(node, version, exact).join(' · ') || 'an empty row';
      case 'column':
        return 'a column';
      case 'sheet':
        return String(node.attrs['name']) || 'a sheet';
      case 'cell':
        return cellSaid(node, sheetOf(within), version, exact);
      default:
        return shown(node.textContent, sheetOf(within), version);
    }
  };
  return {
    inLines: false,
    words: (nodes, within, version, exact) =>
      nodes.map((node) => words(node, within, version, exact)).join('\n'),
    where: (nodes, version) => whereOf(nodes, placesOf(version), (row) => cells(row, version)[0] ?? ''),
    forms: FORMS,
  };
}

const FORMS: Teller['forms'] = {
  sheet: {
    name: (value) => (value ? `called “${String(value)}”` : 'without a name'),
    place: moved,
    frozenRows: (value) => `${String(value)} rows frozen`,
    frozenColumns: (value) => `${String(value)} columns frozen`,
  },
  column: { place: moved, width: (value) => `${String(value)} wide` },
  row: { place: moved, sheet: (_, isBase) => (isBase ? 'on its sheet' : 'on another sheet') },
  cell: {
    format: (value) => (value ? `as ${String(value)}` : 'as it is'),
    align: (value) => (value ? `aligned to the ${String(value)}` : 'aligned by what it holds'),
    bold: (value) => (value === true ? 'bold' : 'not bold'),
    fill: (value) => (value ? `filled with ${String(value)}` : 'not filled'),
  },
};

/** How a cell looks, as far as that is unusual. */
function looksOf({ type, attrs }: Node): string {
  return Object.entries(FORMS['cell'] ?? {})
    .filter(([name]) => attrs[name] !== type.spec.attrs?.[name]?.default)
    .map(([name, tell]) => tell(attrs[name], false))
    .join(', ');
}

function sheetOf(nodes: readonly Node[]): string {
  const row = nodes.find(({ type }) => type.name === 'row');
  return String(row ? row.attrs['sheet'] : nodes.find(({ type }) => type.name === 'sheet')?.attrs['id']);
}

function whereOf(nodes: readonly Node[], places: Places, called: (row: Node) => string): Where {
  const named = (type: string): Node | undefined => nodes.find((node) => node.type.name === type);
  const [row, cell, column] = [named('row'), named('cell'), named('column')];
  const id = sheetOf(nodes);
  const sheet = places.sheet(id);
  const index = sheet ? places.book.sheets.indexOf(sheet) : -1;
  const at = row ? places.row(id, String(row.attrs['id'])) : -1;
  const across = places.column(id, String(cell?.attrs['column'] ?? column?.attrs['id']));
  const name = row && called(row).replace(/\s+/g, ' ').trim();
  const said = [
    ...(places.book.sheets.length > 1 || (!row && !column) ? [sheet?.name || `Sheet ${index + 1}`] : []),
    ...(column ? [`Column ${lettersOf(Math.max(0, across))}`] : []),
    ...(row ? [cell ? `${lettersOf(Math.max(0, across))}${at + 1}` : `Row ${at + 1}`] : []),
    ...(name ? [shortened(name, LETTERS)] : []),
  ].join(' · ');
  return { said, order: [index, at, across] };
}
