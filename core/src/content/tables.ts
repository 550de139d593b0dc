import type { Node } from 'prosemirror-model';
import { Fragment, Slice } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { AttrStep, ReplaceStep } from 'prosemirror-transform';
import type { Added, Wholeness } from './traits.js';

/** A cell of a table as it fits: where it begins, and the rows and columns it may fill without lying over another. */
interface Fitted {
  /** Position within the table's content. */
  readonly at: number;
  readonly column: number;
  readonly colspan: number;
  readonly rowspan: number;
  readonly cell: Node;
}

/** A row of a table, its cells from left to right, and where its content ends. */
interface Line {
  readonly cells: readonly Fitted[];
  readonly end: number;
}

/** Where the cells of a table fit, and which places of the grid are filled: row by row, a flag for each column. */
function laidOut(table: Node): { lines: Line[]; filled: boolean[][]; width: number } {
  const filled: boolean[][] = Array.from({ length: table.childCount }, () => []);
  const lines: Line[] = [];
  table.forEach((row, offset, index) => {
    const cells: Fitted[] = [];
    let column = 0;
    row.forEach((cell, inside) => {
      const asked = cell.attrs as { colspan: number; rowspan: number };
      while (filled[index]?.[column]) column++;
      let colspan = 1;
      while (colspan < asked.colspan && !filled[index]?.[column + colspan]) colspan++;
      let rowspan = 1;
      while (rowspan < asked.rowspan && isFree(filled[index + rowspan], column, colspan)) rowspan++;
      for (let r = index; r < index + rowspan; r++)
        for (let c = column; c < column + colspan; c++) (filled[r] as boolean[])[c] = true;
      cells.push({ at: offset + 1 + inside, column, colspan, rowspan, cell });
      column += colspan;
    });
    lines.push({ cells, end: offset + row.nodeSize - 1 });
  });
  return { lines, filled, width: filled.reduce((most, line) => Math.max(most, line.length), 0) };
}

function isFree(line: readonly boolean[] | undefined, column: number, count: number): boolean {
  return line !== undefined && Array.from({ length: count }, (_, i) => line[column + i]).every((one) => !one);
}

/** Whether a table's rows all fill the same number of columns, spans counted, with no overlap and no hole. */
export function isRectangular(table: Node): boolean {
  const { lines, filled, width } = laidOut(table);
  const fits = lines.every(({ cells }) =>
    cells.every(
      ({ cell, colspan, rowspan }) => cell.attrs['colspan'] === colspan && cell.attrs['rowspan'] === rowspan,
    ),
  );
  return (
    fits && width > 0 && filled.every((line) => line.length === width && Object.keys(line).length === width)
  );
}

/**
 * Tables stay rectangular: spans that reach too far are cut, places without a cell get an empty one. Where rows and columns were
 * added at the same time, a row gets its cells in the columns that came anew, not at its end. No cell is taken away.
 */
export const rectangular: Wholeness = {
  fault: (table) => (isRectangular(table) ? null : 'leaves a table whose rows differ in width'),
  mend: ({ node, at }, added) => stepsFor(node, at, added),
};

function stepsFor(table: Node, at: number, added: Added): Step[] {
  const { lines, filled, width } = laidOut(table);
  const steps: Step[] = [];
  const full = lines.filter(({ cells }) => cells.length === width);
  lines.forEach(({ cells, end }, index) => {
    const lacks = width - cells.length;
    const isNew = cells.every(({ cell }) => added(cell));
    const row: Step[] = [];
    const newColumns = full
      .map((line) => line.cells.flatMap(({ cell, column }) => (added(cell) ? [column] : [])))
      .find((columns) => columns.length === lacks && (isNew || columns.length < width));
    const plain = cells.every(({ colspan, rowspan }) => colspan === 1 && rowspan === 1);
    const isPlain = plain && cells.every(({ column }, i) => column === i);
    const holes =
      newColumns && isPlain
        ? newColumns.map((column, i) => cells[column - i]?.at ?? end)
        : Array.from({ length: width }, (_, column) => column)
            .filter((column) => !filled[index]?.[column])
            .map((column) => cells.find((one) => one.column > column)?.at ?? end);
    const types = new Set(cells.map(({ cell }) => cell.type));
    const [type] = types.size === 1 ? types : [table.child(index).type.contentMatch.defaultType];
    for (const hole of holes) {
      const cell = type?.createAndFill();
      const place = at + 1 + hole;
      if (cell) row.push(new ReplaceStep(place, place, new Slice(Fragment.from(cell), 0, 0)));
    }
    for (const { at: place, cell, colspan, rowspan } of cells)
      for (const [name, value] of Object.entries({ colspan, rowspan }))
        if (cell.attrs[name] !== value) row.push(new AttrStep(at + 1 + place, name, value));
    steps.push(...row);
  });
  return steps;
}
