import type { DocumentSummary } from '@oxbow/contract';
import { Injectable } from '@angular/core';
import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';
import type { Kept } from './kept';

/** A document as it last was on this device, to open without the server. */
export interface Copy {
  readonly person: string;
  readonly document: string;
  /** The last edit in it. */
  readonly seq: number;
  readonly content: unknown;
  readonly about: DocumentSummary;
  /** When it was kept, milliseconds since the epoch. */
  readonly at: number;
}

interface Stores extends DBSchema {
  outbox: { key: string; value: Kept; indexes: { person: string } };
  copies: { key: [person: string, document: string]; value: Copy; indexes: { person: string } };
}

/** What the app keeps on the device, in one database. */
@Injectable({ providedIn: 'root' })
export class Device {
  readonly stores: Promise<IDBPDatabase<Stores>> = openDB<Stores>('oxbow-tide', 3, {
    upgrade(db, before) {
      if (before < 2) {
        if (db.objectStoreNames.contains('outbox')) db.deleteObjectStore('outbox');
        db.createObjectStore('outbox', { keyPath: 'client' }).createIndex('person', 'person');
      }
      if (before < 3)
        db.createObjectStore('copies', { keyPath: ['person', 'document'] }).createIndex('person', 'person');
    },
  });
}
