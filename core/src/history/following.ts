import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Token } from '../content/index.js';
import { insertedTokens, tokensOf } from '../content/index.js';
import { applySteps } from './edit.js';
import type { Source } from './edit.js';
import type { Provenance } from './provenance.js';
import { appendEdit, startProvenance } from './provenance.js';

/** Accepted edits that are kept at least; once there are twice as many, older ones are let go. */
const KEPT = 4000;

/** An accepted edit as it comes from the authority. */
export interface AcceptedEdit {
  readonly seq: number;
  readonly client: string;
  readonly counter: number;
  readonly steps: readonly Step[];
  readonly sources: readonly Source[];
}

/** The accepted document as one writer follows it: how it was where they began, each edit since, and whose each instance is. */
export class Following {
  private base: { readonly seq: number; readonly doc: Node };
  private current: { seq: number; doc: Node; provenance: Provenance };
  private readonly log = new Map<number, Pick<AcceptedEdit, 'steps' | 'sources'>>();

  /** Begins at edit `seq`; `kept` edits are kept at least. */
  constructor(
    doc: Node,
    seq: number,
    private readonly kept = KEPT,
  ) {
    this.base = { seq, doc };
    this.current = { seq, doc, provenance: startProvenance(seq, doc) };
  }

  /** The last edit. */
  get seq(): number {
    return this.current.seq;
  }

  /** The document after it. */
  get doc(): Node {
    return this.current.doc;
  }

  get provenance(): Provenance {
    return this.current.provenance;
  }

  /** The edit that all of this begins with. It moves on in a long session. */
  get began(): number {
    return this.base.seq;
  }

  /** Takes in the next edit. */
  take(edit: AcceptedEdit): void {
    const { provenance, doc } = this.current;
    this.current = { seq: edit.seq, doc: appendEdit(provenance, doc, edit), provenance };
    this.log.set(edit.seq, { steps: edit.steps, sources: edit.sources });
  }

  /** Begins anew at a later edit where much has gathered, so that a long session does not grow. Says whether it did. */
  letGo(): boolean {
    if (this.log.size < 2 * this.kept) return false;
    const upTo = this.seq - this.kept;
    let { doc } = this.base;
    for (let seq = this.base.seq + 1; seq <= upTo; seq++) {
      doc = applySteps(doc, this.log.get(seq)?.steps ?? []);
      this.log.delete(seq);
    }
    this.base = { seq: upTo, doc };
    const provenance = startProvenance(upTo, doc);
    for (const [seq, edit] of this.log) doc = appendEdit(provenance, doc, { seq, ...edit });
    this.current = { ...this.current, provenance };
    return true;
  }

  /** The steps of the edits after `seq`. */
  *stepsSince(seq: number): Iterable<Step> {
    for (let edit = seq + 1; edit <= this.seq; edit++) yield* this.log.get(edit)?.steps ?? [];
  }

  /** What an edit inserted; of the one that all begins with, the whole document. */
  tokens(seq: number): readonly Token[] {
    if (seq === this.base.seq) return tokensOf(this.base.doc.content);
    return insertedTokens(this.log.get(seq)?.steps ?? []);
  }
}
