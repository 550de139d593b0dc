import type { Node } from 'prosemirror-model';
import type { Union } from '../../compare/union.js';
import { spans } from '../../compare/union.js';
import { childrenOf } from '../../content/index.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { At, Whole } from './at.js';
import { shifted } from './at.js';
import type { Paper } from './paper.js';
import type { Track } from './runs.js';
import { STYLES, TEXT_WIDTH, TWIPS } from './names.js';
import { sideOf } from '../sides.js';
import type { Slot } from '../table.js';
import { ownSlots, slotsOf, widthsOf } from '../table.js';
import { trackAttributes } from './runs.js';

/** What writes the blocks that stand in a cell. */
export interface DocxCells {
  readonly paper: Paper;
  track(whole: Whole, where: At): Track;
  parts(parts: readonly Union[], a: number, b: number): Element[];
  nodes(nodes: readonly Node[], where: At, whole: Whole | null): Element[];
}

/**
 * A table (ECMA-376 Part 1, 17.4). `kids` are its rows as a comparison has them, or null when it stands, or is tracked, as
 * a whole.
 */
export function tableOf(
  table: Node,
  where: At,
  kids: readonly Union[] | null,
  whole: Whole | null,
  flow: DocxCells,
): Element {
  const slots = slotsOf(table);
  const widths = widthsOf(slots);
  const fixed = widths.some((width) => width > 0);
  const usual = Math.floor(TEXT_WIDTH / widths.length);
  const rows = kids ? comparedRows(kids, slots, where, flow) : wholeRows(table, slots, where, whole, flow);
  return el('w:tbl', {}, [
    el('w:tblPr', {}, [
      el('w:tblStyle', { 'w:val': STYLES.table.id }),
      el('w:tblW', { 'w:w': 0, 'w:type': 'auto' }),
      fixed ? el('w:tblLayout', { 'w:type': 'fixed' }) : null,
      el('w:tblLook', { 'w:val': '0000' }),
    ]),
    el(
      'w:tblGrid',
      {},
      widths.map((width) => el('w:gridCol', { 'w:w': fixed ? width * TWIPS : usual })),
    ),
    ...rows,
  ]);
}

function wholeRows(
  table: Node,
  slots: readonly Slot[][],
  where: At,
  whole: Whole | null,
  flow: DocxCells,
): Element[] {
  let offset = 1;
  return childrenOf(table).map((row, i) => {
    const at = shifted(where, offset);
    offset += row.nodeSize;
    return rowOf(row, slots[i] ?? [], at, whole, flow, null);
  });
}

function comparedRows(
  kids: readonly Union[],
  slots: readonly Slot[][],
  where: At,
  flow: DocxCells,
): Element[] {
  let [a, b, rowsBefore] = [(where.a ?? 0) + 1, (where.b ?? 0) + 1, 0];
  return kids.flatMap((kid) => {
    const own = sideOf(kid, 'later').map((row, i) => slots[rowsBefore + i] ?? ownSlots(row));
    const rows = comparedRow(kid, own, a, b, flow);
    rowsBefore += own.length;
    const [before, after] = spans(kid);
    a += before;
    b += after;
    return rows;
  });
}

function comparedRow(kid: Union, slots: readonly Slot[][], a: number, b: number, flow: DocxCells): Element[] {
  const single = (rows: readonly Node[], where: At, whole: Whole | null): Element[] => {
    let offset = 0;
    return rows.map((row, i) => {
      const at = shifted(where, offset);
      offset += row.nodeSize;
      const own = where.b === null ? ownSlots(row) : (slots[i] ?? []);
      return rowOf(row, own, at, whole, flow, null);
    });
  };
  switch (kid.kind) {
    case 'keep':
      return single([kid.node], { a, b }, null);
    case 'difference':
      return [
        ...single(kid.earlier, { a, b: null }, { kind: 'del', change: kid.change.id }),
        ...single(kid.later, { a: null, b }, { kind: 'ins', change: kid.change.id }),
      ];
    case 'move': {
      const whole: Whole = { kind: kid.at === 'earlier' ? 'del' : 'ins', change: kid.moved.change.id };
      return single(kid.moved[kid.at], kid.at === 'earlier' ? { a, b: null } : { a: null, b }, whole);
    }
    case 'pair':
      return [rowOf(kid.later, slots[0] ?? [], { a, b }, null, flow, kid.kids)];
    default:
      return [];
  }
}

