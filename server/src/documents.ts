import type { DocumentPatch, History, Moment, Outcome, Version } from '@oxbow/contract';
import { blankDocument, tokensOf, wordCount } from '@oxbow/core/content';
import { becoming } from '@oxbow/core/compare';
import type { Origin } from '@oxbow/core/compare';
import type { Cause, CutCause, Proposal, Provenance, Undo, Undoing } from '@oxbow/core/history';
import { revivedSeqs, undo } from '@oxbow/core/history';
import { nanoid } from 'nanoid';
import type { Node } from 'prosemirror-model';
import type { People, Signed } from './access/people.js';
import { Trouble } from './api/problem.js';
import type { Versions } from './jobs/versions.js';
import type { Head } from './live/room.js';
import type { Rooms } from './live/rooms.js';
import type { Database } from './store/database.js';
import type { StoredDocument } from './store/models.js';

/** What a document is to become. */
export interface Becoming {
  readonly target: Node;
  /** The moment that the target was made from; the head when it is not given. What came since is kept. */
  readonly base?: { readonly doc: Node; readonly seq: number };
  /** Where content of the target that came back comes from. */
  readonly origin?: Origin;
}

/** Which version an edit that changes the whole document is cut as. */
const CUTS: Partial<Record<Cause['kind'], CutCause>> = { restore: 'restore', assembly: 'assembly' };

/** What can be done with documents as a whole; handlers check, authorise and call here. */
export class Documents {
  /** Edits that this process compiles itself are those of a client of its own. */
  private readonly client = `server-${nanoid(10)}`;
  private counter = 1;

  constructor(
    private readonly database: Database,
    readonly rooms: Rooms,
    readonly versions: Versions,
    private readonly people: People,
  ) {}

  /** Makes a document, blank or with content, whose first version is the blank beginning. */
  async create(
    person: Signed,
    title: string,
    collection: string | null,
    at = Date.now(),
  ): Promise<StoredDocument> {
    const { documents, shares, collections } = this.database.models;
    if (collection && !(await collections.findByPk(collection)))
      throw Trouble.field('collection', 'there is no such collection');
    const row = {
      id: nanoid(12),
      kind: 'text',
      title: title.trim(),
      collection,
      seq: 0,
      createdAt: at,
      changedAt: at,
      changedBy: person.key,
    };
    const made = await this.database.writes.add(async (transaction) => {
      const document = await documents.create(row, { transaction });
      await shares.create({ document: document.key, person: person.key, role: 'owner' }, { transaction });
      return document.get({ plain: true });
    });
    await this.versions.cut(made.key, 0, { cause: 'beginning', at });
    return made;
  }

