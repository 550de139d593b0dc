import type { Node } from 'prosemirror-model';
import { parse } from 'csv-parse/browser/esm/sync';
import { stringify } from 'csv-stringify/browser/esm/sync';

/** Cells as other programs take them: tab-separated values, and a table of HTML. */
export interface Sent {
  readonly text: string;
  readonly html: string;
}

/** Cells for other programs, of what they show. */
export function sentOf(lines: readonly (readonly string[])[]): Sent {
  const table = document.createElement('table');
  for (const line of lines) {
    const row = table.insertRow();
    for (const text of line) row.insertCell().textContent = text;
  }
  return {
    text: stringify(
      lines.map((line) => [...line]),
      { delimiter: '\t' },
    ),
    html: table.outerHTML,
  };
}

/** What another program sent, as lines of texts: its table of HTML, or else its tab-separated values. */
export function takenOf({ text, html }: Sent): string[][] {
  return fromTable(html) ?? fromText(text);
}

/** The first table of a page; null where there is none. Cells that are merged stand where they begin. */
function fromTable(html: string): string[][] | null {
  if (!/<table/i.test(html)) return null;
  const table = new DOMParser().parseFromString(html, 'text/html').querySelector('table');
  if (!table) return null;
  const lines: string[][] = [];
  [...table.rows].forEach((row, r) => {
    const line = (lines[r] ??= []);
    for (const cell of row.cells) {
      let column = 0;
      while (line[column] !== undefined) column++;
      const text = (cell.textContent ?? '').replace(/\s+/g, ' ').trim();
      for (let down = 0; down < Math.min(cell.rowSpan, table.rows.length - r); down++)
        for (let on = 0; on < Math.min(cell.colSpan, 1000); on++)
          (lines[r + down] ??= [])[column + on] = down + on === 0 ? text : '';
    }
  });
  return lines.map((line) => Array.from(line, (text) => text ?? ''));
}

/** Tab-separated values; quotes that do not fit are letters like any other. */
function fromText(text: string): string[][] {
  const options = { delimiter: '\t', relax_column_count: true, record_delimiter: ['\r\n', '\n', '\r'] };
  const whole = text.replace(/(?:\r\n|\n|\r)$/, '');
  try {
    return parse(whole, options);
  } catch {
    return parse(whole, { ...options, quote: false });
  }
}

/** What was copied here last, so that formulas and looks come along when it is pasted here. */
export interface OwnClip {
  readonly text: string;
  /** What was typed into each cell, and the cell; from the row and column where it was copied. */
  readonly cells: readonly (readonly { readonly typed: string; readonly cell: Node | undefined }[])[];
  readonly row: number;
  readonly column: number;
}
