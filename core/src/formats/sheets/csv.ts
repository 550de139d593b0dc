import { parse } from 'csv-parse/browser/esm/sync';
import { stringify } from 'csv-stringify/browser/esm/sync';
import type { Node } from 'prosemirror-model';
import { FormatError } from '../format.js';
import { bookOf, plainOf, shownIn, USUAL_LOOK } from './plain.js';

/** What may stand between the fields of a line. */
const BETWEEN = [',', ';', '\t', '|'] as const;

/**
 * Comma-separated values (RFC 4180) as a book of one sheet with a name. A semicolon, tab or bar may stand for the comma, whichever is on most of the first
 * lines. What begins with an equals sign is text: no file of values brings formulas. Throws `FormatError`.
 */
export function readCsv(text: string, name = ''): Node {
  let lines: string[][];
  try {
    lines = parse(text, {
      bom: true,
      delimiter: between(text),
      relax_column_count: true,
      skip_empty_lines: false,
      record_delimiter: ['\r\n', '\n', '\r'],
    });
  } catch (error) {
    throw new FormatError(
      `This file cannot be read as comma-separated values: ${error instanceof Error ? error.message : ''}`,
    );
  }
  const rows = lines.map((line) =>
    line.map((field) => (field === '' ? null : { ...USUAL_LOOK, text: typedField(field), value: null })),
  );
  return bookOf([{ name, widths: [], frozenRows: 0, frozenColumns: 0, rows }]);
}

/** The text of a cell that shows what a field says, never a formula. */
export function typedField(field: string): string {
  return /^[='].?/.test(field) ? `'${field}` : field;
}

/** The sign between fields: the one that parts the first lines into as many fields each, and most. */
function between(text: string): string {
  const lines = text
    .slice(0, 20_000)
    .split(/\r\n|\n|\r/)
    .slice(0, 10);
  const score = (sign: string): number => {
    const counts = lines.filter((line) => line !== '').map((line) => line.split(sign).length - 1);
    const least = Math.min(...counts);
    return counts.length === 0 ? 0 : least * 100 + Math.max(...counts);
  };
  return [...BETWEEN].sort((one, other) => score(other) - score(one))[0] ?? ',';
}

/** The first sheet of a book as comma-separated values (RFC 4180), each as it is shown, formulas by what they come to. */
export function writeCsv(book: Node): string {
  const [sheet] = plainOf(book);
  const rows = sheet?.rows ?? [];
  const width = rows.reduce((most, row) => Math.max(most, row.length), 0);
  return stringify(
    rows.map((row) => Array.from({ length: width }, (_, i) => (row[i] ? shownIn(row[i]) : ''))),
    { record_delimiter: '\r\n' },
  );
}
