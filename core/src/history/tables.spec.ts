import * as fc from 'fast-check';
import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import type { StepMap } from 'prosemirror-transform';
import { brokenIn, isRectangular, mendingSteps } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { FUZZ } from '../testing/budget.js';
import { Random, build } from '../testing/index.js';
import { orderBatch } from './authority.js';
import { applySteps } from './edit.js';
import { mapsOf } from './step-maps.js';

const { doc, p, table, td, tr } = build;

function cell(text: string, attrs: object = {}): Node {
  return schema.node('table_cell', attrs, [schema.node('paragraph', null, text ? [schema.text(text)] : [])]);
}

function gridOf(rows: number, columns: number): Node {
  return doc(
    p('Tides'),
    table(
      ...Array.from({ length: rows }, (_, r) =>
        tr(...Array.from({ length: columns }, (_, c) => td(p(`${r}${c}`)))),
      ),
    ),
  );
}

/** The tables of a document with their positions. */
function tablesIn(one: Node): { node: Node; at: number }[] {
  const out: { node: Node; at: number }[] = [];
  one.descendants((node, at) => {
    if (node.type.name === 'table') out.push({ node, at });
    return node.type.name !== 'table';
  });
  return out;
}

/** What a table reads, row by row. */
function reads(one: Node): string[] {
  return tablesIn(one).flatMap(({ node }) =>
    node.children.map((row) => row.children.map((each) => each.textContent || '·').join(' ')),
  );
}

type Act = (tr: Transform, table: { node: Node; at: number }, random: Random) => void;

function rowStarts({ node, at }: { node: Node; at: number }): number[] {
  const out: number[] = [];
  node.forEach((_row, offset) => out.push(at + 1 + offset));
  return out;
}

const addRow: Act = (change, one, random) => {
  const starts = [...rowStarts(one), one.at + one.node.nodeSize - 1];
  const cells = one.node.child(0).children.map(() => cell('r'));
  change.insert(random.pick(starts), schema.node('table_row', null, cells));
};
const addColumn: Act = (change, one, random) => {
  const index = random.between(0, one.node.child(0).childCount);
  one.node.children.forEach((row, r) => {
    const before = row.children.slice(0, index).reduce((sum, each) => sum + each.nodeSize, 0);
    change.insert(change.mapping.map((rowStarts(one)[r] as number) + 1 + before), cell('c'));
  });
};
const dropRow: Act = (change, one, random) => {
  const r = random.between(0, one.node.childCount - 1);
  const start = rowStarts(one)[r] as number;
  if (one.node.childCount > 1) change.delete(start, start + one.node.child(r).nodeSize);
};
const dropColumn: Act = (change, one, random) => {
  const width = one.node.child(0).childCount;
  const index = random.between(0, width - 1);
  if (width < 2 || one.node.children.some((row) => row.childCount !== width)) return;
  one.node.children.forEach((row, r) => {
    const before = row.children.slice(0, index).reduce((sum, each) => sum + each.nodeSize, 0);
    const start = change.mapping.map((rowStarts(one)[r] as number) + 1 + before);
    change.delete(start, start + row.child(index).nodeSize);
  });
};
const merge: Act = (change, one, random) => {
  const r = random.between(0, one.node.childCount - 1);
  const row = one.node.child(r);
  if (row.childCount < 2) return;
  const start = (rowStarts(one)[r] as number) + 1;
  change.setNodeAttribute(start, 'colspan', 2);
  change.delete(start + row.child(0).nodeSize, start + row.child(0).nodeSize + row.child(1).nodeSize);
};
const write: Act = (change, one, random) => {
  const starts = rowStarts(one);
  change.insert((random.pick(starts) as number) + 3, schema.text('w'));
};
const ACTS = [addRow, addRow, addColumn, addColumn, dropRow, dropColumn, merge, write];

/** What each of some people did to the same document, sent by one after the other. */
function ordered(base: Node, changes: readonly Transform[]): Node {
  let now = base;
  const maps: StepMap[] = [];
  for (const { steps } of changes) {
    const [verdict] = orderBatch(now, [{ steps, sources: [] }], maps);
    if (!verdict?.taken) throw verdict?.refusal ?? new Error('not taken');
    maps.push(...mapsOf(verdict.steps));
    now = verdict.doc;
  }
  return now;
}

describe('tables under several hands at once', () => {
  it('are rectangles in every order, and nothing is refused', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const base = gridOf(random.between(1, 4), random.between(1, 4));
        const changes = Array.from({ length: random.between(2, 3) }, () => {
          const change = new Transform(base);
          for (let i = random.between(1, 2); i > 0; i--) {
            const [one] = tablesIn(change.doc);
            const next = new Transform(change.doc);
            if (one && isRectangular(one.node) && one.node.child(0).childCount > 0)
              random.pick(ACTS)(next, one, random);
            const whole = tablesIn(next.doc).every(({ node }) => isRectangular(node));
            for (const step of whole ? next.steps : []) change.step(step);
          }
          return change;
        });
        for (const order of [
          changes,
          [...changes].reverse(),
          [...changes.slice(1), ...changes.slice(0, 1)],
        ]) {
          const now = ordered(base, order);
          now.check();
          for (const { node } of tablesIn(now)) expect(isRectangular(node)).toBe(true);
        }
      }),
      { numRuns: 600 * FUZZ },
    );
  });

  it('give a row its cell in the column that somebody adds meanwhile, whoever comes first', () => {
    const base = gridOf(2, 2);
    const [one] = tablesIn(base);
    if (!one) throw new Error('no table');
    const row = new Transform(base).insert(
      one.at + one.node.nodeSize - 1,
      schema.node('table_row', null, [cell('x'), cell('y')]),
    );
    const column = new Transform(base);
    one.node.children.forEach((each, r) =>
      column.insert(
        column.mapping.map((rowStarts(one)[r] as number) + 1 + (each.firstChild?.nodeSize ?? 0)),
        cell('c'),
      ),
    );
    for (const order of [
      [row, column],
      [column, row],
    ])
      expect(reads(ordered(base, order))).toEqual(['00 c 01', '10 c 11', 'x · y']);
  });

  it('are still refused when they were ragged from the start', () => {
    const ragged = new Transform(gridOf(2, 2)).delete(12, 16);
    const [verdict] = orderBatch(gridOf(2, 2), [{ steps: ragged.steps, sources: [] }], []);
    expect(verdict?.taken).toBe(false);
  });

  it('are mended whatever is wrong with them, and no cell is lost', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const rows = Array.from({ length: random.between(1, 4) }, () =>
          tr(
            ...Array.from({ length: random.between(1, 4) }, () =>
              cell('x', { colspan: random.between(1, 3), rowspan: random.between(1, 3) }),
            ),
          ),
        );
        const ragged = doc(schema.node('table', null, Fragment.fromArray(rows)));
        const mended = applySteps(ragged, mendingSteps(brokenIn(ragged, -1)));
        expect(isRectangular(mended.child(0))).toBe(true);
        expect(mended.textContent).toBe(ragged.textContent);
      }),
      { numRuns: 500 * FUZZ },
    );
  });
});
