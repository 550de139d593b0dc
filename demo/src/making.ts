import { wholeShare } from '@oxbow/server';
import type { App, Room, Signed } from '@oxbow/server';
import { Random } from '@oxbow/core/testing';
import type { KindName } from '@oxbow/core/kinds';
import type { Node } from 'prosemirror-model';
import { Hand } from './hand.js';
import type { PersonId } from './people.js';

export const MINUTE = 60_000;
export const DAY = 24 * 60 * MINUTE;

export type Stored = Awaited<ReturnType<App['documents']['create']>>;

/** What somebody did while they sat at a document: their edits, and when they were done. */
export interface Sat {
  readonly edits: Parameters<Room['submit']>[0]['edits'];
  readonly now: number;
}

/** Where somebody sits down: the document, the edit it is at, when, and the number of their next edit. */
export interface Seat {
  readonly doc: Node;
  readonly seq: number;
  readonly at: number;
  readonly counter: number;
}

/** Ways in which invented people make documents by editing them, up to `now`. */
export class Making {
  private counter = 1;
  readonly people = new Map<PersonId, Signed>();

  constructor(
    readonly app: App,
    readonly now: number,
  ) {}

  person(id: PersonId): Signed {
    return this.people.get(id) as Signed;
  }

  async document(
    title: string,
    collection: string | null,
    owner: PersonId,
    daysAgo: number,
    kind: KindName = 'text',
  ): Promise<Stored> {
    const document = await this.app.documents.create(
      this.person(owner),
      title,
      collection,
      this.now - daysAgo * DAY,
      kind,
    );
    const { shares } = this.app.database.models;
    const others = [...this.people.values()].filter((person) => person.id !== owner);
    await this.app.database.writes.add((transaction) =>
      shares.bulkCreate(
        others.map((person) => wholeShare(document.key, person.key, 'editor')),
        { transaction },
      ),
    );
    return document;
  }

  /** Somebody sits down at a text: their edits are appended as one batch; versions are cut where they paused. */
  async sit(
    document: Stored,
    who: PersonId,
    at: number,
    work: (hand: Hand) => void,
    seed: number | Random,
  ): Promise<number> {
    const random = typeof seed === 'number' ? new Random(seed) : seed;
    return this.sitAt(document, who, at, ({ doc, seq, counter }) => {
      const hand = new Hand(doc, random, at, counter, seq);
      work(hand);
      return hand;
    });
  }

  /** The same at a document of any kind. */
  async sitAt(document: Stored, who: PersonId, at: number, work: (seat: Seat) => Sat): Promise<number> {
    const person = this.person(who);
    const room = await this.app.rooms.get(document.key);
    let end = at;
    await room.compose(({ doc, seq }) => {
      const { edits, now } = work({ doc, seq, at, counter: this.counter });
      this.counter += edits.length;
      end = now;
      return { author: person.key, client: `demo-${who}`, base: seq, edits };
    });
    return end;
  }

  async cut(document: Stored, until: number): Promise<void> {
    await this.app.versions.cutDue(document.key, until);
  }

  /** Puts a name on the last version cut before a day. Answers its last edit. */
  async name(document: Stored, who: PersonId, daysAgo: number, name: string, note: string): Promise<number> {
    const at = this.now - daysAgo * DAY;
    const versions = await this.app.versions.list(document.key, 2 ** 30, 1000);
    const version = versions.find((one) => Number(one.at) <= at) ?? versions[0];
    const seq = version?.seq ?? 0;
    await this.app.landmarks.name(document, this.person(who), seq, { name, note }, at + 3600_000);
    return seq;
  }

  at(daysAgo: number, hour: number): number {
    const day = new Date(this.now - daysAgo * DAY);
    day.setUTCHours(Math.floor(hour), Math.floor((hour % 1) * 60), 0, 0);
    return Math.min(day.getTime(), this.now - 30 * MINUTE);
  }

  /** Somebody notices what happened to a document, and puts the version before the last on top again. */
  async rescue(document: Stored, who: PersonId, at: number, comment: string): Promise<void> {
    const [, good] = await this.app.versions.list(document.key, 2 ** 30, 2);
    if (good) await this.goBack(document, who, at, comment, good);
  }

  /** Somebody puts a version on top again. */
  async goBack(
    document: Stored,
    who: PersonId,
    at: number,
    comment: string,
    { seq, number }: { readonly seq: number; readonly number: number },
  ): Promise<void> {
    await this.app.becoming.become(
      document,
      this.person(who),
      { kind: 'restore', moment: seq, number },
      async () => {
        const doc = await this.app.rooms.moments.open(document.key, seq);
        return { target: doc, from: [{ doc, seq }] };
      },
      { comment, at },
    );
  }
}
