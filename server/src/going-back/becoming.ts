import type { Outcome, SourceRef } from '@oxbow/contract';
import { blankDocument, tokensOf } from '@oxbow/core/content';
import type { Cause, CutCause, Provenance, Undo, Undoing } from '@oxbow/core/history';
import { revivedSeqs, undo } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Signed } from '../access/people.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Head } from '../ordering/room.js';
import type { Rooms } from '../ordering/rooms.js';
import type { StoredDocument } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Versions } from '../versions/versions.js';

/** What a document is to become. */
export interface Goal {
  readonly target: Node;
  /** The moment that the target was made from; the head when it is not given. What came since is kept. */
  readonly base?: { readonly doc: Node; readonly seq: number };
  /** The moments, of this document or of others, that content of the target was taken from, so that credit stays. */
  readonly from?: readonly Taken[];
}

/** A moment that content was taken from; of another document where one is named. */
export interface Taken {
  readonly doc: Node;
  readonly seq: number;
  readonly document?: string;
}

/** Steps that are to be appended, on the head where no other base is given. */
interface Wish {
  readonly steps: readonly Step[];
  readonly sources: readonly SourceRef[];
  readonly base?: number;
}

/** Which version an edit that changes the whole document is cut as. */
const CUTS: Partial<Record<Cause['kind'], CutCause>> = { restore: 'restore', assembly: 'assembly' };

/** Makes a document another by one edit on top, never past what others write meanwhile, and cuts a version of it. */
export class Becoming {
  constructor(
    private readonly rooms: Rooms,
    private readonly versions: Versions,
    private readonly comparisons: Comparisons,
  ) {}

  /** Appends one edit that makes the document what it is to become, then cuts a version of it. */
  async become(
    document: StoredDocument,
    person: Signed,
    cause: Cause,
    make: (head: Head) => Promise<Goal>,
    options: { comment?: string; major?: boolean; at?: number } = {},
  ): Promise<Outcome> {
    await this.cutOpen(document.key, options.at);
    const room = await this.rooms.get(document.key);
    await room.settled();
    const { head } = room;
    const { target, base = head, from = [] } = await make(head);
    const taken: readonly Taken[] = [...from, base];
    const turned = await this.comparisons.turning(
      base.doc,
      target,
      taken.map(({ doc }) => doc),
    );
    const sources = turned.sources.map(({ from: index, ...place }): SourceRef => {
      const { seq: moment, document } = taken[index] as Taken;
      return document === undefined ? { ...place, moment } : { ...place, moment, document };
    });
    const seq = await this.append(document.key, person, cause, options.at, () => ({
      steps: turned.steps,
      sources,
      base: base.seq,
    }));
    return {
      seq,
      version: await this.versions.cut(document.key, seq, {
        cause: CUTS[cause.kind] ?? 'filing',
        at: options.at ?? Date.now(),
        comment: options.comment,
        major: options.major,
        by: person.key,
      }),
    };
  }

  /** Undoes something by instance and cuts a version of the outcome. Throws 409 when it cannot be undone on its own. */
  async takeBack(
    document: StoredDocument,
    person: Signed,
    cause: Extract<Cause, { kind: 'takeBack' }>,
    undoing: (provenance: Provenance) => Undoing,
    comment?: string,
  ): Promise<Outcome> {
    await this.cutOpen(document.key);
    const seq = await this.append(document.key, person, cause, undefined, async (head) => {
      const outcome = await this.undoing(document.key, head, undoing(head.provenance));
      if (outcome.kind === 'conflict')
        throw new Trouble(
          409,
          'That cannot be taken back on its own',
          'Somebody has written inside what it brought. Nothing was changed.',
        );
      return outcome.kind === 'nothing' ? { steps: [], sources: [] } : outcome;
    });
    const by = person.key;
    return {
      seq,
      version: await this.versions.cut(document.key, seq, { cause: 'restore', at: Date.now(), comment, by }),
    };
  }

  /** What undoing something would do to a document at its head. */
  async undoing(
    document: number,
    { doc, provenance }: Pick<Head, 'doc' | 'provenance'>,
    undoing: Undoing,
  ): Promise<Undo> {
    const tokens = await this.rooms.moments.log.tokens(
      document,
      new Set(revivedSeqs(provenance.runs, undoing)),
    );
    return undo(
      doc,
      provenance,
      undoing,
      (from) => tokens.get(from) ?? (from === 0 ? tokensOf(blankDocument().content) : []),
    );
  }

  private async append(
    document: number,
    person: Signed,
    cause: Cause,
    at: number | undefined,
    make: (head: Head) => Promise<Wish> | Wish,
  ): Promise<number> {
    const room = await this.rooms.get(document);
    const [result] = await room.compose(async (head) => {
      const { steps, sources, base = head.seq } = await make(head);
      if (steps.length === 0)
        throw new Trouble(409, 'Nothing would change', 'The document already reads like that.');
      const edit = { counter: this.rooms.own.next(), steps, sources, writtenAt: at ?? Date.now(), cause, at };
      return { author: person.key, client: this.rooms.own.client, base, edits: [edit] };
    });
    if (result?.seq === null || result?.seq === undefined)
      throw new Trouble(409, 'That does not fit the document', result?.refusal?.message);
    return result.seq;
  }

  /** Before something is put on top, what is there gets a version of its own. */
  private async cutOpen(document: number, at = Date.now()): Promise<void> {
    await this.versions.cutDue(document, at);
    const room = await this.rooms.get(document);
    await room.settled();
    const last = await this.versions.last(document);
    if (last && last.seq < room.head.seq)
      await this.versions.cut(document, room.head.seq, { cause: 'run', at });
  }
}
