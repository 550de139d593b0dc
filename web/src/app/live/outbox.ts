import { Injectable } from '@angular/core';
import type { EditsMessage } from '@oxbow/contract';
import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';

/** What one open window of one person still has to send in one document. */
export interface Kept {
  readonly client: string;
  readonly person: string;
  readonly message: EditsMessage;
}

interface Boxes extends DBSchema {
  outbox: { key: string; value: Kept; indexes: { document: [string, string] } };
}

/** Keeps what is not acknowledged on the device, so that a closed tab or a dead machine loses nothing. */
@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly db: Promise<IDBPDatabase<Boxes>> = openDB<Boxes>('oxbow-tide', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'client' }).createIndex('document', [
        'person',
        'message.document',
      ]);
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

  /** What windows of this person that are gone have left behind in a document. A window alive holds a lock of its name. */
  async stranded(person: string, document: string): Promise<Kept[]> {
    const all = await (await this.db).getAllFromIndex('outbox', 'document', [person, document]);
    const held = new Set((await navigator.locks.query()).held?.map((lock) => lock.name));
    return all.filter((kept) => !held.has(lockName(kept.client)));
  }

  /** Says, for as long as this window lives, that its box is in use. */
  claim(client: string): () => void {
    let release: () => void = () => undefined;
    const gone = new Promise<void>((resolve) => (release = resolve));
    void navigator.locks.request(lockName(client), () => gone);
    return release;
  }
}

function lockName(client: string): string {
  return `oxbow-window-${client}`;
}
