import type { Node } from 'prosemirror-model';
import { childrenOf, isRectangular } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';

/** Blocks, or an empty paragraph where there are none. */
export function orParagraph(blocks: Node[]): Node[] {
  return blocks.length > 0 ? blocks : [schema.node('paragraph')];
}

/** A table of these rows; when spans leave holes or overlap, spans are dropped and short rows filled up. */
export function squared(rows: readonly Node[][]): Node {
  if (rows.every((cells) => cells.length > 0)) {
    const asGiven = schema.node(
      'table',
      null,
      rows.map((cells) => schema.node('table_row', null, cells)),
    );
    if (isRectangular(asGiven)) return asGiven;
  }
  const width = Math.max(...rows.map((cells) => cells.length));
  return schema.node(
    'table',
    null,
    rows.map((cells) => {
      const plain = cells.map((cell) => cell.type.create(null, cell.content));
      const blank = Array.from({ length: width - plain.length }, () =>
        schema.node('table_cell', null, [schema.node('paragraph')]),
      );
      return schema.node('table_row', null, [...plain, ...blank]);
    }),
  );
}

/** A cell where the grid has it: its own, or one above that goes on downwards. */
export interface Slot {
  readonly cell: Node;
  readonly index: number;
  readonly goesOn: boolean;
}

/** The cells of a row that none from above reaches into. */
export function ownSlots(row: Node): Slot[] {
  return childrenOf(row).map((cell, index) => ({ cell, index, goesOn: false }));
}

/** Row by row the cells of the grid, with those from above that go on. */
export function slotsOf(table: Node): Slot[][] {
  const going = new Map<number, { cell: Node; left: number }>();
  return childrenOf(table).map((row) => {
    const slots: Slot[] = [];
    let [column, index] = [0, 0];
    for (;;) {
      const above = going.get(column);
      const cell = above?.cell ?? row.maybeChild(index);
      if (!cell) return slots;
      slots.push({ cell, index, goesOn: above !== undefined });
      const left = above ? above.left - 1 : Number(cell.attrs['rowspan']) - 1;
      if (left > 0) going.set(column, { cell, left });
      else going.delete(column);
      if (!above) index++;
      column += Number(cell.attrs['colspan']);
    }
  });
}

/** Widths of the columns in pixels, 0 where none is set. */
export function widthsOf(slots: readonly Slot[][]): number[] {
  const out: number[] = [];
  for (const row of slots) {
    let column = 0;
    for (const { cell } of row) {
      const { colspan, colwidth } = cell.attrs as { colspan: number; colwidth: readonly number[] | null };
      for (let i = 0; i < colspan; i++, column++)
        out[column] = Math.max(out[column] ?? 0, colwidth?.[i] ?? 0);
    }
  }
  return out;
}
