import type { Node } from 'prosemirror-model';
import type { Step, StepMap, Transform } from 'prosemirror-transform';
import type { Token } from '../content/index.js';
import { insertedTokens } from '../content/index.js';
import { applySteps } from './edit.js';
import type { InstanceRange, MomentSource, Source } from './edit.js';
import { Following } from './following.js';
import type { AcceptedEdit } from './following.js';
import type { OwnCause, OwnSource, Pending, PendingEdit, SentEdit } from './pending.js';
import { countToSend, fitTogether, partsOf } from './pending.js';
import type { Provenance } from './provenance.js';
import { appendEdit, cloneProvenance } from './provenance.js';
import { Crossing, keepCarried } from './rebase.js';
import type { Acts } from './own-acts.js';
import { OwnActs } from './own-acts.js';
import { undoneWith } from './reversals.js';
import type { Undo } from './undo.js';
import { undoEdits } from './undo.js';

/** Seqs from here on stand for edits of this writer that are not accepted yet. */
const UNACCEPTED = 2 ** 29;
/** Longest stretch of typing in one edit, milliseconds. */
export const EDIT_SPAN = 500;
/** A pause in writing this long begins a new step of undo. */
const UNDO_PAUSE = 800;
/** The authority's edits do not follow on what this writer has; everything must be fetched again. */
export class Gap extends Error {
  constructor(expected: number, got: number) {
    super(`Expected edit ${expected}, got ${got}`);
    this.name = 'Gap';
  }
}

/**
 * One writer's side of a shared document: the accepted state, the edits on the way, and undo by instance over both.
 * Without I/O or clock; the caller sends `outgoing`, feeds `receive`, and applies what it is told to its own view.
 */
export class Writer {
  private readonly following: Following;
  private pending: Pending[] = [];
  private counter: number;
  private readonly own = new OwnActs();
  private lastWrite = -Infinity;

  /**
   * Joins a document at edit `seq`. Counters go on from `counter`, which must not have been used by `client`. `kept` accepted
   * edits are kept at least.
   */
  constructor(
    readonly client: string,
    doc: Node,
    seq: number,
    counter = 1,
    kept?: number,
  ) {
    this.following = new Following(doc, seq, kept);
    this.counter = counter;
  }

  /** The last accepted edit this writer has. */
  get confirmed(): number {
    return this.following.seq;
  }

  /** Edits that are not accepted yet. */
  get waiting(): readonly PendingEdit[] {
    return this.pending;
  }

  /** The edit that this writer's knowledge of the document begins with. It moves on in a long session. */
  get began(): number {
    return this.following.began;
  }

  get canUndo(): boolean {
    return this.own.canUndo;
  }

  get canRedo(): boolean {
    return this.own.canRedo;
  }

  /**
   * Takes in what this writer just did to a view showing `before`. `now` is the writer's clock in milliseconds. What is more
   * than one edit may hold becomes several, which are undone together.
   */
  write(
    before: Node,
    steps: readonly Step[],
    now: number,
    how: { cause?: OwnCause; sources?: PendingEdit['sources'] } = {},
  ): void {
    let doc = before;
    for (const [i, part] of partsOf(steps, how.sources ?? []).entries())
      doc = this.writePart(doc, part.steps, now, how.cause ?? { kind: 'writing' }, part.sources, i > 0);
  }

  private writePart(
    before: Node,
    steps: readonly Step[],
    now: number,
    cause: OwnCause,
    sources: PendingEdit['sources'],
    goesOn: boolean,
  ): Node {
    const inverted: Step[] = [];
    let doc = before;
    for (const step of steps) {
      inverted.push(step.invert(doc));
      doc = step.apply(doc).doc ?? doc;
    }
    const last = this.pending.at(-1);
    const paused = now - this.lastWrite > UNDO_PAUSE;
    const writing = cause.kind === 'writing';
    if (
      last &&
      !last.sent &&
      writing &&
      sources.length === 0 &&
      last.cause.kind === 'writing' &&
      !paused &&
      now - last.writtenAt < EDIT_SPAN &&
      fitTogether([...last.steps, ...steps])
    ) {
      this.pending[this.pending.length - 1] = {
        ...last,
        steps: [...last.steps, ...steps],
        inverted: [...last.inverted, ...inverted],
      };
    } else {
      const counter = this.counter++;
      this.pending.push({
        counter,
        steps,
        inverted,
        sources,
        writtenAt: now,
        cause,
        sent: false,
      });
      this.own.remember(counter, cause, { paused, goesOn });
    }
    this.lastWrite = writing ? now : -Infinity;
    return doc;
  }

