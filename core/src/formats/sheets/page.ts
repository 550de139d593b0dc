import type { Element, ElementContent } from 'hast';
import { toHtml } from 'hast-util-to-html';
import type { Node } from 'prosemirror-model';
import { plainOf, shownIn } from './plain.js';
import type { PlainCell, PlainSheet } from './plain.js';

/** The sheets of a book as tables of HTML, each under its name, with what their cells show. */
export function writeTables(book: Node): string {
  return toHtml({ type: 'root', children: plainOf(book).flatMap(tableOf) });
}

function tableOf({ name, rows, frozenRows }: PlainSheet): Element[] {
  const wide = rows.reduce((most, row) => Math.max(most, row.length), 0);
  const line = (row: readonly (PlainCell | null)[], tag: 'td' | 'th'): Element =>
    element(
      'tr',
      Array.from({ length: wide }, (_, i) => cellOf(row[i] ?? null, tag)),
    );
  const heads = rows.slice(0, frozenRows).map((row) => line(row, 'th'));
  const body = rows.slice(frozenRows).map((row) => line(row, 'td'));
  return [
    element('h2', [{ type: 'text', value: name }]),
    element('table', [...(heads.length > 0 ? [element('thead', heads)] : []), element('tbody', body)]),
  ];
}

function cellOf(cell: PlainCell | null, tag: 'td' | 'th'): Element {
  if (!cell) return element(tag, []);
  const own = typeof cell.value === 'number' ? 'end' : '';
  const align = cell.align || own;
  const text: ElementContent = { type: 'text', value: shownIn(cell) };
  return element(
    tag,
    [cell.bold && tag === 'td' ? element('strong', [text]) : text],
    align ? { style: `text-align:${align}` } : {},
  );
}

function element(
  tagName: string,
  children: ElementContent[],
  properties: Element['properties'] = {},
): Element {
  return { type: 'element', tagName, properties, children };
}