/** A row; `cells` are its cells as a comparison has them. */
function rowOf(
  row: Node,
  slots: readonly Slot[],
  where: At,
  whole: Whole | null,
  flow: DocxCells,
  cells: readonly Union[] | null,
): Element {
  const heads = row.childCount > 0 && childrenOf(row).every((cell) => cell.type.name === 'table_header');
  const track = whole && flow.track(whole, where);
  const properties = [
    heads ? el('w:tblHeader') : null,
    track
      ? el(/del|moveFrom/.test(track.kind) ? 'w:del' : 'w:ins', trackAttributes(flow.paper, track))
      : null,
  ].filter((one) => one !== null);
  const places = placesOf(row, where, cells);
  return el('w:tr', {}, [
    properties.length > 0 ? el('w:trPr', {}, properties) : null,
    ...slots.map(({ cell, index, goesOn }) =>
      el('w:tc', {}, [
        cellProperties(cell, goesOn, heads),
        ...(goesOn ? [el('w:p')] : cellContent(cell, places[index], whole, flow)),
      ]),
    ),
  ]);
}

interface CellPlace {
  readonly where: At;
  readonly part: Union | null;
}

function placesOf(row: Node, where: At, cells: readonly Union[] | null): CellPlace[] {
  let [before, after] = [1, 1];
  return childrenOf(row).map((cell, i) => {
    const part = cells?.[i] ?? null;
    const at: At = {
      a: where.a === null ? null : where.a + before,
      b: where.b === null ? null : where.b + after,
    };
    const [x, y] = part ? spans(part) : [cell.nodeSize, cell.nodeSize];
    before += x;
    after += y;
    return { where: at, part };
  });
}

function cellContent(
  cell: Node,
  place: CellPlace | undefined,
  whole: Whole | null,
  flow: DocxCells,
): Element[] {
  if (!place) return [el('w:p')];
  const { where, part } = place;
  const content =
    part?.kind === 'pair'
      ? flow.parts(part.kids, (where.a ?? 0) + 1, (where.b ?? 0) + 1)
      : flow.nodes(childrenOf(cell), shifted(where, 1), whole);
  const filled = spaced(content);
  return filled.at(-1)?.name === 'w:p' ? filled : [...filled, ...closing()];
}

/** A cell ends in a paragraph (ECMA-376 Part 1, 17.4.65). */
function closing(): Element[] {
  return [el('w:p', {}, [el('w:pPr', {}, [el('w:pStyle', { 'w:val': STYLES.between.id })])])];
}

function cellProperties(cell: Node, goesOn: boolean, heads: boolean): Element | null {
  const { colspan, rowspan, colwidth } = cell.attrs as {
    colspan: number;
    rowspan: number;
    colwidth: readonly number[] | null;
  };
  const width = (colwidth ?? []).reduce((sum, one) => sum + one, 0);
  const set = !heads && cell.type.name === 'table_header';
  const properties = [
    set ? el('w:cnfStyle', { 'w:val': '001000000000', 'w:firstColumn': 1 }) : null,
    width > 0 ? el('w:tcW', { 'w:w': width * TWIPS, 'w:type': 'dxa' }) : null,
    colspan > 1 ? el('w:gridSpan', { 'w:val': colspan }) : null,
    rowspan > 1 ? el('w:vMerge', goesOn ? {} : { 'w:val': 'restart' }) : null,
  ].filter((one) => one !== null);
  return properties.length > 0 ? el('w:tcPr', {}, properties) : null;
}

/** Blocks with a paragraph behind each table that has none: two tables would run together, and a cell must end in one. */
export function spaced(elements: readonly Element[]): Element[] {
  return elements.flatMap((element, i) =>
    element.name === 'w:tbl' && elements[i + 1]?.name !== 'w:p'
      ? [element, el('w:p', {}, [el('w:pPr', {}, [el('w:pStyle', { 'w:val': STYLES.between.id })])])]
      : [element],
  );
}
