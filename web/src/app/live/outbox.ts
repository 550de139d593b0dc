import { Injectable } from '@angular/core';
import type { EditsMessage } from '@oxbow/contract';
import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';

/**
 * How it stood with unsent work when it was last kept: on its way, with the server away, held back on purpose, checked out,
 * or set aside because the document does not take it any more.
 */
export type Standing = 'sending' | 'away' | 'held' | 'out' | 'ended';

/** What one open window of one person still has to send in one document. */
export interface Kept {
  readonly client: string;
  readonly person: string;
  readonly message: EditsMessage;
  readonly standing: Standing;
  /** Title of the document. */
  readonly title: string;
  /** When it was last kept, milliseconds since the epoch. */
  readonly at: number;
}

interface Boxes extends DBSchema {
  outbox: { key: string; value: Kept; indexes: { person: string } };
}

/** Keeps what is not acknowledged on the device, so that a closed tab or a dead machine loses nothing. */
@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly db: Promise<IDBPDatabase<Boxes>> = openDB<Boxes>('oxbow-tide', 2, {
    upgrade(db) {
      if (db.objectStoreNames.contains('outbox')) db.deleteObjectStore('outbox');
      db.createObjectStore('outbox', { keyPath: 'client' }).createIndex('person', 'person');
    },
  });

  /** Keeps a window's unacknowledged edits, in place of those kept before; none clears them. */
  async keep(kept: Kept): Promise<void> {
    const db = await this.db;
    if (kept.message.edits.length === 0) await db.delete('outbox', kept.client);
    else await db.put('outbox', kept);
  }

  async clear(client: string): Promise<void> {
    await (await this.db).delete('outbox', client);
  }

  /** Keeps a window's edits, and drops those of another that went into them, at once. */
  async takeOver(from: string, kept: Kept): Promise<void> {
    const boxes = (await this.db).transaction('outbox', 'readwrite');
    await Promise.all([boxes.store.put(kept), boxes.store.delete(from), boxes.done]);
  }

  /** What windows of this person that are gone have left behind, latest first. A window alive holds a lock of its name. */
  async stranded(person: string, document?: string): Promise<Kept[]> {
    const all = await (await this.db).getAllFromIndex('outbox', 'person', person);
    const held = new Set((await navigator.locks.query()).held?.map((lock) => lock.name));
    return all
      .filter((kept) => document === undefined || kept.message.document === document)
      .filter((kept) => !held.has(lockName(kept.client)))
      .sort((a, b) => b.at - a.at);
  }

  /** Says, for as long as this window lives, that its box is in use. Null when another window was faster. */
  claim(client: string): Promise<(() => void) | null> {
    return new Promise((claimed) => {
      void navigator.locks.request(lockName(client), { ifAvailable: true }, (lock) => {
        if (!lock) return claimed(null);
        return new Promise<void>((release) => claimed(() => release()));
      });
    });
  }
}

function lockName(client: string): string {
  return `oxbow-window-${client}`;
}