  /**
   * What to send next, marked as sent; null while something is on its way or nothing waits. With `weigh`, no more than weighs
   * `most` together, but one edit at least.
   */
  outgoing(
    weigh: (edit: PendingEdit) => number = () => 0,
    most = 0,
  ): { base: number; edits: readonly SentEdit[] } | null {
    if (this.pending.length === 0 || this.pending.some((edit) => edit.sent)) return null;
    const count = countToSend(this.pending, weigh, most);
    this.pending = this.pending.map((edit, i) => ({ ...edit, sent: i < count }));
    const { base, edits } = this.unsent();
    return { base, edits: edits.slice(0, count) };
  }

  /** Everything not accepted yet in sendable form, without marking it: what to keep safe on the device. */
  unsent(): { base: number; edits: readonly SentEdit[] } {
    const edits = this.pending.map(({ counter, steps, sources, writtenAt, cause }) => ({
      counter,
      steps,
      writtenAt,
      cause,
      sources: sources.map((source) => this.wireSource(source)),
    }));
    return { base: this.confirmed, edits };
  }

  /**
   * Takes over edits that an earlier window of this writer left unsent, made on the document as this writer has it.
   * Answers the document with them. Throws `RangeError` when one does not fit.
   */
  resume(edits: readonly SentEdit[]): Node {
    let doc = this.following.doc;
    for (const { counter, steps, sources, writtenAt, cause } of edits) {
      const inverted: Step[] = [];
      for (const step of steps) {
        inverted.push(step.invert(doc));
        doc = applySteps(doc, [step]);
      }
      const own = sources.map((source) =>
        'counter' in source ? { ...source, seq: UNACCEPTED + source.counter, offset: source.offset } : source,
      );
      this.pending.push({ counter, steps, inverted, sources: own, writtenAt, cause, sent: false });
      this.own.remember(
        counter,
        cause,
        { paused: true, goesOn: false },
        'of' in cause ? cause.of : undefined,
      );
      this.counter = Math.max(this.counter, counter + 1);
    }
    return doc;
  }

  /** What this writer can undo and redo of what is accepted, for another window to `recall`. */
  acts(): Acts {
    return this.own.acts();
  }

  /** Takes up what an earlier window could undo and redo, as far as this writer's document goes back. */
  recall(acts: Acts): void {
    this.own.recall(acts, (seq) => seq > this.began && seq <= this.confirmed);
  }

  /** The connection was lost: what was on its way may not have arrived, and is sent again. Nothing is doubled by it. */
  reconnected(): void {
    this.pending = this.pending.map((edit) => ({ ...edit, sent: false }));
  }

  /**
   * Takes in accepted edits, own ones included, in order. `tr` stands on the view's document and receives the steps that
   * bring the view up to date. Throws `Gap` when edits are missing in between.
   */
  receive(edits: readonly AcceptedEdit[], tr: Transform): void {
    let theirs: AcceptedEdit[] = [];
    const carry = (): void => {
      if (theirs.length > 0) this.carry(tr, theirs, () => true);
      theirs = [];
    };
    for (const edit of edits) {
      const expected = this.confirmed + theirs.length + 1;
      if (edit.seq < expected) continue;
      if (edit.seq > expected) throw new Gap(expected, edit.seq);
      const first = this.pending[0];
      if (edit.client !== this.client || !this.pending.some((own) => own.counter === edit.counter)) {
        theirs.push(edit);
        continue;
      }
      carry();
      this.own.accepted(edit.counter, edit.seq);
      if (
        first &&
        this.pending[0]?.counter === edit.counter &&
        sameSteps(this.pending[0].steps, edit.steps)
      ) {
        this.pending.shift();
        this.following.take({ ...edit, sources: this.ownSources(first) ?? edit.sources });
      } else this.carry(tr, [edit], (own) => own.counter !== edit.counter);
    }
    carry();
    if (this.pending.length === 0 && this.following.letGo()) this.own.forget(this.began);
  }

  /** Takes back from the view what the authority did not take. */
  refused(counters: readonly number[], tr: Transform): void {
    if (this.pending.some((own) => counters.includes(own.counter)))
      this.carry(tr, [], (own) => !counters.includes(own.counter));
  }

  /** The sources of an own edit as instances that this writer knows; what stood when it joined has other names elsewhere. */
  private ownSources({ sources }: Pending): Source[] | null {
    const own = sources.flatMap((source): Source[] => {
      if (!('seq' in source)) return [];
      const seq = source.seq < UNACCEPTED ? source.seq : this.own.seqOf(source.seq - UNACCEPTED);
      return seq === undefined ? [] : [{ ...source, seq }];
    });
    return own.length === sources.length ? own : null;
  }

