import type { SheetDesk } from './sheet-desk';
import { cellsOf } from './views';

type At = { readonly row: number; readonly column: number };

/** Where an arrow key, Home, End or a page key leads in a sheet; null for other keys. With Shift what is selected grows to there. */
export function moveTo(
  { key, ctrlKey, metaKey, shiftKey }: KeyboardEvent,
  desk: SheetDesk,
  page: number,
): At | null {
  const sheet = desk.sheet();
  if (!sheet) return null;
  const [{ row, column }, far] = [shiftKey ? desk.end() : desk.at(), ctrlKey || metaKey];
  const last = { row: sheet.rows.length - 1, column: sheet.columns.length - 1 };
  const steps: Record<string, readonly [down: number, right: number]> = {
    ArrowDown: [1, 0],
    ArrowUp: [-1, 0],
    ArrowRight: [0, 1],
    ArrowLeft: [0, -1],
  };
  const step = steps[key];
  if (step)
    return far ? edgeFrom(desk, { row, column }, step) : { row: row + step[0], column: column + step[1] };
  switch (key) {
    case 'Home':
      return { row: far ? 0 : row, column: 0 };
    case 'End':
      return { row: far ? last.row : row, column: last.column };
    case 'PageDown':
      return { row: Math.min(last.row, row + page), column };
    case 'PageUp':
      return { row: Math.max(0, row - page), column };
    default:
      return null;
  }
}

/** The next cell in a direction at which what is filled begins or ends, or the last cell there. */
function edgeFrom(desk: SheetDesk, from: At, [down, right]: readonly [number, number]): At {
  const sheet = desk.sheet();
  const filled = ({ row, column }: At): boolean => {
    const [line, across] = [sheet?.rows[row], sheet?.columns[column]];
    return (
      line !== undefined && across !== undefined && Boolean(cellsOf(line.node).get(across.id)?.textContent)
    );
  };
  const inside = ({ row, column }: At): boolean =>
    sheet?.rows[row] !== undefined && sheet.columns[column] !== undefined;
  const on = ({ row, column }: At): At => ({ row: row + down, column: column + right });
  let at = from;
  const along = filled(at) && filled(on(at));
  while (inside(on(at))) {
    const next = on(at);
    if (along && !filled(next)) break;
    at = next;
    if (!along && filled(at)) break;
  }
  return at;
}