  /** Appends one edit that makes the document what it is to become, then cuts a version of it. */
  async become(
    document: StoredDocument,
    person: Signed,
    cause: Cause,
    make: (head: Head) => Promise<Becoming>,
    options: { comment?: string; major?: boolean; at?: number } = {},
  ): Promise<Outcome> {
    await this.cutOpen(document.key, options.at);
    const seq = await this.compile(document.key, person, cause, options.at, async (head) => {
      const { target, base = head, origin } = await make(head);
      return { ...becoming(base.doc, target, origin), base: base.seq };
    });
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
    const seq = await this.compile(document.key, person, cause, undefined, async (head) => {
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

  private async compile(
    document: number,
    person: Signed,
    cause: Cause,
    at: number | undefined,
    make: (head: Head) => Promise<Proposal & { readonly base?: number }>,
  ): Promise<number> {
    const room = await this.rooms.get(document);
    const [result] = await room.compose(async (head) => {
      const { steps, sources, base = head.seq } = await make(head);
      if (steps.length === 0)
        throw new Trouble(409, 'Nothing would change', 'The document already reads like that.');
      const edit = { counter: this.counter++, steps, sources, writtenAt: at ?? Date.now(), cause, at };
      return { author: person.key, client: this.client, base, edits: [edit] };
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

  /** Changes title or collection; each is an event of the history. */
  async change(document: StoredDocument, person: Signed, patch: DocumentPatch, at?: number): Promise<void> {
    const causes: Cause[] = [];
    if (patch.title !== undefined && patch.title.trim() !== document.title)
      causes.push({ kind: 'title', before: document.title, after: patch.title.trim() });
    if (patch.collection !== undefined && patch.collection !== document.collection) {
      if (patch.collection !== null && !(await this.database.models.collections.findByPk(patch.collection)))
        throw Trouble.field('collection', 'there is no such collection');
      causes.push({ kind: 'collection', before: document.collection, after: patch.collection });
    }
    if (causes.length === 0) return;
    const room = await this.rooms.get(document.key);
    await room.compose((head) => ({
      author: person.key,
      client: this.client,
      base: head.seq,
      edits: causes.map((cause) => ({
        counter: this.counter++,
        steps: [],
        sources: [],
        writtenAt: at ?? Date.now(),
        cause,
        at,
      })),
    }));
    const fields = {
      ...(patch.title === undefined ? {} : { title: patch.title.trim() }),
      ...(patch.collection === undefined ? {} : { collection: patch.collection }),
    };
    await this.database.writes.add((transaction) =>
      this.database.models.documents.update(fields, { where: { key: document.key }, transaction }),
    );
  }

  /** Keeps a version of the present moment. */
  async keep(
    document: StoredDocument,
    person: Signed,
    options: { comment?: string; major?: boolean; at?: number },
  ): Promise<Version> {
    const room = await this.rooms.get(document.key);
    await room.settled();
    const held = await this.versions.at(document.key, room.head.seq);
    if (held)
      throw new Trouble(
        409,
        'This moment is a version already',
        `Version ${held.number} holds exactly this.`,
      );
    return this.versions.cut(document.key, room.head.seq, {
      cause: 'asked',
      at: options.at ?? Date.now(),
      comment: options.comment,
      major: options.major,
      by: person.key,
    });
  }

  /** The edit that a version number or `@SEQ` means. */
  async seqOf(document: StoredDocument, moment: string, field = 'moment'): Promise<number> {
    if (moment.startsWith('@')) {
      const seq = Number(moment.slice(1) || NaN);
      if (!Number.isInteger(seq) || seq > document.seq)
        throw new Trouble(404, 'Unknown moment', `The document has ${document.seq} edits.`, [
          { path: field, message: 'is not a moment of this document' },
        ]);
      return seq;
    }
    const version = await this.versions.byNumber(document.key, Number(moment));
    if (!version)
      throw new Trouble(404, 'Unknown version', `There is no version ${moment}.`, [
        { path: field, message: 'is not a version of this document' },
      ]);
    return version.seq;
  }

  async moment(document: StoredDocument, seq: number): Promise<Moment & { doc: Node }> {
    const [doc, version, [edit]] = await Promise.all([
      this.rooms.moments.open(document.key, seq),
      this.versions.at(document.key, seq),
      this.rooms.moments.log.between(document.key, seq - 1, seq),
    ]);
    return {
      document: document.id,
      seq,
      at: new Date(Number(edit?.acceptedAt ?? document.createdAt)).toISOString(),
      by: this.people.id(edit?.author ?? document.changedBy),
      title: document.title,
      version: version?.number ?? null,
      words: wordCount(doc),
      content: doc.toJSON(),
      doc,
    };
  }

  /** Edits after `after` without their content. */
  async history(document: StoredDocument, after: number): Promise<History> {
    const traces = await this.rooms.moments.log.traces(document.key, (key) => this.people.id(key), after);
    const people = [...new Set(traces.map(({ author }) => author))];
    return {
      from: after + 1,
      people,
      at: traces.map(({ at }) => at),
      who: traces.map(({ author }) => people.indexOf(author)),
      wordsIn: traces.map(({ wordsIn }) => wordsIn),
      wordsOut: traces.map(({ wordsOut }) => wordsOut),
      events: traces.flatMap(({ seq, cause }) =>
        cause ? [{ seq, cause: JSON.parse(cause) as Cause }] : [],
      ) as History['events'],
    };
  }
}
