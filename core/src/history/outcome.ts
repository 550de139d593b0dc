import type { Fragment, Node, NodeType } from 'prosemirror-model';
import type { Token } from '../content/index.js';
import { proseOf, sliceFromTokens, tokensOf, traitsOf } from '../content/index.js';
import type { Match } from './compile.js';
import type { InstanceRange } from './edit.js';
import type { FormChange } from './forms.js';
import { withForm } from './forms.js';
import type { Run } from './placed.js';
import type { RunSequence } from './runs.js';

/** A stretch of the present document that goes, and the runs that return in its place. */
export interface Splice {
  readonly from: number;
  to: number;
  readonly back: Run[];
}

/** A token of the outcome, and where it comes from: a position of the present document, an instance that returns, or neither. */
export interface Placed {
  readonly token: Token;
  readonly at?: number;
  readonly back?: InstanceRange;
  /** Whether a run that returns begins with it. */
  readonly begins?: boolean;
  /** For the end of a node, what node that was, where that can be told. */
  readonly ends?: NodeType;
}

/** A stretch of the present document whose form goes back. */
export interface Retouch {
  readonly from: number;
  readonly to: number;
  readonly change: FormChange;
}

/** Top-level blocks that an undo touches, by positions. */
export interface Hull {
  readonly from: number;
  readonly to: number;
}

export function blocksAround(doc: Node, from: number, to: number): Hull {
  const hull = { from: 0, to: doc.content.size };
  doc.forEach((node, offset) => {
    if (offset <= from) hull.from = offset;
    if (hull.to === doc.content.size && offset + node.nodeSize >= to) hull.to = offset + node.nodeSize;
  });
  return hull;
}

/** The tokens of the outcome between the edges of the hull. */
export function rebuild(
  doc: Node,
  hull: Hull,
  splices: readonly Splice[],
  retouches: readonly Retouch[],
  revive: (run: Run) => readonly Token[],
  kept: ReadonlySet<number>,
): Placed[] {
  const present = tokensOf(doc.content.cut(hull.from, hull.to));
  for (const { from, to, change } of retouches) {
    for (let i = from - hull.from; i < to - hull.from; i++)
      present[i] = withForm(present[i] as Token, change.form, 'before');
  }
  const out: Placed[] = [];
  let at = hull.from;
  const stay = (to: number): void => {
    for (; at < to; at++) out.push({ token: present[at - hull.from] as Token, at });
  };
  for (const splice of splices) {
    stay(splice.from);
    for (const run of splice.back) {
      const tokens = revive(run);
      const ends = endsOf(tokens);
      tokens.forEach((token, i) =>
        out.push({
          token,
          back: { seq: run.seq, offset: run.offset + i, length: 1 },
          begins: i === 0,
          ends: ends[i],
        }),
      );
    }
    for (; at < splice.to; at++) if (kept.has(at)) out.push({ token: present[at - hull.from] as Token, at });
  }
  stay(hull.to);
  return out;
}

/**
 * The boundaries that an undo would take away although something that stays is within them, by position: of lists, items
 * and quotes those round it, of a table all, so that it stays rectangular.
 */
export function inhabited(doc: Node, hull: Hull, splices: readonly Splice[]): Set<number> {
  const kept = new Set<number>();
  const goes = (position: number): boolean => {
    let [low, high] = [0, splices.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((splices[middle]?.to ?? 0) <= position) low = middle + 1;
      else high = middle;
    }
    return position >= (splices[low]?.from ?? Infinity);
  };
  const stays = (node: Node, start: number): boolean => {
    let found = false;
    node.descendants((child, offset) => {
      if (found || !child.isLeaf) return !found;
      for (let i = 0; i < child.nodeSize && !found; i++) found = !goes(start + offset + i);
      return false;
    });
    return found;
  };
  const keep = (node: Node, position: number): void => {
    kept.add(position).add(position + node.nodeSize - 1);
  };
  doc.nodesBetween(hull.from, hull.to, (node, position) => {
    if (node.isLeaf || node.isTextblock || !stays(node, position + 1)) return false;
    keep(node, position);
    if (!traitsOf(node.type).intact) return true;
    node.descendants((child, offset) => {
      if (!child.isLeaf) keep(child, position + 1 + offset);
      return !child.isTextblock;
    });
    return false;
  });
  return kept;
}

/** For each token that ends a node begun among the same tokens, the type of that node. */
function endsOf(tokens: readonly Token[]): (NodeType | undefined)[] {
  const open: NodeType[] = [];
  return tokens.map((token) => {
    if (token.kind === 'open') open.push(token.type);
    return token.kind === 'close' ? open.pop() : undefined;
  });
}

