import type { Node } from 'prosemirror-model';
import type { Union } from '../../compare/union.js';
import { spans } from '../../compare/union.js';
import { childrenOf } from '../../content/index.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Slot } from '../table.js';
import { slotsOf, widthsOf } from '../table.js';
import { STYLES } from './names.js';

/** What writes the blocks that stand in a cell. */
export interface OdtCells {
  /** Widths of columns in pixels that are used. */
  readonly widths: Set<number>;
  parts(parts: readonly Union[], a: number, b: number): Element[];
  blocks(nodes: readonly Node[]): Element[];
}

/** A table (ODF 1.2 Part 1, 9.1). `kids` are its rows where it is compared. */
export function tableOf(
  table: Node,
  kids: readonly Union[] | null,
  a: number,
  b: number,
  flow: OdtCells,
): Element {
  let [x, y] = [a + 1, b + 1];
  const slots = slotsOf(table);
  const rows = childrenOf(table).map((row, i) => {
    const kid = kids?.[i];
    const cells = rowOf(row, slots[i] ?? [], kid?.kind === 'pair' ? kid.kids : null, x, y, flow);
    const [one, other] = kid ? spans(kid) : [0, 0];
    x += one;
    y += other;
    return el('table:table-row', {}, cells);
  });
  const heads = headRows(table);
  const columns = widthsOf(slots).map((width) => {
    if (width > 0) flow.widths.add(width);
    return el('table:table-column', { 'table:style-name': width > 0 ? columnStyle(width) : null });
  });
  return el('table:table', {}, [
    ...columns,
    heads > 0 ? el('table:table-header-rows', {}, rows.slice(0, heads)) : null,
    ...rows.slice(heads),
  ]);
}

/** How many rows at the top are headings; none where all are, since a table needs a row that is not. */
function headRows(table: Node): number {
  const first = childrenOf(table).findIndex(
    (row) =>
      !childrenOf(row).every(({ type, attrs }) => type.name === 'table_header' && attrs['rowspan'] === 1),
  );
  return Math.max(0, first);
}

function rowOf(
  row: Node,
  slots: readonly Slot[],
  kids: readonly Union[] | null,
  a: number,
  b: number,
  flow: OdtCells,
): Element[] {
  let [x, y] = [a + 1, b + 1];
  const contents = childrenOf(row).map((cell, i) => {
    const kid = kids?.[i];
    const content = kid?.kind === 'pair' ? flow.parts(kid.kids, x + 1, y + 1) : flow.blocks(childrenOf(cell));
    const [one, other] = kid ? spans(kid) : [0, 0];
    x += one;
    y += other;
    return content;
  });
  return slots.flatMap(({ cell, index, goesOn }) => {
    const { colspan, rowspan } = cell.attrs as { colspan: number; rowspan: number };
    const covered = Array.from({ length: goesOn ? colspan : colspan - 1 }, () =>
      el('table:covered-table-cell'),
    );
    return goesOn ? covered : [cellOf(cell, colspan, rowspan, contents[index] ?? []), ...covered];
  });
}

function cellOf(cell: Node, colspan: number, rowspan: number, content: readonly Element[]): Element {
  return el(
    'table:table-cell',
    {
      'table:style-name': cell.type.name === 'table_header' ? STYLES.headCell : STYLES.cell,
      'office:value-type': 'string',
      'table:number-columns-spanned': colspan > 1 ? colspan : null,
      'table:number-rows-spanned': rowspan > 1 ? rowspan : null,
    },
    content,
  );
}

/** The style of columns of a width in pixels. */
export function columnStyle(width: number): string {
  return `Column_${width}`;
}