  /** Unwinds what waits, puts accepted edits beneath it, and carries it over again. */
  private carry(tr: Transform, theirs: readonly AcceptedEdit[], keep: (own: Pending) => boolean): void {
    const own = this.pending;
    const between: StepMap[] = [];
    for (const step of own.flatMap((edit) => edit.inverted).reverse()) tr.step(step);
    for (const edit of theirs) {
      for (const step of edit.steps) {
        tr.step(step);
        between.push(step.getMap());
      }
      this.following.take(edit);
    }
    const crossing = new Crossing(between);
    this.pending = [];
    for (const edit of own) {
      if (!keep(edit)) {
        for (const step of edit.steps) crossing.leave(step);
        continue;
      }
      const inverted: Step[] = [];
      const fit = (step: Step): boolean => {
        if (tr.maybeStep(step).failed) return false;
        inverted.push(step.invert(tr.docs[tr.steps.length - 1] as Node));
        return true;
      };
      const kept = keepCarried(
        edit.steps.map((step) => crossing.carry(step, fit)),
        edit.sources,
      );
      if (kept.steps.length > 0) this.pending.push({ ...edit, ...kept, inverted });
    }
  }

  private wireSource(source: Source | MomentSource): OwnSource {
    if ('moment' in source) return source;
    const { step, at, length, seq, offset } = source;
    if (seq >= UNACCEPTED) {
      const counter = seq - UNACCEPTED;
      const known = this.own.seqOf(counter);
      return known === undefined
        ? { step, at, length, counter, offset }
        : { step, at, length, seq: known, offset };
    }
    return seq === this.began
      ? { step, at, length, moment: seq, position: offset }
      : { step, at, length, seq, offset };
  }

  /** What undoing this writer's last act would do now. Apply it, then tell `write` with cause `undo`. */
  undo(view: Node): Undo & { readonly of: readonly number[] } {
    return this.reverse(view, this.own.takeLast('undo'));
  }

  /** The same for the act that an edit of this writer's was part of, whatever they did since. */
  undoOf(view: Node, counter: number): Undo & { readonly of: readonly number[] } {
    return this.reverse(view, this.own.takeOf(counter));
  }

  /** What redoing the last undone act would do now. Apply it, then tell `write` with cause `redo`. */
  redo(view: Node): Undo & { readonly of: readonly number[] } {
    return this.reverse(view, this.own.takeLast('redo'));
  }

  private reverse(
    view: Node,
    group: readonly number[] | undefined,
  ): Undo & { readonly of: readonly number[] } {
    if (!group) return { kind: 'nothing', of: [] };
    const provenance = this.present();
    const seqOf = (counter: number): number => this.own.seqOf(counter) ?? UNACCEPTED + counter;
    const alive = group.map(seqOf);
    const reversals = this.own.reversed(seqOf);
    const result = undoEdits(view, provenance, undoneWith(alive, reversals), (seq) => this.tokens(seq));
    return { ...result, of: alive.filter((seq) => seq < UNACCEPTED) };
  }

  /** The provenance of the view: of the accepted document, with the edits that wait on top. */
  private present(): Provenance {
    const provenance = cloneProvenance(this.following.provenance);
    let doc = this.following.doc;
    for (const edit of this.pending)
      doc = appendEdit(provenance, doc, {
        seq: UNACCEPTED + edit.counter,
        steps: edit.steps,
        sources: edit.sources.filter((source) => 'seq' in source),
      });
    return provenance;
  }

  /** The instances that fill positions `from` to `to` of the view, so that content put elsewhere can name its source. */
  instances(from: number, to: number): (InstanceRange & { readonly from: number })[] {
    return this.present().runs.between(from, to);
  }

  /** Where a position of the document after edit `seq` is in the view now. Null for edits before this writer joined. */
  here(position: number, seq: number, side: 1 | -1 = 1): number | null {
    if (seq < this.began || seq > this.confirmed) return null;
    let at = position;
    for (const step of this.following.stepsSince(seq)) at = step.getMap().map(at, side);
    for (const edit of this.pending) for (const step of edit.steps) at = step.getMap().map(at, side);
    return at;
  }

  /** Where a position of the view is in the document as of the last accepted edit, which has nothing yet of what is pending. */
  confirmedAt(position: number): number {
    const steps = this.pending.flatMap((edit) => [...edit.steps]);
    return steps.reduceRight((at, step) => step.getMap().invert().map(at), position);
  }

  private tokens(seq: number): readonly Token[] {
    if (seq < UNACCEPTED) return this.following.tokens(seq);
    return insertedTokens(this.pending.find((edit) => edit.counter === seq - UNACCEPTED)?.steps ?? []);
  }
}

function sameSteps(a: readonly Step[], b: readonly Step[]): boolean {
  return a.length === b.length && JSON.stringify(a) === JSON.stringify(b);
}
