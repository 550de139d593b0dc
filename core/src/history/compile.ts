import type { Node } from 'prosemirror-model';
import { Slice } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import {
  AddMarkStep,
  AttrStep,
  RemoveMarkStep,
  ReplaceAroundStep,
  ReplaceStep,
  Transform,
} from 'prosemirror-transform';
import { sliceFromTokens, sliceTokens } from '../content/index.js';
import type { Token } from '../content/index.js';
import { markDifferences } from './forms.js';
import { Sums } from './sums.js';

/** `length` tokens from position `a` of one document that are the same content as those from position `b` of another. */
export interface Match {
  readonly a: number;
  readonly b: number;
  readonly length: number;
}

/** Tokens `at` .. `at + length` of what step `step` inserts are those from position `b` of the target. */
export interface Inserted {
  readonly step: number;
  readonly at: number;
  readonly length: number;
  readonly b: number;
}

/** Steps that turn one document into another, and where in the target their insertions come from. */
export interface Compiled {
  readonly steps: readonly Step[];
  readonly inserted: readonly Inserted[];
}

/** A stretch of `a` that makes way for a stretch of `b`. */
interface Group {
  readonly pa: number;
  readonly qa: number;
  readonly pb: number;
  readonly qb: number;
}

/**
 * Compiles the difference between `a` and `b` into small steps, so that everything outside the difference keeps its
 * identity and concurrent edits survive. `matches` (increasing in both) say what stays. What does not apply alone is
 * widened: first to the top-level blocks around it, at last to the whole document, so the result is always exactly `b`.
 */
export function compileSteps(a: Node, b: Node, matches: readonly Match[]): Compiled {
  let groups = gapsBetween(a, b, matches);
  for (;;) {
    const attempt = plan(a, b, groups);
    if (attempt.done) return attempt.done;
    const wider = widen(a, b, matches, groups, attempt.failed);
    if (wider.length === groups.length && wider.every((group, i) => sameGroup(group, groups[i]))) {
      return replaceAll(a, b);
    }
    groups = wider;
  }
}

function sameGroup(one: Group, other: Group | undefined): boolean {
  return (
    other !== undefined &&
    one.pa === other.pa &&
    one.qa === other.qa &&
    one.pb === other.pb &&
    one.qb === other.qb
  );
}

function replaceAll(a: Node, b: Node): Compiled {
  const step = new ReplaceStep(0, a.content.size, b.slice(0, b.content.size));
  return { steps: [step], inserted: [{ step: 0, at: 0, length: b.content.size, b: 0 }] };
}

function gapsBetween(a: Node, b: Node, matches: readonly Match[]): Group[] {
  const groups: Group[] = [];
  let [pa, pb] = [0, 0];
  for (const match of [...matches, { a: a.content.size, b: b.content.size, length: 0 }]) {
    if (match.a > pa || match.b > pb) groups.push(...parted(a, b, { pa, qa: match.a, pb, qb: match.b }));
    pa = match.a + match.length;
    pb = match.b + match.length;
  }
  return groups;
}

/** A group by its number among all: what groups before it grew by shifts it. */
interface Placed extends Group {
  readonly index: number;
}

/** Steps in the making. */
interface Making {
  readonly tr: Transform;
  readonly b: Node;
  readonly inserted: Inserted[];
  /** What each group that is done put in more than it took out. */
  readonly grown: Sums;
}

/**
 * A group that ends one container and begins the next, as two, so that each pairs with the group at the container's other
 * end: where it reaches across a place between top-level blocks in both documents, and begins at another depth in each.
 */
function parted(a: Node, b: Node, group: Group): Group[] {
  const { pa, qa, pb, qb } = group;
  if (a.resolve(pa).depth === b.resolve(pb).depth) return [group];
  const [ta, tb] = [topBetween(a, pa, qa), topBetween(b, pb, qb)];
  const atEdge = (ta === pa && tb === pb) || (ta === qa && tb === qb);
  return ta === null || tb === null || atEdge
    ? [group]
    : [
        { pa, qa: ta, pb, qb: tb },
        { pa: ta, qa, pb: tb, qb },
      ];
}

/** The first place between top-level blocks from one position to another. */
function topBetween(doc: Node, from: number, to: number): number | null {
  const $from = doc.resolve(from);
  const at = $from.depth === 0 ? from : $from.after(1);
  return at <= to ? at : null;
}

