import type { Fragment, Node, NodeType } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Token } from '../content/index.js';
import { sliceFromTokens, tokensOf } from '../content/index.js';
import type { Match } from './compile.js';
import { compileSteps } from './compile.js';
import type { InstanceRange, Source } from './edit.js';
import type { FormChange } from './forms.js';
import { withForm } from './forms.js';
import type { Provenance } from './provenance.js';
import type { Run } from './placed.js';
import type { RunSequence } from './runs.js';

/** What undoing would do: steps with the sources of what they bring back, nothing at all, or a conflict that is not guessed at. */
export type Undo =
  | { readonly kind: 'steps'; readonly steps: readonly Step[]; readonly sources: readonly Source[] }
  | { readonly kind: 'nothing' }
  | { readonly kind: 'conflict'; readonly from: number; readonly to: number };

/** The inserted tokens of an edit, by its seq; see `insertedTokens`. */
export type TokenSource = (seq: number) => readonly Token[];

interface Splice {
  readonly from: number;
  to: number;
  readonly back: Run[];
}

/** A token of the outcome, and where it comes from: a position of the present document, an instance that returns, or neither. */
interface Placed {
  readonly token: Token;
  readonly at?: number;
  readonly back?: InstanceRange;
  /** For the end of a node, what node that was, where that can be told. */
  readonly ends?: NodeType;
}

interface Retouch {
  readonly from: number;
  readonly to: number;
  readonly change: FormChange;
}

/**
 * Undoes a set of edits by instance: the result holds what was born outside the set and is alive or was removed by it,
 * in the run sequence's order; form goes back only where its present value is still the set's. When that is no valid
 * document, structure that holds what others wrote stays round it: a paragraph, a list item, a table; where the boundaries of
 * text blocks do not add up, they are closed and opened as the text needs it. What is no valid document even so is a conflict.
 */
export function undoEdits(
  doc: Node,
  provenance: Provenance,
  undone: ReadonlySet<number>,
  tokens: TokenSource,
): Undo {
  const splices = splicesFor(provenance.runs, undone);
  const retouches = retouchesFor(provenance, undone);
  if (splices.length === 0 && retouches.length === 0) return { kind: 'nothing' };
  const from = Math.min(splices[0]?.from ?? Infinity, ...retouches.map((retouch) => retouch.from));
  const to = Math.max(splices.at(-1)?.to ?? 0, ...retouches.map((retouch) => retouch.to));
  const hull = blocksAround(doc, from, to);
  const revive = (run: Run): readonly Token[] => revived(run, provenance.forms, undone, tokens);
  const strict = rebuild(doc, hull, splices, retouches, revive, new Set());
  const attempts = [
    () => strict,
    () => withBlocks(doc, strict),
    () => withBlocks(doc, rebuild(doc, hull, splices, retouches, revive, inhabited(doc, hull, splices))),
  ];
  let [outcome, target]: [Placed[] | null, Node | null] = [null, null];
  for (const attempt of attempts) {
    if (target) break;
    outcome = attempt();
    target = outcome && targetOf(doc, hull, outcome);
  }
  if (!outcome || !target) return { kind: 'conflict', from, to };
  const { steps, inserted } = compileSteps(doc, target, matchesFor(doc, hull, outcome));
  if (steps.length === 0) return { kind: 'nothing' };
  const sources = inserted.flatMap(({ step, at, length, b }) =>
    sourcesIn(doc, provenance.runs, hull, outcome, b, b + length).map(({ b: put, ...range }) => ({
      ...range,
      step,
      at: at + put - b,
    })),
  );
  return { kind: 'steps', steps, sources };
}

/** The edits whose tokens `undoEdits` will ask for: those that the set removed content of. */
export function revivedSeqs(runs: RunSequence, undone: ReadonlySet<number>): number[] {
  const seqs = new Set<number>();
  for (const run of runs.all())
    if (run.diedAt !== 0 && undone.has(run.diedAt) && !undone.has(run.seq)) seqs.add(run.seq);
  return [...seqs];
}

function splicesFor(runs: RunSequence, undone: ReadonlySet<number>): Splice[] {
  const splices: Splice[] = [];
  let position = 0;
  const here = (): Splice => {
    const last = splices.at(-1);
    if (last && last.to === position) return last;
    const splice = { from: position, to: position, back: [] };
    splices.push(splice);
    return splice;
  };
  for (const run of runs.all()) {
    const alive = run.diedAt === 0;
    if (alive && undone.has(run.seq)) here().to = position + run.length;
    if (!alive && undone.has(run.diedAt) && !undone.has(run.seq)) here().back.push(run);
    if (alive) position += run.length;
  }
  return splices;
}

