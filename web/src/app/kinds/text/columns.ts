import type { Command, EditorState, Transaction } from 'prosemirror-state';
import { TableMap, cellAround, columnResizing, isInTable } from 'prosemirror-tables';
import { Plugin } from 'prosemirror-state';
import { ReplaceAroundStep } from 'prosemirror-transform';

/** Narrowest column, in pixels. */
const NARROWEST = 40;
/** Width of a column that has none of its own, where one is first given. */
const USUAL = 140;

/** The table that the caret is in: where its content begins, its map, and the column of the caret. */
function tableIn(state: EditorState) {
  const $cell = isInTable(state) ? cellAround(state.selection.$head) : null;
  if (!$cell) return null;
  const table = $cell.node(-1);
  const start = $cell.start(-1);
  const map = TableMap.get(table);
  return { table, start, map, column: map.colCount($cell.pos - start) };
}

/** Makes the column of the caret wider by so many pixels, each of its cells by an attribute of its own. */
export function columnWidened(by: number): Command {
  return (state, dispatch) => {
    const at = tableIn(state);
    if (!at) return false;
    const { table, start, map, column } = at;
    const tr = state.tr;
    for (const position of map.cellsInRect({ left: column, right: column + 1, top: 0, bottom: map.height })) {
      const { colspan, colwidth } = table.nodeAt(position)?.attrs as {
        colspan: number;
        colwidth: number[] | null;
      };
      const widths = [...(colwidth ?? Array<number>(colspan).fill(0))];
      const i = column - map.colCount(position);
      widths[i] = Math.max(NARROWEST, (widths[i] || USUAL) + by);
      tr.setNodeAttribute(start + position, 'colwidth', widths);
    }
    dispatch?.(tr);
    return true;
  };
}

/** Takes the widths off all columns. */
export const columnsEvened: Command = (state, dispatch) => {
  const at = tableIn(state);
  if (!at) return false;
  const tr = state.tr;
  for (const position of new Set(at.map.map))
    if (at.table.nodeAt(position)?.attrs['colwidth'])
      tr.setNodeAttribute(at.start + position, 'colwidth', null);
  if (!tr.docChanged) return false;
  dispatch?.(tr);
  return true;
};

/** Columns can be dragged wider at their edges. */
export function columnDragging(): Plugin {
  return columnResizing({ cellMinWidth: NARROWEST, handleWidth: 6, lastColumnResizable: true });
}

/**
 * A transaction that only changes attributes of nodes by replacing their edges, as the one that ends a dragged column does, as one
 * that sets those attributes: no node is made anew for it. Null for one that does more.
 */
export function byAttributes(state: EditorState, tr: Transaction): Transaction | null {
  if (!tr.docChanged) return null;
  const out = state.tr;
  for (const [i, step] of tr.steps.entries()) {
    if (!(step instanceof ReplaceAroundStep)) return null;
    const node = tr.docs[i]?.nodeAt(step.from);
    const shell = step.slice.content.firstChild;
    const round = step.gapFrom === step.from + 1 && step.gapTo === step.to - 1 && step.insert === 1;
    if (!node || shell?.type !== node.type || step.slice.size !== 2 || !round) return null;
    for (const [name, value] of Object.entries(shell.attrs))
      if (JSON.stringify(node.attrs[name]) !== JSON.stringify(value))
        out.setNodeAttribute(step.from, name, value);
  }
  return out;
}
