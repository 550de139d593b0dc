import type { Node, ResolvedPos } from 'prosemirror-model';
import { Fragment, Slice } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { ReplaceStep, Transform } from 'prosemirror-transform';
import type { Token } from '../content/index.js';
import { finished, insertedTokens, roleOf, sameContent, tokensOf } from '../content/index.js';
import { Refusal, checkOutcome, compileSteps, insertedLengths, touchedBlocks } from '../history/index.js';
import type { Inserted } from '../history/index.js';
import { repaired } from './assemble.js';
import type { Stretch } from './changes.js';
import { compare } from './compare.js';
import { matchesOf } from './matches.js';

/** Tokens `at` .. `at + length` of what step `step` inserts are those from `position` of the document they came from. */
export interface Brought {
  readonly step: number;
  readonly at: number;
  readonly length: number;
  readonly position: number;
}

/** What carrying does: its steps, what of theirs came along, and where that stands afterwards. */
export interface Carrying extends Stretch {
  readonly steps: readonly Step[];
  readonly brought: readonly Brought[];
}

/**
 * Carries a stretch of an earlier document into the present one, with its marks, links and images; several stretches are
 * cells of one table and go as a table of their own. `place` is where: an empty stretch puts it there, any other makes way
 * for it. Whole blocks go between blocks and never split one; items and rows go into a list or table that can hold them, or
 * bring along their own. Null when it cannot stand there.
 */
export function carry(now: Node, past: Node, what: readonly Stretch[], place: Stretch): Carrying | null {
  const landing = landingOf(now, past, what, place);
  if (!landing) return null;
  const tr = new Transform(now).replace(landing.from, landing.to, landing.slice);
  const [step] = tr.steps;
  if (!(step instanceof ReplaceStep) || !isTaken(now, tr.doc)) return null;
  const zone = { from: step.from, to: step.from + step.slice.size };
  const alone: Inserted = { step: 0, at: 0, length: step.slice.size, b: step.from };
  const { steps, inserted } =
    step.from === step.to
      ? { steps: tr.steps, inserted: [alone] }
      : compileSteps(now, tr.doc, matchesOf(compare(now, tr.doc)));
  const all = tokensOf(past.content);
  const positions = (what.length === 1 ? what.map((one) => wholeRows(past, one)) : what).flatMap(
    ({ from, to }) => Array.from({ length: to - from }, (_, i) => from + i),
  );
  const tokens = positions.map((position) => all[position] as Token);
  const held = alongside(tokensOf(tr.doc.content).slice(zone.from, zone.to), tokens);
  const brought = inserted.flatMap((one) =>
    stretches(one.length, (i) => {
      const index = held[one.b + i - zone.from] ?? -1;
      return index < 0 ? -1 : (positions[index] as number);
    }).map((part) => ({ step: one.step, at: one.at + part.at, length: part.length, position: part.value })),
  );
  return { steps, brought, ...zone };
}

/**
 * What of `tokens` some steps insert: of a paste, which parts of what was copied. Empty when the text they insert is not
 * all of those tokens, in their order. `position` counts within `tokens`.
 */
export function broughtBy(steps: readonly Step[], tokens: readonly Token[]): Brought[] {
  const inserted = insertedTokens(steps);
  const held = alongside(inserted, tokens);
  if (inserted.some((token, i) => !isBoundary(token) && held[i] === -1)) return [];
  let before = 0;
  return insertedLengths(steps).flatMap((length, step) => {
    const start = before;
    before += length;
    return stretches(length, (i) => held[start + i] ?? -1).map((part) => ({
      step,
      at: part.at,
      length: part.length,
      position: part.value,
    }));
  });
}

/**
 * For tokens that were put somewhere, which of `given` each one is, or -1: all of one in the order of the other, boundaries
 * on either side left over. Linear.
 */
function alongside(put: readonly Token[], given: readonly Token[]): Int32Array {
  const out = new Int32Array(put.length).fill(-1);
  let next = 0;
  for (let i = 0; i < put.length; i++) {
    const token = put[i] as Token;
    if (token.kind === 'unit' || token.kind === 'leaf')
      while (next < given.length && isBoundary(given[next] as Token)) next++;
    const other = given[next];
    if (other && sameContent(token, other)) out[i] = next++;
  }
  return out;
}