type Attempt =
  | { readonly done: Compiled; readonly failed?: undefined }
  | { readonly done?: undefined; readonly failed: readonly Group[] };

/** Tries one step a group: groups that only open and close again stand alone, the others pair like brackets. */
function plan(a: Node, b: Node, groups: readonly Group[]): Attempt {
  const making: Making = { tr: new Transform(a), b, inserted: [], grown: new Sums(groups.length) };
  const flat: Placed[] = [];
  const pairs: [Placed, Placed][] = [];
  const open: { group: Placed; tilt: number }[] = [];
  for (const [index, one] of groups.entries()) {
    const group = { ...one, index };
    const tilt = depthGain(b, group.pb, group.qb) - depthGain(a, group.pa, group.qa);
    const last = open.at(-1);
    if (tilt === 0) flat.push(group);
    else if (last && last.tilt === -tilt) {
      open.pop();
      pairs.push([last.group, group]);
    } else open.push({ group, tilt });
  }
  if (open.length > 0) return { failed: open.map(({ group }) => group) };
  const failed: Group[] = [];
  for (const group of flat.reverse()) {
    if (!replaceFlat(making, group)) failed.push(group);
  }
  for (const [first, second] of pairs) {
    if (!replaceAround(making, first, second)) failed.push(first, second);
  }
  if (failed.length > 0) return { failed };
  if (!syncForm(making.tr, b)) return { failed: groups };
  return { done: { steps: making.tr.steps, inserted: making.inserted } };
}

function depthGain(doc: Node, from: number, to: number): number {
  return doc.resolve(to).depth - doc.resolve(from).depth;
}

function replaceFlat({ tr, b, inserted, grown }: Making, group: Placed): boolean {
  const { pa, qa, pb, qb } = group;
  const shift = grown.before(group.index);
  const slice = pb === qb ? Slice.empty : b.slice(pb, qb);
  if (tr.maybeStep(new ReplaceStep(pa + shift, qa + shift, slice)).failed) return false;
  grown.add(group.index, qb - pb - (qa - pa));
  if (qb > pb) inserted.push({ step: tr.steps.length - 1, at: 0, length: qb - pb, b: pb });
  return true;
}

function replaceAround({ tr, b, inserted, grown }: Making, first: Placed, second: Placed): boolean {
  const lead = first.qb - first.pb;
  const trail = second.qb - second.pb;
  const slice = sliceFromTokens(
    b.type.schema,
    [...tokensBetween(b, first.pb, first.qb), ...tokensBetween(b, second.pb, second.qb)],
    ancestorsAt(b, first.pb),
  );
  if (!slice) return false;
  const [left, right] = [grown.before(first.index), grown.before(second.index)];
  const around = new ReplaceAroundStep(
    first.pa + left,
    second.qa + right,
    first.qa + left,
    second.pa + right,
    slice,
    lead,
  );
  if (tr.maybeStep(around).failed) return false;
  grown.add(first.index, lead - (first.qa - first.pa));
  grown.add(second.index, trail - (second.qa - second.pa));
  const step = tr.steps.length - 1;
  if (lead) inserted.push({ step, at: 0, length: lead, b: first.pb });
  if (trail) inserted.push({ step, at: lead, length: trail, b: second.pb });
  return true;
}

function tokensBetween(doc: Node, from: number, to: number): Token[] {
  return sliceTokens(doc.slice(from, to));
}

function ancestorsAt(doc: Node, position: number): Node[] {
  const $position = doc.resolve(position);
  return Array.from({ length: $position.depth }, (_, i) => $position.node($position.depth - i));
}

/** Adds the steps that give the content of `tr`, token for token that of `b`, the form of `b`. False when it is not. */
function syncForm(tr: Transform, b: Node): boolean {
  const steps: Step[] = [];
  if (!collectForm(tr.doc, b, 0, steps)) return false;
  for (const step of steps) if (tr.maybeStep(step).failed) return false;
  return tr.doc.eq(b);
}