function retouchesFor({ runs, forms }: Provenance, undone: ReadonlySet<number>): Retouch[] {
  const mine = forms.filter((change) => undone.has(change.seq));
  if (mine.length === 0) return [];
  const touched = new Set(mine.map((change) => change.range.seq));
  const out: Retouch[] = [];
  let position = 0;
  for (const run of runs.all()) {
    if (run.diedAt !== 0) continue;
    if (touched.has(run.seq) && !undone.has(run.seq)) out.push(...retouchRun(run, position, forms, undone));
    position += run.length;
  }
  return out;
}

function retouchRun(
  run: Run,
  position: number,
  forms: readonly FormChange[],
  undone: ReadonlySet<number>,
): Retouch[] {
  const on = forms.filter((change) => change.range.seq === run.seq && overlap(change.range, run));
  const edges = new Set([run.offset, run.offset + run.length]);
  for (const { range } of on) for (const edge of [range.offset, range.offset + range.length]) edges.add(edge);
  const cuts = [...edges]
    .filter((edge) => edge >= run.offset && edge <= run.offset + run.length)
    .sort((a, b) => a - b);
  const out: Retouch[] = [];
  for (const [i, start] of cuts.slice(0, -1).entries()) {
    const end = cuts[i + 1] as number;
    const covering = on.filter(({ range }) => range.offset <= start && range.offset + range.length >= end);
    for (const key of new Set(covering.map(formKey))) {
      const change = undoneTail(
        covering.filter((one) => formKey(one) === key),
        undone,
      );
      if (change) out.push({ from: position + start - run.offset, to: position + end - run.offset, change });
    }
  }
  return out;
}

/** The first change of the unbroken series of undone changes at the end, whose `before` is what to go back to. */
function undoneTail(changes: readonly FormChange[], undone: ReadonlySet<number>): FormChange | undefined {
  let first: FormChange | undefined;
  for (let i = changes.length - 1; i >= 0 && undone.has((changes[i] as FormChange).seq); i--)
    first = changes[i];
  return first;
}

function formKey({ form }: FormChange): string {
  return form.kind === 'attr' ? `@${form.name}` : form.type.name;
}

function overlap(a: InstanceRange, b: InstanceRange): boolean {
  return a.offset < b.offset + b.length && b.offset < a.offset + a.length;
}

function revived(
  run: Run,
  forms: readonly FormChange[],
  undone: ReadonlySet<number>,
  tokens: TokenSource,
): readonly Token[] {
  const out = tokens(run.seq).slice(run.offset, run.offset + run.length);
  for (const change of forms) {
    if (
      change.range.seq !== run.seq ||
      change.seq > run.diedAt ||
      undone.has(change.seq) ||
      !overlap(change.range, run)
    )
      continue;
    const end = Math.min(out.length, change.range.offset + change.range.length - run.offset);
    for (let i = Math.max(0, change.range.offset - run.offset); i < end; i++) {
      out[i] = withForm(out[i] as Token, change.form, 'after');
    }
  }
  return out;
}

/** Top-level blocks that an undo touches, by positions. */
interface Hull {
  readonly from: number;
  readonly to: number;
}

function blocksAround(doc: Node, from: number, to: number): Hull {
  const hull = { from: 0, to: doc.content.size };
  doc.forEach((node, offset) => {
    if (offset <= from) hull.from = offset;
    if (hull.to === doc.content.size && offset + node.nodeSize >= to) hull.to = offset + node.nodeSize;
  });
  return hull;
}

/** The tokens of the outcome between the edges of the hull. */
function rebuild(
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
      const ends = endsOf(revive(run));
      revive(run).forEach((token, i) =>
        out.push({ token, back: { seq: run.seq, offset: run.offset + i, length: 1 }, ends: ends[i] }),
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
function inhabited(doc: Node, hull: Hull, splices: readonly Splice[]): Set<number> {
  const kept = new Set<number>();
  const goes = (position: number): boolean =>
    splices.some(({ from, to }) => position >= from && position < to);
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
    if (node.type.name !== 'table') return true;
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
function targetOf(doc: Node, hull: Hull, placed: readonly Placed[]): Node | null {
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
function withBlocks(doc: Node, placed: readonly Placed[]): Placed[] | null {
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
        const { type, attrs } = around?.isTextblock
          ? around
          : { type: doc.type.schema.nodes['paragraph'] as NodeType, attrs: {} };
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
function matchesFor(doc: Node, hull: Hull, placed: readonly Placed[]): Match[] {
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
function sourcesIn(
  doc: Node,
  runs: RunSequence,
  hull: Hull,
  placed: readonly Placed[],
  from: number,
  to: number,
): (InstanceRange & { b: number })[] {
  const out: (InstanceRange & { b: number })[] = [];
  const add = (range: InstanceRange, b: number): void => {
    const last = out.at(-1);
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
    const { at, back } = placed[b - hull.from] as Placed;
    if (back) add(back, b);
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
