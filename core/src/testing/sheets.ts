import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import type { SheetView } from '../kinds/sheet/index.js';
import {
  addColumns,
  addRows,
  addSheet,
  cellAt,
  clearCells,
  freshIds,
  moveLines,
  removeLine,
  sheet,
  sheetsOf,
  writeCells,
} from '../kinds/sheet/index.js';
import type { Random } from './random.js';
import type { Hand } from './writers.js';

type Act = (random: Random, tr: Transform, on: SheetView, fresh: (count: number) => string) => void;

const ids = (random: Random, count: number): string[] =>
  freshIds(count, () => random.between(0, 999_999) / 1e6);

const write: Act = (random, tr, { rows, columns }, fresh) => {
  if (rows.length === 0 || columns.length === 0) return;
  const column = random.pick(columns).id;
  const row = random.pick(rows);
  const held = cellAt(row, column)?.cell.textContent ?? '';
  const at = random.between(0, held.length);
  const text = random.chance(0.3) ? fresh(2) : held.slice(0, at) + fresh(1) + held.slice(at);
  writeCells(tr, [{ row, column, text }]);
};
const fill: Act = (random, tr, { rows, columns }, fresh) => {
  if (rows.length === 0) return;
  const row = random.pick(rows);
  writeCells(
    tr,
    columns.map(({ id }) => ({ row, column: id, text: fresh(1) })),
  );
};
const form: Act = (random, tr, { rows, columns }) => {
  if (rows.length === 0 || columns.length === 0) return;
  const look = { bold: random.chance(0.5), fill: random.pick(['', 'sand', 'sky']) };
  writeCells(tr, [{ row: random.pick(rows), column: random.pick(columns).id, form: look }]);
};
const clear: Act = (random, tr, { rows }) => {
  const cells = rows.flatMap((row) => {
    const out: { at: number; cell: Node }[] = [];
    row.node.forEach((cell, offset) => out.push({ at: row.at + 1 + offset, cell }));
    return out;
  });
  clearCells(
    tr,
    cells.filter(() => random.chance(2 / (cells.length + 1))),
  );
};
const addRow: Act = (random, tr, on) =>
  addRows(tr, on, random.between(0, on.rows.length), ids(random, random.between(1, 3)));
const dropRow: Act = (random, tr, { rows }) => rows.length > 0 && removeLine(tr, random.pick(rows));
const moveRows: Act = (random, tr, { rows }) =>
  moveLines(
    tr,
    rows,
    rows.filter(() => random.chance(0.2)),
    random.between(0, rows.length),
  );
const sort: Act = (random, tr, { rows, columns }) => {
  if (columns.length === 0) return;
  const by = random.pick(columns).id;
  const keyOf = (row: (typeof rows)[number]): string => cellAt(row, by)?.cell.textContent ?? '';
  moveLines(
    tr,
    rows,
    [...rows].sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1)),
    0,
  );
};
const addColumn: Act = (random, tr, on) =>
  addColumns(tr, on, random.between(0, on.columns.length), ids(random, 1));
const dropColumn: Act = (random, tr, { columns }) =>
  columns.length > 1 && removeLine(tr, random.pick(columns));
const moveColumn: Act = (random, tr, { columns }) =>
  columns.length > 0 && moveLines(tr, columns, [random.pick(columns)], random.between(0, columns.length));
const another: Act = (random, tr, _on, fresh) => {
  const [id = '', ...columns] = ids(random, 3);
  addSheet(tr, { id, name: fresh(2) }, columns);
};
const dropSheet: Act = (random, tr, on) => {
  if (random.chance(0.2) && sheetsOf(tr.doc).length > 1) removeLine(tr, on);
};

const CELL_ACTS: Act[] = [write, write, write, write, fill, clear];
const LINE_ACTS: Act[] = [
  addRow,
  addRow,
  dropRow,
  moveRows,
  sort,
  addColumn,
  dropColumn,
  moveColumn,
  form,
  another,
  dropSheet,
];

/** Writes sheets: cells are written and cleared; with structure rows, columns and sheets come, go, move and are sorted. */
export const SHEET_HAND: Hand = {
  kind: sheet,
  act: (random, doc, fresh, structure) => {
    for (let tries = 0; tries < 20; tries++) {
      const tr = new Transform(doc);
      const on = random.pick(sheetsOf(doc));
      random.pick(structure ? [...CELL_ACTS, ...LINE_ACTS] : CELL_ACTS)(random, tr, on, fresh);
      if (tr.docChanged) return tr;
    }
    const tr = new Transform(doc);
    addRows(tr, random.pick(sheetsOf(doc)), 0, ids(random, 1));
    return tr;
  },
};