/** Unbroken stretches of 0 .. `length` over which a value goes up by one a step; negative ones left out. */
function stretches(
  length: number,
  value: (index: number) => number,
): { at: number; length: number; value: number }[] {
  const out: { at: number; length: number; value: number }[] = [];
  for (let i = 0; i < length; i++) {
    const now = value(i);
    const last = out.at(-1);
    if (now < 0) continue;
    if (last && last.at + last.length === i && last.value + last.length === now) last.length++;
    else out.push({ at: i, length: 1, value: now });
  }
  return out;
}

function isBoundary({ kind }: Token): boolean {
  return kind === 'open' || kind === 'close';
}

interface Landing extends Stretch {
  readonly slice: Slice;
}

function landingOf(now: Node, past: Node, what: readonly Stretch[], place: Stretch): Landing | null {
  const first = what[0] && wholeRows(past, what[0]);
  if (!first || first.to <= first.from) return null;
  const $from = past.resolve(first.from);
  const slice = what.length > 1 ? tableOf(past, what) : past.slice(first.from, first.to);
  const $place = now.resolve(place.from);
  const inText = $place.parent.inlineContent && now.resolve(place.to).parent === $place.parent;
  const isInline = slice.content.firstChild?.isInline === true;
  const open = slice.openStart > 0 || slice.openEnd > 0;
  const apart = isInline && isAllOf($from, first) && place.from === place.to && isEdge($place);
  if (inText && !apart && (isInline || open)) return { ...place, slice: unmarked(slice, $place) };
  const blocks = isInline ? Fragment.from($from.parent.copy(slice.content)) : mended(slice);
  if (blocks.childCount === 0) return null;
  const around = what.length > 1 ? 0 : isInline ? $from.depth - 1 : $from.sharedDepth(first.to);
  if (place.to > place.from) {
    const range = $place.blockRange(now.resolve(place.to));
    const fits = range?.parent.canReplace(range.startIndex, range.endIndex, blocks);
    return range && fits ? { from: range.start, to: range.end, slice: new Slice(blocks, 0, 0) } : null;
  }
  for (
    let depth = around, content = blocks;
    depth >= 0;
    content = Fragment.from($from.node(depth--).copy(content))
  ) {
    const at = between($place, content);
    if (at !== null) return { from: at, to: at, slice: new Slice(content, 0, 0) };
  }
  return null;
}

/** Whether the authority would take such an outcome. */
function isTaken(before: Node, after: Node): boolean {
  try {
    finished(checkOutcome(after, touchedBlocks(before, after)));
    return true;
  } catch (error) {
    if (error instanceof Refusal) return false;
    throw error;
  }
}

/** A stretch that cuts through a table taken to the edges of its rows, or of the table when it reaches beyond. */
function wholeRows(past: Node, { from, to }: Stretch): Stretch {
  const [$from, $to] = [past.resolve(from), past.resolve(to)];
  const shared = $from.sharedDepth(to);
  for (let depth = 0; depth <= shared + 1; depth++) {
    const cuts = [$from, $to].some(($end) => $end.depth >= depth && roleOf($end.node(depth)) === 'table');
    if (!cuts) continue;
    if (depth > shared) return { from: outside($from, depth, -1), to: outside($to, depth, 1) };
    if (shared > depth + 1) break;
    return { from: outside($from, depth + 1, -1), to: outside($to, depth + 1, 1) };
  }
  return { from, to };
}

/** The edge of the ancestor at a depth where that is a table or a row; else the position itself. */
function outside($end: ResolvedPos, depth: number, side: 1 | -1): number {
  if ($end.depth < depth || !/^(table|row)$/.test(roleOf($end.node(depth)) ?? '')) return $end.pos;
  return side === -1 ? $end.before(depth) : $end.after(depth);
}

