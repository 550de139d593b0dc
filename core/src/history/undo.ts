import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Token } from '../content/index.js';
import { compileSteps } from './compile.js';
import type { Source } from './edit.js';
import { FormIndex } from './form-index.js';
import type { FormChange } from './forms.js';
import { withForm } from './forms.js';
import { Lineage } from './lineage.js';
import type { Placed, Retouch, Splice } from './outcome.js';
import { blocksAround, inhabited, matchesFor, rebuild, sourcesIn, targetOf, withBlocks } from './outcome.js';
import type { Run } from './placed.js';
import type { Provenance } from './provenance.js';
import type { RunSequence } from './runs.js';
import type { Undoing } from './undoing.js';
import { allOf } from './undoing.js';

/** What undoing would do: steps with the sources of what they bring back, nothing at all, or a conflict that is not guessed at. */
export type Undo =
  | { readonly kind: 'steps'; readonly steps: readonly Step[]; readonly sources: readonly Source[] }
  | { readonly kind: 'nothing' }
  | { readonly kind: 'conflict'; readonly from: number; readonly to: number };

/** The inserted tokens of an edit, by its seq; see `insertedTokens`. */
export type TokenSource = (seq: number) => readonly Token[];

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
  return undo(doc, provenance, allOf(undone), tokens);
}

/** The same for whatever is undone: some edits, or a part of what some did. */
export function undo(doc: Node, provenance: Provenance, undoing: Undoing, tokens: TokenSource): Undo {
  const forms = new FormIndex(provenance.forms);
  const { splices, kept } = splicesFor(provenance.runs, undoing);
  const retouches = retouchesFor(provenance, undoing, kept);
  const touched = [...splices, ...retouches];
  if (touched.length === 0) return { kind: 'nothing' };
  const from = touched.reduce((least, one) => Math.min(least, one.from), Infinity);
  const to = touched.reduce((most, one) => Math.max(most, one.to), 0);
  const hull = blocksAround(doc, from, to);
  const inserted = once(tokens);
  const revive = once((run: Run) => revived(run, forms, undoing, inserted));
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
  const compiled = compileSteps(doc, target, matchesFor(doc, hull, outcome));
  const { steps } = compiled;
  if (steps.length === 0) return { kind: 'nothing' };
  const sources = compiled.inserted.flatMap(({ step, at, length, b }) =>
    sourcesIn(doc, provenance.runs, hull, outcome, b, b + length).map(({ b: put, ...range }) => ({
      ...range,
      step,
      at: at + put - b,
    })),
  );
  return { kind: 'steps', steps, sources };
}

/** A function that answers each question once, and from memory when it is asked again. */
function once<K, V>(answer: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return (key) => {
    const held = known.get(key) ?? answer(key);
    known.set(key, held);
    return held;
  };
}

/** The edits whose tokens `undo` will ask for: those of which something returns. */
export function revivedSeqs(runs: RunSequence, undoing: Undoing): number[] {
  const seqs = new Set<number>();
  for (const run of undoing.cut(runs.all())) if (undoing.returns(run)) seqs.add(run.seq);
  return [...seqs];
}

/** A run that goes or returns, and where. */
interface Touched {
  readonly run: Run;
  readonly position: number;
}

/**
 * What goes and what returns, by place. Where the same content would go and return at one place, what stands is kept: its
 * instances by seq and offset are told too.
 */
function splicesFor(runs: RunSequence, undoing: Undoing): { splices: Splice[]; kept: Set<string> } {
  const splices: Splice[] = [];
  const kept = new Set<string>();
  let touched: Touched[] = [];
  let position = 0;
  const settle = (): void => {
    const going = new Map(
      touched.flatMap(({ run }) => (run.diedAt === 0 ? [[contentOf(run), run] as const] : [])),
    );
    const stays = new Set<Run>();
    for (const { run } of touched) {
      const same = run.diedAt === 0 ? undefined : going.get(contentOf(run));
      if (!same || stays.has(same)) continue;
      stays.add(same).add(run);
      kept.add(nameOf(same));
    }
    for (const { run, position: at } of touched) {
      if (stays.has(run)) continue;
      let splice = splices.at(-1);
      if (splice?.to !== at) splices.push((splice = { from: at, to: at, back: [] }));
      if (run.diedAt === 0) splice.to = at + run.length;
      else splice.back.push(run);
    }
    touched = [];
  };
  for (const run of undoing.cut(runs.all())) {
    const alive = run.diedAt === 0;
    if (alive ? undoing.goes(run) : undoing.returns(run)) touched.push({ run, position });
    else if (alive) settle();
    if (alive) position += run.length;
  }
  settle();
  return { splices, kept };
}

/** Runs of the same content have the same origin. */
function contentOf({ origin, length }: Run): string {
  return `${origin.seq} ${origin.offset} ${length}`;
}

function nameOf({ seq, offset }: Run): string {
  return `${seq} ${offset}`;
}

function retouchesFor(provenance: Provenance, undoing: Undoing, kept: ReadonlySet<string>): Retouch[] {
  const mine = provenance.forms.filter(({ seq }) => undoing.changes(seq));
  if (mine.length === 0) return [];
  const lineage = new Lineage(provenance.runs, provenance.forms);
  const out: Retouch[] = [];
  let position = 0;
  for (const run of undoing.cut(provenance.runs.all())) {
    if (run.diedAt !== 0) continue;
    if ((!undoing.goes(run) || kept.has(nameOf(run))) && undoing.holds(run))
      out.push(...retouchRun(run, position, lineage.of(run), undoing));
    position += run.length;
  }
  return out;
}

function retouchRun(run: Run, position: number, forms: FormIndex, undoing: Undoing): Retouch[] {
  const on = forms.touching(run);
  const edges = new Set([run.offset, run.offset + run.length]);
  for (const { range } of on) for (const edge of [range.offset, range.offset + range.length]) edges.add(edge);
  const cuts = [...edges]
    .filter((edge) => edge >= run.offset && edge <= run.offset + run.length)
    .sort((a, b) => a - b);
  const out: Retouch[] = [];
  for (const [i, start] of cuts.slice(0, -1).entries()) {
    const end = cuts[i + 1] as number;
    const covering = forms.touching({ seq: run.seq, offset: start, length: end - start });
    for (const key of new Set(covering.map(formKey))) {
      const change = undoneTail(
        covering.filter((one) => formKey(one) === key),
        undoing,
      );
      if (change) out.push({ from: position + start - run.offset, to: position + end - run.offset, change });
    }
  }
  return out;
}

/** The first change of the unbroken series of undone changes at the end, whose `before` is what to go back to. */
function undoneTail(changes: readonly FormChange[], undoing: Undoing): FormChange | undefined {
  let first: FormChange | undefined;
  for (let i = changes.length - 1; i >= 0 && undoing.changes((changes[i] as FormChange).seq); i--)
    first = changes[i];
  return first;
}

function formKey({ form }: FormChange): string {
  return form.kind === 'attr' ? `@${form.name}` : form.type.name;
}

function revived(run: Run, forms: FormIndex, undoing: Undoing, tokens: TokenSource): readonly Token[] {
  const out = tokens(run.seq).slice(run.offset, run.offset + run.length);
  for (const change of forms.touching(run)) {
    if (change.seq > run.diedAt || undoing.changes(change.seq)) continue;
    const end = Math.min(out.length, change.range.offset + change.range.length - run.offset);
    for (let i = Math.max(0, change.range.offset - run.offset); i < end; i++) {
      out[i] = withForm(out[i] as Token, change.form, 'after');
    }
  }
  return out;
}
