import type { Cause } from './edit.js';
import type { Reversal } from './reversals.js';

/** So many edits are undone in one step at most, though they were written without a pause. */
const MOST_TOGETHER = 200;
/** Acts that can be undone. */
const MOST_ACTS = 1000;

/** What a writer can undo and redo, each act as the seqs of its edits, the last one at the end, and what they undid and redid. */
export interface Acts {
  readonly done: readonly (readonly number[])[];
  readonly undone: readonly (readonly number[])[];
  readonly reversals: readonly Reversal[];
}

/** How an edit stands to the one before it. */
export interface Going {
  /** Whether the writer paused before it. */
  readonly paused: boolean;
  /** Whether it is the rest of what was too much for one edit. */
  readonly goesOn: boolean;
}

/** What one writer did, act by act, as far as it can be undone and redone. Edits are known by counter, and by seq once accepted. */
export class OwnActs {
  private done: number[][] = [];
  private undone: number[][] = [];
  private reversals: Reversal[] = [];
  /** What is being undone or redone, until the writer has said what came of it. */
  private reversing: readonly number[] = [];
  private readonly seqs = new Map<number, number>();

  get canUndo(): boolean {
    return this.done.length > 0;
  }

  get canRedo(): boolean {
    return this.undone.length > 0;
  }

  /** An own edit was accepted. */
  accepted(counter: number, seq: number): void {
    this.seqs.set(counter, seq);
  }

  /** The seq of an own edit that is accepted. */
  seqOf(counter: number): number | undefined {
    return this.seqs.get(counter);
  }

  /** The writer made an edit. `of` names what it undid by seq, where that is not what was last taken to be undone. */
  remember(
    counter: number,
    cause: Pick<Cause, 'kind'>,
    { paused, goesOn }: Going,
    of?: readonly number[],
  ): void {
    const { kind } = cause;
    if (of) this.reversing = of.map((seq) => this.known(seq));
    const reverses = kind === 'undo' || kind === 'redo';
    if (reverses) this.reversals.push({ seq: counter, of: this.reversing });
    else this.undone = [];
    const acts = kind === 'undo' ? this.undone : this.done;
    const act = acts.at(-1);
    const joins = goesOn || (kind === 'writing' && !paused && (act?.length ?? 0) < MOST_TOGETHER);
    if (act && joins) act.push(counter);
    else acts.push([counter]);
    if (acts.length > MOST_ACTS) acts.shift();
  }

  /** Takes the last act, which is to be undone or redone. */
  takeLast(which: 'undo' | 'redo'): readonly number[] | undefined {
    return this.take((which === 'undo' ? this.done : this.undone).pop());
  }

  /** Takes the act that an edit was part of, which is to be undone whatever was done since. */
  takeOf(counter: number): readonly number[] | undefined {
    const act = this.done.find((one) => one.includes(counter));
    this.done = this.done.filter((one) => one !== act);
    return this.take(act);
  }

  private take(act: readonly number[] | undefined): readonly number[] | undefined {
    if (act) this.reversing = act;
    return act;
  }

  /** What was undone and redone, in order; `seqOf` gives the seq that stands for an edit. */
  reversed(seqOf: (counter: number) => number): Reversal[] {
    return this.reversals
      .map(({ seq, of }) => ({ seq: seqOf(seq), of: of.map(seqOf) }))
      .sort((a, b) => a.seq - b.seq);
  }

  /** What of it is accepted, for another window to `recall`. */
  acts(): Acts {
    const seqs = (acts: readonly (readonly number[])[]): number[][] =>
      acts
        .map((act) => act.flatMap((counter) => this.seqs.get(counter) ?? []))
        .filter((act) => act.length > 0);
    const reversals = this.reversals.flatMap(({ seq: counter, of }): Reversal[] => {
      const seq = this.seqs.get(counter);
      return seq === undefined ? [] : [{ seq, of: of.flatMap((one) => this.seqs.get(one) ?? []) }];
    });
    return { done: seqs(this.done), undone: seqs(this.undone), reversals };
  }

  /** Takes up what an earlier window could undo and redo, of edits that are `within` reach. */
  recall({ done, undone, reversals }: Acts, within: (seq: number) => boolean): void {
    const known = (acts: Acts['done']): number[][] =>
      acts.filter((act) => act.every(within)).map((act) => act.map((seq) => this.known(seq)));
    this.done = [...known(done), ...this.done];
    this.undone = [...known(undone), ...this.undone];
    const held = reversals.filter(({ seq, of }) => [seq, ...of].every(within));
    this.reversals = [
      ...held.map(({ seq, of }) => ({ seq: this.known(seq), of: of.map((one) => this.known(one)) })),
      ...this.reversals,
    ];
  }

  /** Lets go of whatever has to do with edits up to one of them. */
  forget(upTo: number): void {
    const isLater = (counter: number): boolean => (this.seqs.get(counter) ?? Infinity) > upTo;
    this.done = this.done.filter((act) => act.every(isLater));
    this.undone = this.undone.filter((act) => act.every(isLater));
    this.reversals = this.reversals.filter(({ seq, of }) => [seq, ...of].every(isLater));
    for (const [counter, seq] of this.seqs) if (seq <= upTo) this.seqs.delete(counter);
  }

  /** A counter that stands for an accepted edit of an earlier window; no edit of this one has it. */
  private known(seq: number): number {
    this.seqs.set(-seq, seq);
    return -seq;
  }
}
