import { LRUCache } from 'lru-cache';
import type { People } from '../access/people.js';
import type { View } from '../access/view.js';
import type { Database } from '../store/database.js';
import type { StoredEdit } from '../store/log.js';
import { Moments } from '../store/moments.js';
import { Histories } from '../histories/histories.js';
import { Elsewhere } from './elsewhere.js';
import { OwnEdits } from './own-edits.js';
import { Room } from './room.js';
import type { Head } from './room.js';
import { ToldRoom } from './told-room.js';

/** Bytes that open documents may take before the longest unused is closed. */
const BUDGET = 256 * 1024 * 1024;
/** Edits after which a document's provenance is stored again. */
const PROVENANCE_EVERY = 2000;

/** The open documents of this process. Nothing in them is authoritative; any can be closed and read again. */
export class Rooms {
  readonly moments: Moments;
  readonly histories: Histories;
  readonly own = new OwnEdits();
  private readonly elsewhere: Elsewhere;
  private readonly open: LRUCache<number, { room: Promise<Room>; weight: number }>;
  private readonly kept = new Map<number, number>();
  private readonly listeners: ((document: number, edits: readonly StoredEdit[]) => void)[] = [];

  /** `report` hears of trouble with what is only kept to spare work: checkpoints and stored provenance. */
  constructor(
    private readonly database: Database,
    people: People,
    private readonly report: (error: unknown) => void,
  ) {
    this.moments = new Moments(database);
    this.histories = new Histories(database.epochs, this.moments, {
      of: (document) => this.stored(document),
    });
    this.elsewhere = new Elsewhere(database, people, this.histories);
    this.open = new LRUCache({ maxSize: BUDGET, sizeCalculation: ({ weight }) => weight });
  }

  /** Calls `listener` whenever edits of any open document became durable. */
  onAccepted(listener: (document: number, edits: readonly StoredEdit[]) => void): void {
    this.listeners.push(listener);
  }

  /** Lets go of a document that is no more. */
  forget(document: number): void {
    this.open.delete(document);
    this.kept.delete(document);
  }

  get(document: number): Promise<Room> {
    const held = this.open.get(document);
    if (held) return held.room;
    const room = Room.open(document, this.database, this.moments, this.elsewhere, this.report);
    this.open.set(document, { room, weight: 4096 });
    room.then(
      (opened) => {
        opened.onAccepted((edits) => this.accepted(opened, edits));
        this.weigh(opened);
      },
      () => this.open.delete(document),
    );
    return room;
  }

  /** A document as it is stored now. */
  private async stored(document: number): Promise<Head> {
    return (await this.get(document)).storedHead();
  }

  /** An open document as somebody has it. */
  async told(view: View): Promise<ToldRoom> {
    return new ToldRoom(await this.get(view.key), view);
  }

  /** Stores what spares a restarted process work. */
  async close(): Promise<void> {
    for (const { room } of this.open.values()) {
      const opened = await room;
      await opened.settled();
      const { seq, provenance } = opened.head;
      if ((this.kept.get(opened.document) ?? 0) < seq)
        await this.moments.keepProvenance(opened.document, provenance);
    }
  }

  private accepted(room: Room, edits: readonly StoredEdit[]): void {
    for (const listener of this.listeners) listener(room.document, edits);
    const seq = edits.at(-1)?.seq ?? 0;
    const durable = room.head.seq === seq;
    if (durable && seq - (this.kept.get(room.document) ?? 0) >= PROVENANCE_EVERY) {
      this.kept.set(room.document, seq);
      this.moments.keepProvenance(room.document, room.head.provenance).catch(this.report);
      this.weigh(room);
    }
  }

  private weigh(room: Room): void {
    this.open.set(room.document, { room: Promise.resolve(room), weight: room.weight });
  }
}