/** The nodes of a slice closed at both ends: what is missing in those that were cut is filled in. */
function mended({ content, openStart, openEnd }: Slice): Fragment {
  const mend = (fragment: Fragment, start: number, end: number): Fragment => {
    const out: Node[] = [];
    fragment.forEach((node, _offset, index) => {
      const [head, tail] = [index === 0 ? start - 1 : -1, index === fragment.childCount - 1 ? end - 1 : -1];
      if (Math.max(head, tail) < 0) out.push(node);
      else {
        const whole = repaired(node, mend(node.content, Math.max(0, head), Math.max(0, tail)));
        if (whole) out.push(whole);
      }
    });
    return Fragment.fromArray(out);
  };
  return mend(content, openStart, openEnd);
}

/** Whether a stretch is all there is in its text block: it was a block, and is one again where it would touch another's text. */
function isAllOf($from: ResolvedPos, { from, to }: Stretch): boolean {
  return $from.depth > 0 && from === $from.start() && to === $from.end();
}

function isEdge({ parent, parentOffset }: ResolvedPos): boolean {
  const { size } = parent.content;
  return size > 0 && (parentOffset === 0 || parentOffset === size);
}

/** Some cells of one table as a table, row by row. */
function tableOf(past: Node, cells: readonly Stretch[]): Slice {
  const rows = new Map<number, Node[]>();
  const $first = past.resolve((cells[0] as Stretch).from);
  for (const { from } of cells) {
    const $cell = past.resolve(from);
    const cell = $cell.nodeAfter;
    if (cell) rows.set($cell.before(), [...(rows.get($cell.before()) ?? []), cell]);
  }
  const shaped = [...rows.values()].map((held) => $first.parent.copy(Fragment.fromArray(held)));
  return new Slice(Fragment.from($first.node(-1).copy(Fragment.fromArray(shaped))), 0, 0);
}

/** Text for a block that holds no marks goes without them. */
function unmarked(slice: Slice, { parent }: ResolvedPos): Slice {
  if (parent.type.allowsMarks(slice.content.firstChild?.marks ?? [])) return slice;
  const bare: Node[] = [];
  slice.content.forEach((node) =>
    bare.push(node.isInline ? node.mark(parent.type.allowedMarks(node.marks)) : node),
  );
  return new Slice(Fragment.fromArray(bare), slice.openStart, slice.openEnd);
}

/** The nearest position at or outside a place that can hold some nodes without splitting a text block. */
function between($place: ResolvedPos, content: Fragment): number | null {
  const holdsTable = content.firstChild !== null && roleOf(content.firstChild) === 'table';
  const tables = Array.from(
    { length: $place.depth + 1 },
    (_, depth) => roleOf($place.node(depth)) === 'table',
  );
  const outmost = tables.includes(true) ? tables.indexOf(true) - 1 : $place.depth;
  for (let depth = $place.depth; depth >= 0; depth--) {
    const node = $place.node(depth);
    if (node.inlineContent || (holdsTable && depth > outmost)) continue;
    const inside = depth < $place.depth;
    const atStart = inside && $place.pos === $place.start($place.depth) && startsAll($place, depth);
    const index = $place.index(depth) + (inside && !atStart ? 1 : 0);
    if (!node.canReplace(index, index, content) || !keepsWidth(node, content)) continue;
    if (!inside) return $place.pos;
    return atStart ? $place.before(depth + 1) : $place.after(depth + 1);
  }
  return null;
}

/** Whether a place is at the very start of the child of its ancestor at a depth. */
function startsAll($place: ResolvedPos, depth: number): boolean {
  for (let d = depth + 1; d < $place.depth; d++) if ($place.index(d) > 0) return false;
  return true;
}

/** Rows go only into a table as wide as they are, a cell into none: a table stays rectangular. */
function keepsWidth(node: Node, content: Fragment): boolean {
  const role = roleOf(node);
  if (role === 'row') return false;
  if (role !== 'table') return true;
  const widths = new Set<number>();
  let spans = false;
  const measure = (row: Node): void => {
    let width = 0;
    row.forEach((cell) => {
      width += Number(cell.attrs['colspan']);
      if (cell.attrs['rowspan'] !== 1) spans = true;
    });
    widths.add(width);
  };
  node.forEach(measure);
  content.forEach(measure);
  return widths.size === 1 && !spans;
}
