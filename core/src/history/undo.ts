import type { Node } from 'prosemirror-model';
import { Fragment } from 'prosemirror-model';
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

interface Retouch {
  readonly from: number;
  readonly to: number;
  readonly change: FormChange;
}

/**
 * Undoes a set of edits by instance: the result holds what was born outside the set and is alive or was removed by it,
 * in the run sequence's order; form goes back only where its present value is still the set's. When that is no valid
 * document, for instance because somebody wrote inside structure that would vanish, it is a conflict.
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
  const middle = rebuild(doc, hull, splices, retouches, revive);
  if (!middle) return { kind: 'conflict', from, to };
  const target = doc.copy(doc.content.cut(0, hull.from).append(middle).append(doc.content.cut(hull.to)));
  if (!isValid(target, middle)) return { kind: 'conflict', from, to };
  const { steps, inserted } = compileSteps(doc, target, matchesFor(doc, splices));
  const pieces = piecesOf(doc, provenance.runs, splices);
  const sources = inserted.flatMap(({ step, at, length, b }) =>
    pieces(b, b + length).map((piece) => ({ ...piece, step, at: at + piece.b - b })),
  );
  if (steps.length === 0) return { kind: 'nothing' };
  return {
    kind: 'steps',
    steps,
    sources: sources.map(({ step, at, seq, offset, length }) => ({ step, at, seq, offset, length })),
  };
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

function blocksAround(doc: Node, from: number, to: number): { from: number; to: number } {
  const hull = { from: 0, to: doc.content.size };
  doc.forEach((node, offset) => {
    if (offset <= from) hull.from = offset;
    if (hull.to === doc.content.size && offset + node.nodeSize >= to) hull.to = offset + node.nodeSize;
  });
  return hull;
}

function rebuild(
  doc: Node,
  hull: { from: number; to: number },
  splices: readonly Splice[],
  retouches: readonly Retouch[],
  revive: (run: Run) => readonly Token[],
): Fragment | null {
  const present = tokensOf(doc.content.cut(hull.from, hull.to));
  for (const { from, to, change } of retouches) {
    for (let i = from - hull.from; i < to - hull.from; i++)
      present[i] = withForm(present[i] as Token, change.form, 'before');
  }
  const tokens: Token[] = [];
  let at = hull.from;
  for (const splice of splices) {
    for (let i = at; i < splice.from; i++) tokens.push(present[i - hull.from] as Token);
    for (const run of splice.back) tokens.push(...revive(run));
    at = splice.to;
  }
  for (let i = at; i < hull.to; i++) tokens.push(present[i - hull.from] as Token);
  const slice = sliceFromTokens(doc.type.schema, tokens);
  return slice && slice.openStart === 0 && slice.openEnd === 0 ? slice.content : null;
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

function matchesFor(doc: Node, splices: readonly Splice[]): Match[] {
  const out: Match[] = [];
  let [a, b] = [0, 0];
  const keep = (to: number): void => {
    if (to > a) out.push({ a, b, length: to - a });
    b += to - a;
    a = to;
  };
  for (const splice of splices) {
    keep(splice.from);
    a = splice.to;
    b += lengthOf(splice.back);
  }
  keep(doc.content.size);
  return out;
}

function lengthOf(runs: readonly Run[]): number {
  return runs.reduce((sum, run) => sum + run.length, 0);
}

/** Which instances stand at positions of the target: revived ones, or ones that stayed. */
function piecesOf(
  doc: Node,
  runs: RunSequence,
  splices: readonly Splice[],
): (from: number, to: number) => (InstanceRange & { b: number })[] {
  return (from, to) => {
    const out: (InstanceRange & { b: number })[] = [];
    const add = (run: InstanceRange, b: number): void => {
      const start = Math.max(b, from);
      const end = Math.min(b + run.length, to);
      if (start < end)
        out.push({ seq: run.seq, offset: run.offset + start - b, length: end - start, b: start });
    };
    let [a, b] = [0, 0];
    for (const splice of [...splices, { from: doc.content.size, to: doc.content.size, back: [] }]) {
      const end = b + splice.from - a;
      if (b < to && end > from) {
        for (const run of runs.between(a + Math.max(0, from - b), a + Math.min(end, to) - b))
          add(run, b + run.from - a);
      }
      b = end;
      for (const run of splice.back) {
        add(run, b);
        b += run.length;
      }
      a = splice.to;
    }
    return out;
  };
}
