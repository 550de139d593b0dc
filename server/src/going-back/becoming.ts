import type { Outcome, SourceRef } from '@oxbow/contract';
import type { Cause, CutCause, Provenance, Undo, Undoing } from '@oxbow/core/history';
import { revivedSeqs, undo } from '@oxbow/core/history';
import type { ReadFormat } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { stillGranted } from '../access/granted.js';
import type { People, Signed } from '../access/people.js';
import type { Action } from '../access/policy.js';
import type { Comparisons } from '../compare/comparisons.js';
import { BEING_MADE } from '../documents/deletion.js';
import type { Rooms } from '../ordering/rooms.js';
import type { ToldRoom } from '../ordering/told-room.js';
import type { View } from '../access/view.js';
import type { Histories, ToldHead } from '../histories/histories.js';
import { Trouble } from '../trouble/trouble.js';
import type { ToldVersions } from '../versions/told-versions.js';
import type { CutOptions, Versions } from '../versions/versions.js';

/** What a document is to become. */
export interface Goal {
  readonly target: Node;
  /** The format of the file that the target was read from: what is likely the same is then known as such. */
  readonly read?: ReadFormat;
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

/** A present document. */
type Head = Pick<ToldHead, 'doc' | 'seq'>;

/** Which version an edit that changes the whole document is cut as. */
/** What somebody needs to be allowed to do for an edit of a cause. */
const actionOf = (cause: Cause): Action =>
  cause.kind === 'filing' || cause.kind === 'copy' ? 'write' : 'restore';

const CUTS: Partial<Record<Cause['kind'], CutCause>> = { restore: 'restore', assembly: 'assembly' };

/** Makes a document another by one edit on top, never past what others write meanwhile, and cuts a version of it. */
export class Becoming {
  constructor(
    private readonly people: People,
    private readonly rooms: Rooms,
    private readonly histories: Histories,
    private readonly versions: Versions,
    private readonly told: ToldVersions,
    private readonly comparisons: Comparisons,
  ) {}

  /** Appends one edit that makes the document what it is to become, then cuts a version of it. */
  async become(
    view: View,
    person: Signed,
    cause: Cause,
    make: (head: Head) => Promise<Goal>,
    options: { comment?: string; major?: boolean; at?: number } = {},
  ): Promise<Outcome> {
    await this.cutOpen(view.key, options.at);
    const room = await this.rooms.told(view);
    await room.settled();
    const { head } = room;
    const { target, read, base = head, from = [] } = await make(head);
    const taken: readonly Taken[] = [...from, base];
    const turned = await this.comparisons.turning(
      base.doc,
      target,
      taken.map(({ doc }) => doc),
      read,
    );
    const sources = turned.sources.map(({ from: index, ...place }): SourceRef => {
      const { seq: moment, document } = taken[index] as Taken;
      return document === undefined ? { ...place, moment } : { ...place, moment, document };
    });
    const wish = { steps: turned.steps, sources, base: base.seq };
    const seq = await this.append(view, person, cause, options.at, async () => wish);
    return this.cut(view, seq, {
      cause: CUTS[cause.kind] ?? 'filing',
      at: options.at ?? Date.now(),
      comment: options.comment,
      major: options.major,
      by: person.key,
    });
  }

  /** Undoes something by instance and cuts a version of the outcome. Throws 409 when it cannot be undone on its own. */
  async takeBack(
    view: View,
    person: Signed,
    cause: Extract<Cause, { kind: 'takeBack' }>,
    undoing: (provenance: Provenance) => Undoing,
    comment?: string,
  ): Promise<Outcome> {
    await this.cutOpen(view.key);
    const seq = await this.append(view, person, cause, undefined, async (room) => {
      const head = await this.histories.headOf(view, await room.whole());
      const outcome = await this.undoing(view, head, undoing(head.provenance));
      if (outcome.kind === 'conflict')
        throw new Trouble(
          409,
          'That cannot be taken back on its own',
          'Somebody has written inside what it brought. Nothing was changed.',
        );
      return outcome.kind === 'nothing' ? { steps: [], sources: [] } : outcome;
    });
    return this.cut(view, seq, { cause: 'restore', at: Date.now(), comment, by: person.key });
  }

  /** What undoing something would do to a document at its head. */
  async undoing(
    view: View,
    { doc, provenance }: Pick<ToldHead, 'doc' | 'provenance'>,
    undoing: Undoing,
  ): Promise<Undo> {
    const tokens = await this.histories.tokens(view, new Set(revivedSeqs(provenance.runs, undoing)));
    return undo(doc, provenance, undoing, tokens);
  }

  private async cut(view: View, seq: number, how: CutOptions): Promise<Outcome> {
    const version = await this.versions.cut(view.key, seq + view.first, how);
    return { seq, version: await this.told.told(view, version) };
  }

  private async append(
    view: View,
    person: Signed,
    cause: Cause,
    at: number | undefined,
    make: (room: ToldRoom) => Promise<Wish>,
  ): Promise<number> {
    const room = await this.rooms.told(view);
    const [result] = await room.compose(async (head) => {
      const { steps, sources, base = head.seq } = await make(room);
      if (steps.length === 0)
        throw new Trouble(409, 'Nothing would change', 'The document already reads like that.');
      const edit = { counter: this.rooms.own.next(), steps, sources, writtenAt: at ?? Date.now(), cause, at };
      // What was asked when the call came in is asked again in the room's turn; of a document that is being made it needs no asking.
      const authorize = (): Promise<void> => stillGranted(this.people, view, actionOf(cause));
      return {
        author: person.key,
        client: this.rooms.own.client,
        base,
        edits: [edit],
        ...(view.binned === BEING_MADE ? {} : { authorize }),
      };
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
