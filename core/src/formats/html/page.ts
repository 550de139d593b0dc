import { PAGES_FIELD, PAGE_FIELD, sheetOf } from '../../kinds/text/index.js';
import type { Paper } from '../../kinds/text/index.js';

/** Where the three parts of a header and a footer stand (CSS Paged Media Level 3, 4.2). */
const BOXES = {
  header: ['top-left', 'top-center', 'top-right'],
  footer: ['bottom-left', 'bottom-center', 'bottom-right'],
} as const;

/** The rule of CSS that prints on a paper, with what stands at the head and the foot of each page. */
export function pageRule(paper: Paper): string {
  const { width, height } = sheetOf(paper);
  const boxes = (['header', 'footer'] as const).flatMap((kind) =>
    paper[kind]
      .split('\t')
      .map((part, i) => (part === '' ? '' : `@${BOXES[kind][i] ?? ''}{content:${contentOf(part)}}`)),
  );
  const { top, right, bottom, left } = paper;
  return `@page{size:${width}mm ${height}mm;margin:${top}mm ${right}mm ${bottom}mm ${left}mm;font:9pt sans-serif;${boxes.join('')}}`;
}

/** A line as the value of `content`: strings, and counters for page numbers. */
function contentOf(line: string): string {
  return line
    .split(/(\{pages?\})/)
    .filter((piece) => piece !== '')
    .map((piece) => {
      if (piece === PAGE_FIELD) return 'counter(page)';
      return piece === PAGES_FIELD ? 'counter(pages)' : quoted(piece);
    })
    .join(' ');
}

/** A string of CSS; what could end it, or the page's style sheet, is escaped (CSS Syntax Level 3, 4.3.5). */
function quoted(text: string): string {
  const escape = (char: string): string => `\\${char.codePointAt(0)?.toString(16) ?? ''} `;
  return `"${text.replace(/[\\"<>\n\r\f]/g, escape)}"`;
}