function collectForm(a: Node, b: Node, start: number, steps: Step[]): boolean {
  if (a === b) return true;
  if (a.content.size !== b.content.size) return false;
  if (a.isTextblock) return collectInline(a, b, start, steps);
  if (a.childCount !== b.childCount) return false;
  let position = start;
  for (let i = 0; i < a.childCount; i++) {
    const one = a.child(i);
    const other = b.child(i);
    if (one !== other) {
      if (one.type !== other.type || one.nodeSize !== other.nodeSize) return false;
      attrSteps(one, other, position, steps);
      if (!collectForm(one, other, position + 1, steps)) return false;
    }
    position += one.nodeSize;
  }
  return true;
}

function attrSteps(a: Node, b: Node, position: number, steps: Step[]): void {
  for (const name of Object.keys(b.attrs)) {
    if (JSON.stringify(a.attrs[name]) !== JSON.stringify(b.attrs[name]))
      steps.push(new AttrStep(position, name, b.attrs[name]));
  }
}

function collectInline(a: Node, b: Node, start: number, steps: Step[]): boolean {
  if (a.textBetween(0, a.content.size, '', '\ufffc') !== b.textBetween(0, b.content.size, '', '\ufffc'))
    return false;
  let position = 0;
  b.forEach((node, offset) => {
    for (position = offset; position < offset + node.nodeSize;) {
      const { node: held, offset: heldAt } = a.childAfter(position);
      if (!held) return;
      const end = Math.min(heldAt + held.nodeSize, offset + node.nodeSize);
      if (!node.isText && held.type === node.type) attrSteps(held, node, start + position, steps);
      for (const form of markDifferences(held.marks, node.marks)) {
        if (form.kind !== 'mark') continue;
        const [from, to] = [start + position, start + end];
        if (form.before) steps.push(new RemoveMarkStep(from, to, form.before));
        if (form.after) steps.push(new AddMarkStep(from, to, form.after));
      }
      position = end;
    }
  });
  return true;
}

/** Groups with the failed ones stretched to whole top-level blocks, where a boundary is matched on both sides. */
function widen(
  a: Node,
  b: Node,
  matches: readonly Match[],
  groups: readonly Group[],
  failed: readonly Group[],
): Group[] {
  const seams = topSeams(a, b, matches);
  const places = new Set(failed.map(({ pa }) => pa));
  const stretched = groups.map((group) => (places.has(group.pa) ? stretch(group, seams) : group));
  const out: Group[] = [];
  for (const group of stretched.sort((x, y) => x.pa - y.pa || x.pb - y.pb)) {
    const last = out.at(-1);
    if (last && (group.pa < last.qa || group.pb < last.qb)) {
      out[out.length - 1] = {
        pa: Math.min(last.pa, group.pa),
        qa: Math.max(last.qa, group.qa),
        pb: Math.min(last.pb, group.pb),
        qb: Math.max(last.qb, group.qb),
      };
    } else out.push(group);
  }
  return out;
}

/** A place between top-level blocks of either document. */
interface Seam {
  readonly a: number;
  readonly b: number;
}

/** Pairs of positions between top-level blocks that correspond: both documents' ends, and those inside or at the edge of a match. */
function topSeams(a: Node, b: Node, matches: readonly Match[]): Seam[] {
  const inB = new Set<number>();
  b.forEach((_node, offset) => inB.add(offset));
  const seams = [{ a: 0, b: 0 }];
  let m = 0;
  a.forEach((_node, offset) => {
    while (m < matches.length && (matches[m] as Match).a + (matches[m] as Match).length < offset) m++;
    const match = matches[m];
    if (!match || match.a > offset) return;
    const at = match.b + offset - match.a;
    if (inB.has(at)) seams.push({ a: offset, b: at });
  });
  seams.push({ a: a.content.size, b: b.content.size });
  return seams;
}

function stretch(group: Group, seams: readonly Seam[]): Group {
  const after = firstSeam(seams, (seam) => seam.a >= group.qa && seam.b >= group.qb);
  const past = firstSeam(seams, (seam) => seam.a > group.pa || seam.b > group.pb);
  const [low, high] = [seams[past - 1], seams[after]];
  return {
    pa: low?.a ?? group.pa,
    qa: high?.a ?? group.qa,
    pb: low?.b ?? group.pb,
    qb: high?.b ?? group.qb,
  };
}

/** The index of the first seam of which something holds that holds of all after it. Binary search. */
function firstSeam(seams: readonly Seam[], holds: (seam: Seam) => boolean): number {
  let [low, high] = [0, seams.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(seams[middle] as Seam)) high = middle;
    else low = middle + 1;
  }
  return low;
}
