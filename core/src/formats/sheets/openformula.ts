/**
 * Formulas between A1 notation as ISO/IEC 29500 has it and OpenFormula (ODF 1.2, ISO/IEC 26300, Part 2): there a reference stands in brackets, a
 * dot parts the sheet from the cell, and arguments are parted by semicolons.
 */
const QUOTED = '"(?:[^"]|"")*"';
const NAME = String.raw`'(?:[^']|'')+'|[\p{L}_][\p{L}\p{N}_.]*`;
const CELL = String.raw`\$?[A-Za-z]{1,3}\$?[1-9]\d{0,6}`;

const SHOWN = new RegExp(
  [
    QUOTED,
    String.raw`(?<![\p{L}\p{N}_.$])(?:(?<sheet>${NAME})!)?(?:(?<first>${CELL})(?::(?<last>${CELL}))?|(?<from>\$?[A-Za-z]{1,3}):(?<to>\$?[A-Za-z]{1,3})|(?<top>\$?[1-9]\d{0,6}):(?<bottom>\$?[1-9]\d{0,6}))(?![\p{L}\p{N}_(.!])`,
    String.raw`(?<sign>[,;{}])`,
  ].join('|'),
  'gu',
);
const OPEN = new RegExp(
  [
    QUOTED,
    String.raw`\[(?:\$?(?<sheet>'(?:[^']|'')+'|[^\].'$]+))?\.(?<first>[^\]:.]+)(?::(?:\$?(?:'(?:[^']|'')+'|[^\].'$]+))?\.(?<last>[^\]:.]+))?\]`,
    String.raw`(?<sign>[;{}|~])`,
  ].join('|'),
  'gu',
);

type Groups = Readonly<Record<string, string | undefined>>;

/** The last row and column that ISO/IEC 29500-1, 18.3.1.4, lets a sheet have: OpenFormula of ODF 1.2 has no whole rows and columns. */
const [LAST_ROW, LAST_COLUMN] = ['1048576', 'XFD'];

/** A formula in A1 notation as OpenFormula, with the prefix that says so. */
export function openFormula(typed: string): string {
  let braces = 0;
  const body = typed.slice(1).replace(SHOWN, (whole: string, ...rest: unknown[]) => {
    if (whole.startsWith('"')) return whole;
    const { sheet, first, last, from, to, top, bottom, sign } = rest.at(-1) as Groups;
    if (sign !== undefined) {
      if (sign === '{') braces++;
      if (sign === '}') braces--;
      if (sign === ',') return ';';
      return sign === ';' && braces > 0 ? '|' : sign;
    }
    const head = sheet === undefined ? '' : `$${sheet}`;
    const [a, b] =
      first !== undefined
        ? [first, last]
        : from !== undefined
          ? [`${from}1`, `${to ?? ''}${LAST_ROW}`]
          : [`A${top ?? ''}`, `${LAST_COLUMN}${bottom ?? ''}`];
    return b === undefined ? `[${head}.${a}]` : `[${head}.${a}:.${b}]`;
  });
  return `of:=${body}`;
}

/** A formula of a file in A1 notation; null for one that is not OpenFormula. */
export function typedFormula(told: string): string | null {
  const body = /^(?:of|oooc):=?(.*)$/su.exec(told)?.[1] ?? (told.startsWith('=') ? told.slice(1) : null);
  if (body === null) return null;
  const shown = body.replace(OPEN, (whole: string, ...rest: unknown[]) => {
    if (whole.startsWith('"')) return whole;
    const { sheet, first = '', last, sign } = rest.at(-1) as Groups;
    if (sign === '~' || sign === ';') return ',';
    if (sign !== undefined) return sign === '|' ? ';' : sign;
    const head = sheet === undefined ? '' : `${sheet}!`;
    return head + wholeLines(first, last);
  });
  return `=${shown}`;
}

/** A range that reaches from edge to edge as whole columns or rows. */
function wholeLines(first: string, last: string | undefined): string {
  if (last === undefined) return first;
  const columns = /^(\$?[A-Z]+)\$?1$/.exec(first);
  const toLast = new RegExp(`^(\\$?[A-Z]+)\\$?${LAST_ROW}$`).exec(last);
  if (columns && toLast) return `${columns[1] ?? ''}:${toLast[1] ?? ''}`;
  const rows = /^\$?A(\$?\d+)$/.exec(first);
  const toEdge = new RegExp(`^\\$?${LAST_COLUMN}(\\$?\\d+)$`).exec(last);
  return rows && toEdge ? `${rows[1] ?? ''}:${toEdge[1] ?? ''}` : `${first}:${last}`;
}
