import type { DocumentPatch, Version } from '@oxbow/contract';
import type { Cause } from '@oxbow/core/history';
import type { KindName } from '@oxbow/core/kinds';
import { nanoid } from 'nanoid';
import type { People, Signed } from '../access/people.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import type { View } from '../access/view.js';
import { ownView, wholeShare } from '../access/view.js';
import { Trouble } from '../trouble/trouble.js';
import type { ToldVersions } from '../versions/told-versions.js';
import type { Versions } from '../versions/versions.js';
import type { Collections } from './collections.js';

/** Makes documents, changes their title and collection, and keeps versions of them. */
export class Documents {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly rooms: Rooms,
    private readonly versions: Versions,
    private readonly told: ToldVersions,
    private readonly collections: Collections,
  ) {}

  /** Makes a document, whose first version is the blank beginning. Throws 422 for a collection that is not to be put into. */
  async create(
    person: Signed,
    title: string,
    collection: string | null,
    at = Date.now(),
    kind: KindName = 'text',
  ): Promise<View> {
    const { documents, shares } = this.database.models;
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
      binned: 0,
    };
    const made = await this.database.writes.add(async (transaction) => {
      const document = await documents.create(row, { transaction });
      await shares.create(wholeShare(document.key, person.key, 'owner'), { transaction });
      if (collection) await this.collections.place(document.key, collection, 0, transaction);
      await this.people.ownership.record([document.key], transaction);
      return document.get({ plain: true });
    });
    await this.versions.cut(made.key, 0, { cause: 'beginning', at });
    return ownView(made, person.key);
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
    await room.compose((head) => ({
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
    const room = await this.rooms.get(document.key);
    await room.settled();
    const held = await this.told.at(document, room.head.seq - document.first);
    if (held)
      throw new Trouble(
        409,
        'This moment is a version already',
        `Version ${held.number} holds exactly this.`,
      );
    const hidden = await this.versions.heldAt(document.key, room.head.seq);
    if (hidden)
      throw new Trouble(
        409,
        'The version of this moment was discarded',
        'An owner can put it back; or write something first.',
      );
    const version = await this.versions.cut(document.key, room.head.seq, {
      cause: 'asked',
      at: options.at ?? Date.now(),
      comment: options.comment,
      major: options.major,
      by: person.key,
    });
    return this.told.told(document, version);
  }
}