/** The document that tokens make in place of the hull, or null when that is no valid one. */
export function targetOf(doc: Node, hull: Hull, placed: readonly Placed[]): Node | null {
  const slice = sliceFromTokens(
    doc.type.schema,
    placed.map(({ token }) => token),
  );
  if (!slice || slice.openStart > 0 || slice.openEnd > 0) return null;
  const target = doc.copy(
    doc.content.cut(0, hull.from).append(slice.content).append(doc.content.cut(hull.to)),
  );
  return isValid(target, slice.content) ? target : null;
}

/**
 * The same tokens with the boundaries of text blocks made to add up: text outside one gets one of the kind it stands in
 * now, one begun within another ends that, an end too many is left out. Text and all other nodes stay as they are. Null where
 * text would leave the list or table that it stands in.
 */
export function withBlocks(doc: Node, placed: readonly Placed[]): Placed[] | null {
  const out: Placed[] = [];
  const open: NodeType[] = [];
  const inText = (): boolean => open.at(-1)?.isTextblock === true;
  const close = (): void => {
    out.push({ token: { kind: 'close' } });
    open.pop();
  };
  for (const one of placed) {
    const { token, at } = one;
    if (token.kind === 'unit' || (token.kind === 'leaf' && token.node.isInline)) {
      if (!inText()) {
        const $at = at === undefined ? null : doc.resolve(at);
        if ($at && $at.depth - 1 !== open.length) return null;
        const around = $at?.parent;
        const { type, attrs } = around?.isTextblock ? around : { type: proseOf(doc.type.schema), attrs: {} };
        open.push(type);
        out.push({ token: { kind: 'open', type, attrs, marks: [] } });
      }
    } else if (token.kind === 'close') {
      const ends = at === undefined ? one.ends : doc.resolve(at).parent.type;
      if (inText() && ends && !ends.isTextblock) close();
      if (open.length === 0 || (ends?.isTextblock && !inText())) continue;
      open.pop();
    } else {
      if (inText()) close();
      if (token.kind === 'open') open.push(token.type);
    }
    out.push(one);
  }
  if (inText()) close();
  return out;
}

function isValid(target: Node, middle: Fragment): boolean {
  if (!target.type.validContent(target.content)) return false;
  try {
    middle.forEach((node) => node.check());
    return true;
  } catch (error) {
    if (error instanceof RangeError) return false;
    throw error;
  }
}

/** What of the present document stays where it is in the outcome. */
export function matchesFor(doc: Node, hull: Hull, placed: readonly Placed[]): Match[] {
  const out: Match[] = [];
  const keep = (a: number, b: number, length: number): void => {
    const last = out.at(-1);
    if (length === 0) return;
    if (last && last.a + last.length === a && last.b + last.length === b)
      out[out.length - 1] = { ...last, length: last.length + length };
    else out.push({ a, b, length });
  };
  keep(0, 0, hull.from);
  placed.forEach(({ at }, i) => at !== undefined && keep(at, hull.from + i, 1));
  keep(hull.to, hull.from + placed.length, doc.content.size - hull.to);
  return out;
}

/** Which instances stand at positions `from` to `to` of the outcome: ones that return, or ones that stayed. */
export function sourcesIn(
  doc: Node,
  runs: RunSequence,
  hull: Hull,
  placed: readonly Placed[],
  from: number,
  to: number,
): (InstanceRange & { b: number })[] {
  const out: (InstanceRange & { b: number })[] = [];
  const add = (range: InstanceRange, b: number, begins = true): void => {
    const last = begins ? undefined : out.at(-1);
    const follows = last?.seq === range.seq && last.offset + last.length === range.offset;
    if (last && follows && last.b + last.length === b)
      out[out.length - 1] = { ...last, length: last.length + range.length };
    else out.push({ seq: range.seq, offset: range.offset, length: range.length, b });
  };
  const stayed = (start: number, end: number, b: number): void => {
    for (const run of runs.between(start, end)) add(run, b + run.from - start);
  };
  if (from < hull.from) stayed(from, Math.min(to, hull.from), from);
  const end = hull.from + placed.length;
  const last = Math.min(to, end);
  for (let b = Math.max(from, hull.from); b < last; b++) {
    const { at, back, begins } = placed[b - hull.from] as Placed;
    if (back) add(back, b, begins);
    if (at === undefined) continue;
    let length = 1;
    while (b + length < last && placed[b + length - hull.from]?.at === at + length) length++;
    stayed(at, at + length, b);
    b += length - 1;
  }
  if (to > end) {
    const shift = hull.to - end;
    stayed(Math.max(from, end) + shift, Math.min(to + shift, doc.content.size), Math.max(from, end));
  }
  return out;
}
