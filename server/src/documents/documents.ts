import type { DocumentPatch, Version } from '@oxbow/contract';
import type { Cause } from '@oxbow/core/history';
import type { KindName } from '@oxbow/core/kinds';
import { nanoid } from 'nanoid';
import { stillGranted } from '../access/granted.js';
import type { People, Signed } from '../access/people.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import type { View } from '../access/view.js';
import { ownView, wholeShare } from '../access/view.js';
import { Trouble } from '../trouble/trouble.js';
import type { ToldVersions } from '../versions/told-versions.js';
import type { Versions } from '../versions/versions.js';
import type { Collections } from './collections.js';
import { BEING_MADE } from './deletion.js';
import type { Deletion } from './deletion.js';

/** What a document that is to be made is. */
export interface NewDocument {
  readonly title: string;
  readonly collection: string | null;
  /** When it is made, in milliseconds. */
  readonly at: number;
  readonly kind: KindName;
  /** The moment that it begins as: edit `seq` of the document of number `other`, counted from the very beginning. */
  readonly origin?: { readonly other: number; readonly seq: number };
}

/** Makes documents, changes their title and collection, and keeps versions of them. */
export class Documents {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly rooms: Rooms,
    private readonly versions: Versions,
    private readonly told: ToldVersions,
    private readonly collections: Collections,
    private readonly deletion: Deletion,
  ) {}

  /** Makes a document, whose first version is the blank beginning. Throws 422 for a collection that is not to be put into. */
  create(
    person: Signed,
    title: string,
    collection: string | null,
    at = Date.now(),
    kind: KindName = 'text',
  ): Promise<View> {
    return this.make(person, { title, collection, at, kind }, () => Promise.resolve());
  }

  /**
   * Makes a document with what `fill` puts into it, behind the blank beginning as its first version. Nobody sees it before it is whole; when
   * `fill` throws, or the process ends on the way, nothing of it is left. Throws 422 for a collection that is not to be put into.
   */
  make(person: Signed, about: NewDocument, fill: (view: View) => Promise<unknown>): Promise<View> {
    return this.makeWith(person, about, async (view) => {
      await this.versions.cut(view.key, 0, { cause: 'beginning', at: about.at });
      await fill(view);
    });
  }

  /** The same, where the first version is for `fill` to make, too. Every document is made here. */
  async makeWith(
    person: Signed,
    { title, collection, at, kind, origin }: NewDocument,
    fill: (view: View) => Promise<unknown>,
  ): Promise<View> {
    const { documents, shares, origins } = this.database.models;
    if (collection) await this.collections.checkFillable(collection, person);
    const row = {
      id: nanoid(12),
      kind,
      title: title.trim(),
      collection,
      seq: 0,
      createdAt: at,
      changedAt: at,
      changedBy: person.key,
      binned: BEING_MADE,
    };
    const made = await this.database.writes.add(async (transaction) => {
      const document = await documents.create(row, { transaction });
      await shares.create(wholeShare(document.key, person.key, 'owner'), { transaction });
      if (origin) await origins.create({ document: document.key, ...origin }, { transaction });
      return document.get({ plain: true });
    });
    return this.deletion.whileMaking(made.key, async () => {
      try {
        await fill(ownView(made, person.key));
        return await this.show(made.key, person, collection);
      } catch (error) {
        await this.deletion.of(made.key);
        throw error;
      }
    });
  }

  /** Lets a document that was made be seen. */
  private async show(key: number, person: Signed, collection: string | null): Promise<View> {
    const { documents } = this.database.models;
    const row = await this.database.writes.add(async (transaction) => {
      await documents.update({ binned: 0 }, { where: { key }, transaction });
      if (collection) await this.collections.place(key, collection, 0, transaction);
      await this.people.ownership.record([key], transaction);
      return documents.findByPk(key, { raw: true, transaction });
    });
    if (!row) throw new Trouble(404, 'There is no such document');
    return ownView(row, person.key);
  }

  /** Changes title or collection; each is an event of the history. */
  async change(document: View, person: Signed, patch: DocumentPatch, at?: number): Promise<void> {
    const causes: Cause[] = [];
    if (patch.title !== undefined && patch.title.trim() !== document.title)
      causes.push({ kind: 'title', before: document.title, after: patch.title.trim() });
    if (patch.collection !== undefined && patch.collection !== document.collection) {
      if (patch.collection !== null) await this.collections.checkFillable(patch.collection, person);
      causes.push({ kind: 'collection', before: document.collection, after: patch.collection });
    }
    if (causes.length === 0) return;
    const room = await this.rooms.get(document.key);
    const action = patch.collection === undefined ? 'retitle' : 'move';
    await room.compose((head) => ({
      authorize: () => stillGranted(this.people, document, action),
      author: person.key,
      client: this.rooms.own.client,
      base: head.seq,
      edits: causes.map((cause) => ({
        counter: this.rooms.own.next(),
        steps: [],
        sources: [],
        writtenAt: at ?? Date.now(),
        cause,
        at,
      })),
    }));
    const { seq } = await room.storedHead();
    const isLimited = await this.database.writes.add(async (transaction) => {
      const where = { key: document.key };
      if (patch.title !== undefined)
        await this.database.models.documents.update({ title: patch.title.trim() }, { where, transaction });
      if (patch.collection === undefined || patch.collection === document.collection) return false;
      return this.collections.place(document.key, patch.collection, seq, transaction);
    });
    if (isLimited) await this.versions.cut(document.key, seq, { cause: 'share', at: Date.now() });
    if (causes.some(({ kind }) => kind === 'collection'))
      await this.people.standings.changed({ documents: [document.key], people: null, collections: false });
  }

  /** Keeps a version of the present moment. */
  async keep(
    document: View,
    person: Signed,
    options: { comment?: string; major?: boolean; at?: number },
  ): Promise<Version> {
    const { seq } = await (await this.rooms.get(document.key)).storedHead();
    await stillGranted(this.people, document, 'keep');
    const held = await this.told.at(document, seq - document.first);
    if (held)
      throw new Trouble(
        409,
        'This moment is a version already',
        `Version ${held.number} holds exactly this.`,
      );
    const hidden = await this.versions.heldAt(document.key, seq);
    if (hidden)
      throw new Trouble(
        409,
        'The version of this moment was discarded',
        'An owner can put it back; or write something first.',
      );
    const version = await this.versions.cut(document.key, seq, {
      cause: 'asked',
      at: options.at ?? Date.now(),
      comment: options.comment,
      major: options.major,
      by: person.key,
    });
    return this.told.told(document, version);
  }
}
