import type { Node } from 'prosemirror-model';
import { Fragment, Slice } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { AttrStep, ReplaceStep } from 'prosemirror-transform';

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

/** Which cells were added, so that a row without them can be told where it lacks them. */
export type Added = (cell: Node) => boolean;

/** A table, and its position in its document. */
export interface Standing {
  readonly table: Node;
  readonly at: number;
}

/** The tables in a node that are no rectangles, in order; `at` is the position of the node in its document, -1 for that itself. */
export function raggedIn(node: Node, at: number): Standing[] {
  const out: Standing[] = [];
  if (node.type.name === 'table' && !isRectangular(node)) out.push({ table: node, at });
  if (!node.isTextblock) node.forEach((child, offset) => out.push(...raggedIn(child, at + 1 + offset)));
  return out;
}

/**
 * Steps that make tables rectangular again: spans that reach too far are cut, places without a
 * cell get an empty one. Where rows and columns were added at the same time, `added` tells of which cells that is true: a
 * row then gets its cells in the columns that came anew, not at its end. No cell is taken away.
 */
export function rectangleSteps(tables: readonly Standing[], added: Added = () => false): Step[] {
  return tables
    .flatMap(({ table, at }) => stepsFor(table, at, added))
    .sort((one, other) => placeOf(one) - placeOf(other))
    .reverse();
}

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
    const type = cells.every(({ cell }) => cell.type.name === 'table_header') ? 'table_header' : 'table_cell';
    for (const hole of holes) {
      const cell = table.type.schema.nodes[type]?.createAndFill();
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

function placeOf(step: Step): number {
  return step instanceof AttrStep ? step.pos : (step as ReplaceStep).from;
}
