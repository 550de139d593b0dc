import type { Node } from 'prosemirror-model';
import { Slice } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { ReplaceStep } from 'prosemirror-transform';
import type { Added, Standing, Wholeness } from '../../content/index.js';

/**
 * A row has one cell for each column. Where several people made the same cell at once, the one that came last stays and the others leave:
 * they are in the history, and can be put back.
 */
export const oneCellAColumn: Wholeness = {
  fault: (row) => (doublesIn(row).length > 0 ? 'leaves a row with two cells in one column' : null),
  mend: ({ node, at }: Standing, added: Added): Step[] =>
    doublesIn(node, added).map(
      ({ from, size }) => new ReplaceStep(at + 1 + from, at + 1 + from + size, Slice.empty),
    ),
};

/** The cells of a row that have to leave, in order: of those in one column all but the last one that was added, or else the last. */
function doublesIn(row: Node, added: Added = () => false): { from: number; size: number }[] {
  const stays = new Map<unknown, Node>();
  row.forEach((cell) => {
    const column: unknown = cell.attrs['column'];
    const known = stays.get(column);
    if (!known || added(cell) || !added(known)) stays.set(column, cell);
  });
  const out: { from: number; size: number }[] = [];
  row.forEach((cell, from) => {
    if (stays.get(cell.attrs['column']) !== cell) out.push({ from, size: cell.nodeSize });
  });
  return out;
}
