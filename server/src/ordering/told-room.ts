import type { SourceRef } from '@oxbow/contract';
import type { Cause } from '@oxbow/core/history';
import type { Step } from 'prosemirror-transform';
import type { View } from '../access/view.js';
import type { Batch, Wanted } from './batch.js';
import type { Head, Result, Room } from './room.js';
import { FutureBase } from './room.js';

/** An open document for somebody whose history of it begins with some edit: edits are counted from there, in and out. */
export class ToldRoom {
  constructor(
    private readonly room: Room,
    private readonly view: Pick<View, 'id' | 'first'>,
  ) {}

  /** The document as of the last ordered edit. */
  get head(): Pick<Head, 'doc' | 'seq'> {
    const { doc, seq } = this.room.head;
    return { doc, seq: seq - this.view.first };
  }

  /** The document as of the last ordered edit, once that is stored. */
  async storedHead(): Promise<Pick<Head, 'doc' | 'seq'>> {
    const { doc, seq } = await this.room.storedHead();
    return { doc, seq: seq - this.view.first };
  }

  /** All of the document as of the last ordered edit, once it is stored. */
  whole(): Promise<Head> {
    return this.room.storedHead();
  }

  /** Resolves when everything ordered so far is done. */
  settled(): Promise<void> {
    return this.room.settled();
  }

  /** As the room's own. */
  async submit(batch: Batch): Promise<Result[]> {
    if (batch.base > this.head.seq) throw new FutureBase(this.head.seq);
    return (await this.room.submit(inFull(batch, this.view))).map((result) => this.counted(result));
  }

  /** As the room's own; what is made of the head may wait for all that was ordered before to be stored. */
  async compose(make: (head: Pick<Head, 'doc' | 'seq'>) => Promise<Batch>): Promise<Result[]> {
    const results = await this.room.compose(async () => inFull(await make(this.head), this.view));
    return results.map((result) => this.counted(result));
  }

  /** The steps of some edits as they would be taken, with what they bring of erased text erased in them too. */
  heeded(author: number, edits: readonly Wanted[]): Promise<(readonly Step[])[]> {
    const { view } = this;
    const batch = inFull({ author, client: '', base: this.head.seq, edits }, view);
    return this.room.heeded(batch);
  }

  private counted(result: Result): Result {
    return result.seq === null ? result : { ...result, seq: result.seq - this.view.first };
  }
}

type Counted = Pick<View, 'id' | 'first'>;

/** A batch with its edits counted from the very beginning. */
function inFull(batch: Batch, view: Counted): Batch {
  const { first } = view;
  if (first === 0) return batch;
  const edits = batch.edits.map((edit): Wanted => ({
    ...edit,
    sources: edit.sources.map((source) => sourceInFull(source, first)),
    cause: causeInFull(edit.cause, view),
  }));
  return { ...batch, base: batch.base + first, edits };
}

/** What stood where the history begins is named by where it stood. */
function sourceInFull(source: SourceRef, first: number): SourceRef {
  if ('counter' in source) return source;
  if ('seq' in source) {
    const { step, at, length, seq, offset } = source;
    return seq === 0
      ? { step, at, length, moment: first, position: offset }
      : { step, at, length, seq: seq + first, offset };
  }
  return source.document === undefined ? { ...source, moment: source.moment + first } : source;
}

/** Moments of other documents are as their makers say: of those a cause only tells. */
function causeInFull(cause: Cause, { id, first }: Counted): Cause {
  switch (cause.kind) {
    case 'undo':
    case 'redo':
      return { ...cause, of: cause.of.map((seq) => seq + first) };
    case 'takeBack': {
      const { of, change } = cause;
      const within = change && { earlier: change.earlier + first, later: change.later + first };
      return { kind: 'takeBack', of: of.map((seq) => seq + first), ...(within ? { change: within } : {}) };
    }
    case 'carry':
      return { ...cause, moment: cause.moment + first };
    case 'restore':
      return { kind: 'restore', moment: cause.moment + first };
    case 'assembly':
      return {
        ...cause,
        earlier: cause.other === id ? cause.earlier + first : cause.earlier,
        later: cause.document === id ? cause.later + first : cause.later,
      };
    default:
      return cause;
  }
}
