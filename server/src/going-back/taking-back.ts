import type { Outcome, TakeBackInput, TakeBackPreview } from '@oxbow/contract';
import type { Stretch } from '@oxbow/core/compare';
import { standsOf } from '@oxbow/core/compare';
import { allOf, applySteps, cancelled, partOf, undoneWith } from '@oxbow/core/history';
import type {
  Cause,
  PlacedRun,
  Provenance,
  Reversal,
  Run,
  RunSequence,
  Trace,
  Undoing,
} from '@oxbow/core/history';
import type { People, Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Becoming } from './becoming.js';
import type { Past } from '../past/past.js';
import type { View } from '../access/view.js';
import type { Histories } from '../histories/histories.js';

/** What is to be taken back: by whom it was done, in which edits, and what of them. */
interface Meant {
  readonly seqs: number[];
  readonly authors: string[];
  readonly cause: Extract<Cause, { kind: 'takeBack' }>;
  readonly undoing: (provenance: Provenance) => Undoing;
}

/** Takes edits back by instance and keeps what came after them: single ones, a sitting, or all that one person did in a range. */
export class TakingBack {
  constructor(
    private readonly histories: Histories,
    private readonly becoming: Becoming,
    private readonly past: Past,
    private readonly comparisons: Comparisons,
    private readonly people: People,
  ) {}

  /** What it would do. Nothing is guessed: what cannot be done cleanly is told with its three texts. */
  async preview(document: View, input: TakeBackInput): Promise<TakeBackPreview> {
    const meant = await this.meant(document, input);
    const { doc, provenance } = await this.histories.head(document);
    const undo = await this.becoming.undoing(document, { doc, provenance }, meant.undoing(provenance));
    const told = { edits: meant.seqs.length, people: meant.authors };
    const nothing = { changes: 0, wordsAdded: 0, wordsRemoved: 0, gist: 'No change', conflict: null };
    if (undo.kind === 'nothing') return { ...told, ...nothing };
    if (undo.kind === 'conflict') {
      const { lookingBack } = this.past;
      const conflict = await lookingBack.textsWithout(document, meant.seqs, undo.from, undo.to);
      return { ...told, ...nothing, conflict };
    }
    const { changes, totals, gist } = await this.comparisons.compare(doc, applySteps(doc, undo.steps));
    const { wordsAdded, wordsRemoved } = totals;
    return { ...told, changes: changes.length, wordsAdded, wordsRemoved, gist, conflict: null };
  }

  async take(document: View, person: Signed, input: TakeBackInput): Promise<Outcome> {
    const { undoing, cause } = await this.meant(document, input);
    return this.becoming.takeBack(document, person, cause, undoing, input.comment);
  }

  private meant(document: View, input: TakeBackInput): Promise<Meant> {
    return input.change ? this.changeMeant(document, input.change) : this.editsMeant(document, input);
  }

  /** What one change between two moments did, or its whole group: what it brought goes, what it removed returns, within its stretches only. */
  private async changeMeant(
    document: View,
    { earlier, later, id, group }: NonNullable<TakeBackInput['change']>,
  ): Promise<Meant> {
    if (earlier >= later || later > document.seq)
      throw Trouble.field('change/later', 'is no moment of this document after the earlier one');
    const [a, b] = await Promise.all([
      this.histories.moment(document, earlier),
      this.histories.moment(document, later),
    ]);
    const { changes } = await this.comparisons.compare(a, b);
    const change = changes.find((one) => one.id === id);
    if (!change) throw Trouble.field('change/id', 'is none of the changes between these moments');
    const { runs } = (await this.histories.head(document)).provenance;
    const within = (moment: number, stretches: readonly Stretch[]): PlacedRun[] => {
      const placed = runs.at(moment);
      return stretches.flatMap(({ from, to }) => placed.between(from, to));
    };
    const all =
      group && change.group !== null ? changes.filter((one) => one.group === change.group) : [change];
    const stands = all.map(standsOf);
    const removed = within(
      earlier,
      stands.flatMap((one) => one.earlier),
    ).filter(({ diedAt }) => diedAt > earlier && diedAt <= later);
    const brought = within(
      later,
      stands.flatMap((one) => one.later),
    ).filter(({ seq }) => change.kind === 'form' || seq > earlier);
    const seqs = [...new Set([...brought.map(({ seq }) => seq), ...removed.map(({ diedAt }) => diedAt)])];
    const traces = await this.traces(document, earlier, later);
    return {
      seqs: seqs.filter((seq) => seq > earlier),
      authors: [...new Set(traces.filter(({ seq }) => seqs.includes(seq)).map(({ author }) => author))],
      cause: { kind: 'takeBack', of: [], change: { earlier, later } },
      undoing: (provenance) =>
        partOf({ first: earlier + 1, last: later, brought, removed }, standingIn(provenance.runs)),
    };
  }

  /** The edits that an input means, and who made them. Throws 422 where it means none. */
  private async editsMeant(
    document: View,
    { seq, seqs, after, upTo, person }: TakeBackInput,
  ): Promise<Meant> {
    const named = seqs ?? (seq === undefined ? null : [seq]);
    if (named?.some((one) => one > document.seq))
      throw Trouble.field('seq', 'is not an edit of this document');
    const [first, last] = named
      ? [Math.min(...named) - 1, Math.max(...named)]
      : [after ?? 0, Math.min(upTo ?? document.seq, document.seq)];
    const wanted = named && new Set(named);
    const traces = await this.traces(document, first, last);
    const meant = traces.filter(
      (trace) => (!wanted || wanted.has(trace.seq)) && (person === undefined || trace.author === person),
    );
    if (meant.length === 0) throw Trouble.field('after', 'and upTo hold no such edit');
    const reversals = await this.reversals(document);
    const already = cancelled(reversals.filter(({ kind }) => kind === 'takeBack'));
    const left = meant.filter((trace) => !already.has(trace.seq));
    if (left.length === 0)
      throw new Trouble(
        409,
        'That is taken back already',
        'Taking the taking back back would bring it again.',
      );
    const undone = left.map((trace) => trace.seq);
    return {
      seqs: undone,
      authors: [...new Set(left.map(({ author }) => author))],
      cause: { kind: 'takeBack', of: undone },
      undoing: () => allOf(undoneWith(undone, reversals)),
    };
  }

  private traces(document: View, after: number, upTo: number): Promise<Trace[]> {
    const author = (key: number): string => this.people.id(key);
    return this.histories.traces(document, author, after, upTo);
  }

  /** What was undone, redone and taken back, in order. */
  private async reversals(document: View): Promise<(Reversal & Pick<Cause, 'kind'>)[]> {
    return (await this.histories.causes(document)).flatMap(({ seq, cause }) => {
      const undoes = cause.kind === 'undo' || cause.kind === 'redo' || cause.kind === 'takeBack';
      return undoes && cause.of.length > 0 ? [{ seq, of: cause.of, kind: cause.kind }] : [];
    });
  }
}

/** Tells whether what a run held stands in the document, as it is or brought back. */
function standingIn(runs: RunSequence): (run: Run) => boolean {
  const alive = new Map<number, { from: number; to: number }[]>();
  for (const { diedAt, origin, length } of runs.all()) {
    if (diedAt !== 0) continue;
    const spans = alive.get(origin.seq) ?? [];
    spans.push({ from: origin.offset, to: origin.offset + length });
    alive.set(origin.seq, spans);
  }
  return ({ origin, length }) =>
    (alive.get(origin.seq) ?? []).some(
      ({ from, to }) => from <= origin.offset && to >= origin.offset + length,
    );
}
