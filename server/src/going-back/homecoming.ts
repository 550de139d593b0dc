import type { Homecoming as Told, HomecomingInput, Outcome } from '@oxbow/contract';
import type { Settlement } from '@oxbow/core/compare';
import type { Cause } from '@oxbow/core/history';
import type { Access, People, Signed } from '../access/people.js';
import { allowed } from '../access/granted.js';
import { may, waits } from '../access/policy.js';
import type { Database } from '../store/database.js';
import type { Images } from '../store/images.js';
import { Trouble } from '../trouble/trouble.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Becoming } from './becoming.js';
import type { View } from '../access/view.js';
import type { Histories } from '../histories/histories.js';

/** Where a copy came from: the document, its moment, and whether somebody may write there. */
interface Origin {
  readonly access: Access;
  readonly document: View;
  readonly moment: number;
  readonly mayWrite: boolean;
}

/** Brings copies home: three-way, by the moment at which the copy was made. What both changed differently is asked, not guessed. */
export class Homecoming {
  constructor(
    private readonly database: Database,
    private readonly histories: Histories,
    private readonly becoming: Becoming,
    private readonly people: People,
    private readonly images: Images,
    private readonly comparisons: Comparisons,
  ) {}

  /** What it would change. Throws 404 where the document is no copy, or of one that this person may not see. */
  async preview(copy: View, person: Signed): Promise<Told> {
    const origin = await this.originOf(copy, person);
    const [ours, theirs] = await Promise.all([
      this.histories.head(origin.document),
      this.histories.head(copy),
    ]);
    const base = await this.histories.moment(origin.document, origin.moment);
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
  async bring(copy: View, person: Signed, input: HomecomingInput): Promise<Outcome> {
    const origin = await this.originOf(copy, person);
    allowed(origin.document, origin.access.holder, 'restore');
    const theirs = await this.histories.head(copy);
    const base = await this.histories.moment(origin.document, origin.moment);
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

  private async originOf(copy: View, person: Signed): Promise<Origin> {
    const [from] =
      copy.first > 0
        ? []
        : await this.database.rows<{ id: string; seq: number }>(
            `SELECT documents.id, origins.seq FROM origins JOIN documents ON documents.key = origins.other
             WHERE origins.document = :key`,
            { key: copy.key },
          );
    const access = from ? await this.people.access(from.id, person) : null;
    const document = access?.document;
    const moment = from && document ? from.seq - document.first : -1;
    if (!access || !document || !may(document, 'lookBack') || moment < 0)
      throw new Trouble(404, 'This document is no copy of one that you may see');
    const mayWrite = may(document, 'restore') && !waits(document.hold, 'restore');
    return { access, document, moment, mayWrite };
  }
}

/** What is taken of each conflict, by its number. */
function settledBy({ settled }: HomecomingInput): Map<number, Settlement> {
  const takes = { origin: 'ours', copy: 'theirs' } as const;
  return new Map(
    settled.map(({ id, take }) => [id, take === 'origin' || take === 'copy' ? takes[take] : take]),
  );
}
