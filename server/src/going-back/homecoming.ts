import type { Homecoming as Told, HomecomingInput, Outcome } from '@oxbow/contract';
import type { Settlement } from '@oxbow/core/compare';
import type { Cause } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { Access, People, Signed } from '../access/people.js';
import { allowed } from '../access/granted.js';
import { may, waits } from '../access/policy.js';
import type { Images } from '../store/images.js';
import { Trouble } from '../trouble/trouble.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Becoming } from './becoming.js';
import type { StoredDocument } from '../store/models.js';

/** Where a copy came from: the document, its moment, and whether somebody may write there. */
interface Origin {
  readonly access: Access;
  readonly document: StoredDocument;
  readonly moment: number;
  readonly mayWrite: boolean;
}

/** Brings copies home: three-way, by the moment at which the copy was made. What both changed differently is asked, not guessed. */
export class Homecoming {
  constructor(
    private readonly rooms: Rooms,
    private readonly becoming: Becoming,
    private readonly people: People,
    private readonly images: Images,
    private readonly comparisons: Comparisons,
  ) {}

  /** What it would change. Throws 404 where the document is no copy, or of one that this person may not see. */
  async preview(copy: StoredDocument, person: Signed): Promise<Told> {
    const origin = await this.originOf(copy, person);
    const [ours, theirs] = await Promise.all([this.head(origin.document.key), this.head(copy.key)]);
    const base = await this.rooms.moments.open(origin.document.key, origin.moment);
    const { conflicts, doc } = await this.comparisons.three(base, ours.doc, theirs.doc);
    const { changes, totals, gist } = await this.comparisons.compare(ours.doc, doc);
    return {
      origin: {
        document: origin.document.id,
        title: origin.document.title,
        moment: origin.moment,
        mayWrite: origin.mayWrite,
      },
      seq: theirs.seq,
      originSeq: ours.seq,
      changes: changes.length,
      wordsAdded: totals.wordsAdded,
      wordsRemoved: totals.wordsRemoved,
      gist,
      conflicts: conflicts.map(({ ours: origin, theirs: copy, ...conflict }) => ({
        ...conflict,
        origin,
        copy,
      })),
    };
  }

  /** Puts it into the origin. Throws 409 when either document changed since it was looked at, or a conflict is not settled. */
  async bring(copy: StoredDocument, person: Signed, input: HomecomingInput): Promise<Outcome> {
    const origin = await this.originOf(copy, person);
    allowed(origin.access, origin.access.holder, 'restore');
    const theirs = await this.head(copy.key);
    const base = await this.rooms.moments.open(origin.document.key, origin.moment);
    await this.images.lend(copy.key, origin.document.key, theirs.doc);
    const cause: Cause = { kind: 'merge', document: copy.id, title: copy.title, moment: theirs.seq };
    return this.becoming.become(
      origin.document,
      person,
      cause,
      async ({ doc, seq }) => {
        if (seq !== input.originSeq || theirs.seq !== input.seq)
          throw new Trouble(409, 'Somebody has gone on writing', 'Look at it again; nothing was changed.');
        const settled = settledBy(input);
        const { conflicts, doc: target } = await this.comparisons.three(base, doc, theirs.doc, settled);
        const open = conflicts.find(({ id }) => !settled.has(id));
        if (open)
          throw new Trouble(409, 'A conflict is not settled', `Decide about “${open.theirs}”.`, [
            { path: `settled/${open.id}`, message: 'is missing' },
          ]);
        return { target, from: [{ doc: theirs.doc, seq: theirs.seq, document: copy.id }] };
      },
      { comment: input.comment },
    );
  }

  private async originOf(copy: StoredDocument, person: Signed): Promise<Origin> {
    const [first] = await this.rooms.moments.log.traces(copy.key, String, 0, 1);
    const cause = first?.cause ? (JSON.parse(first.cause) as Cause) : null;
    const from = cause && copiedFrom(cause);
    const access = from ? await this.people.access(from.document, person) : null;
    if (!from || !access || !may(access.role, 'read'))
      throw new Trouble(404, 'This document is no copy of one that you may see');
    const mayWrite = may(access.role, 'restore') && !waits(access.hold, 'restore');
    return { access, document: access.document, moment: from.moment, mayWrite };
  }

  private async head(document: number): Promise<{ doc: Node; seq: number }> {
    const room = await this.rooms.get(document);
    await room.settled();
    return room.head;
  }
}

/** Which moment of which document a document began as. */
function copiedFrom(cause: Cause): { document: string; moment: number } | null {
  if (cause.kind === 'copy') return cause;
  return cause.kind === 'assembly' ? { document: cause.document, moment: cause.later } : null;
}

/** What is taken of each conflict, by its number. */
function settledBy({ settled }: HomecomingInput): Map<number, Settlement> {
  const takes = { origin: 'ours', copy: 'theirs' } as const;
  return new Map(
    settled.map(({ id, take }) => [id, take === 'origin' || take === 'copy' ? takes[take] : take]),
  );
}
