import type { Outcome, TakeBackInput, TakeBackPreview } from '@oxbow/contract';
import { applySteps } from '@oxbow/core/history';
import type { Cause } from '@oxbow/core/history';
import { textsWithout } from '@oxbow/core/past';
import type { People, Signed } from './access/people.js';
import { Trouble } from './api/problem.js';
import type { Comparisons } from './compare/comparisons.js';
import type { Documents } from './documents.js';
import type { Chronicles } from './past/chronicles.js';
import type { Database } from './store/database.js';
import type { StoredDocument } from './store/models.js';

/** Takes edits back by instance and keeps what came after them: single ones, a sitting, or all that one person did in a range. */
export class TakingBack {
  constructor(
    private readonly database: Database,
    private readonly documents: Documents,
    private readonly chronicles: Chronicles,
    private readonly comparisons: Comparisons,
    private readonly people: People,
  ) {}

  /** What it would do. Nothing is guessed: what cannot be done cleanly is told with its three texts. */
  async preview(document: StoredDocument, input: TakeBackInput): Promise<TakeBackPreview> {
    const { seqs, authors } = await this.meant(document, input);
    const room = await this.documents.rooms.get(document.key);
    await room.settled();
    const { doc, provenance } = room.head;
    const undo = await this.documents.undoing(document.key, { doc, provenance }, seqs);
    const told = { edits: seqs.length, people: authors };
    const nothing = { changes: 0, wordsAdded: 0, wordsRemoved: 0, gist: 'No change', conflict: null };
    if (undo.kind === 'nothing') return { ...told, ...nothing };
    if (undo.kind === 'conflict') {
      const { tape } = await this.chronicles.open(document.key);
      const conflict = textsWithout(tape, new Set(seqs), undo.from, undo.to);
      return { ...told, ...nothing, conflict };
    }
    const { changes, totals, gist } = await this.comparisons.compare(doc, applySteps(doc, undo.steps));
    const { wordsAdded, wordsRemoved } = totals;
    return { ...told, changes: changes.length, wordsAdded, wordsRemoved, gist, conflict: null };
  }

  async take(document: StoredDocument, person: Signed, input: TakeBackInput): Promise<Outcome> {
    const { seqs } = await this.meant(document, input);
    return this.documents.takeBack(document, person, seqs, input.comment);
  }

  /** The edits that an input means, and who made them. Throws 422 where it means none. */
  private async meant(
    document: StoredDocument,
    { seq, seqs, after, upTo, person }: TakeBackInput,
  ): Promise<{ seqs: number[]; authors: string[] }> {
    const named = seqs ?? (seq === undefined ? null : [seq]);
    if (named?.some((one) => one > document.seq))
      throw Trouble.field('seq', 'is not an edit of this document');
    const [first, last] = named
      ? [Math.min(...named) - 1, Math.max(...named)]
      : [after ?? 0, Math.min(upTo ?? document.seq, document.seq)];
    const wanted = named && new Set(named);
    const traces = await this.documents.rooms.moments.log.traces(
      document.key,
      (key) => this.people.id(key),
      first,
      last,
    );
    const meant = traces.filter(
      (trace) => (!wanted || wanted.has(trace.seq)) && (person === undefined || trace.author === person),
    );
    if (meant.length === 0) throw Trouble.field('after', 'and upTo hold no such edit');
    const already = await this.takenBack(document.key);
    const left = meant.filter((trace) => !already.has(trace.seq));
    if (left.length === 0)
      throw new Trouble(
        409,
        'That is taken back already',
        'Taking the taking back back would bring it again.',
      );
    return {
      seqs: left.map((trace) => trace.seq),
      authors: [...new Set(left.map(({ author }) => author))],
    };
  }

  /** The edits that were ever taken back: what is undone twice would come back twice. */
  private async takenBack(document: number): Promise<Set<number>> {
    const rows = await this.database.rows<{ cause: string }>(
      'SELECT cause FROM edits WHERE document = :document AND cause IS NOT NULL',
      { document },
    );
    return new Set(
      rows.flatMap((row) => {
        const cause = JSON.parse(row.cause) as Cause;
        return cause.kind === 'takeBack' ? cause.of : [];
      }),
    );
  }
}
