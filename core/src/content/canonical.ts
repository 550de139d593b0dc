import type { Node } from 'prosemirror-model';

/** Text that is canonical at first sight: no controls, and below the first combining mark, or general punctuation. */
const PLAIN = /^[ -~\u00a0-\u02ff\u2010-\u2027\u2030-\u205e]*$/;
/** Control characters but for tab and line ends, the byte order mark, and interlinear annotation signs. */
const CONTROLS = /(?![\t\n\r\u2028])[\p{Cc}\ufeff\ufff9-\ufffb]/gu;

/**
 * Text in canonical form: Unicode NFC, no control characters; outside code, line ends and tabs are spaces.
 * Source: Unicode Standard Annex #15 (Normalization Forms).
 */
export function canonicalText(text: string, code: boolean): string {
  if (PLAIN.test(text)) return text;
  const lines = text
    .normalize('NFC')
    .replace(CONTROLS, '')
    .replace(/\r\n?|\u2028|\u2029/g, '\n');
  return code ? lines : lines.replace(/[\n\t]/g, ' ');
}

/** Whether a text holds half of a surrogate pair. */
export function hasLoneSurrogate(text: string): boolean {
  return /\p{Surrogate}/u.test(text);
}

/** Whether a table's rows all fill the same number of columns, spans counted, with no overlap and no hole. */
export function isRectangular(table: Node): boolean {
  const filled: boolean[][] = Array.from({ length: table.childCount }, () => []);
  for (let row = 0; row < table.childCount; row++) {
    let column = 0;
    const cells = table.child(row);
    for (let i = 0; i < cells.childCount; i++) {
      const { colspan, rowspan } = cells.child(i).attrs as { colspan: number; rowspan: number };
      while (filled[row]?.[column]) column++;
      for (let r = row; r < row + rowspan; r++) {
        const line = filled[r];
        if (!line) return false;
        for (let c = column; c < column + colspan; c++) {
          if (line[c]) return false;
          line[c] = true;
        }
      }
      column += colspan;
    }
  }
  const width = filled[0]?.length ?? 0;
  return width > 0 && filled.every((line) => line.length === width && Object.keys(line).length === width);
}

/** Whether a plain JSON value is nested no deeper than `limit` and holds at most `nodes` objects and lists. Never recurses. */
export function isBounded(value: unknown, limit: number, nodes: number): boolean {
  const stack: { value: unknown; depth: number }[] = [{ value, depth: 0 }];
  let seen = 0;
  for (let item = stack.pop(); item; item = stack.pop()) {
    if (typeof item.value !== 'object' || item.value === null) continue;
    if (item.depth > limit || ++seen > nodes) return false;
    for (const child of Object.values(item.value)) stack.push({ value: child, depth: item.depth + 1 });
  }
  return true;
}
