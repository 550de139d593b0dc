import { DestroyRef, Injectable, inject } from '@angular/core';
import { Device } from './device';
import type { Kept } from './kept';

/** What a page that went away had not stored yet lies under this name and its client's, until it is found again. */
const PARTING = 'oxbow-parting:';

/**
 * Keeps what is not acknowledged on the device, so that a closed tab or a dead machine loses nothing. Of a window's states
 * that come faster than they are stored only the last is; one that is not stored when the page goes is set down at once.
 */
@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly db = inject(Device).stores;
  private readonly waiting = new Map<string, Kept>();

  constructor() {
    const parting = (): void => this.part();
    window.addEventListener('pagehide', parting);
    inject(DestroyRef).onDestroy(() => window.removeEventListener('pagehide', parting));
  }

  /** Keeps a window's unacknowledged edits, in place of those kept before; none clears them. */
  async keep(kept: Kept): Promise<void> {
    const { client } = kept;
    const underWay = this.waiting.has(client);
    this.waiting.set(client, kept);
    if (underWay) return;
    try {
      for (let latest: Kept | undefined = kept; latest; latest = this.waiting.get(client)) {
        await this.store(latest);
        if (this.waiting.get(client) === latest) this.waiting.delete(client);
      }
    } catch (error) {
      this.waiting.delete(client);
      throw error;
    }
  }

  async clear(client: string): Promise<void> {
    this.waiting.delete(client);
    await (await this.db).delete('outbox', client);
  }

  /** Keeps a window's edits, and drops those of another that went into them, at once. */
  async takeOver(from: string, kept: Kept): Promise<void> {
    for (const client of [from, kept.client]) this.waiting.delete(client);
    const boxes = (await this.db).transaction('outbox', 'readwrite');
    await Promise.all([boxes.store.put(kept), boxes.store.delete(from), boxes.done]);
  }

  /** What windows of this person that are gone have left behind, latest first. A window alive holds a lock of its name. */
  async stranded(person: string, document?: string): Promise<Kept[]> {
    await this.gather();
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

  private async store(kept: Kept): Promise<void> {
    const db = await this.db;
    if (kept.message.edits.length === 0) await db.delete('outbox', kept.client);
    else await db.put('outbox', kept);
    localStorage.removeItem(PARTING + kept.client);
  }

  /** The page goes: what is not stored yet is set down where that takes no waiting, as far as there is room. */
  private part(): void {
    for (const kept of this.waiting.values())
      try {
        localStorage.setItem(PARTING + kept.client, JSON.stringify(kept));
      } catch (error) {
        if (!(error instanceof DOMException)) throw error;
      }
  }

  /** Stores what pages set down as they went. */
  private async gather(): Promise<void> {
    for (const name of Object.keys(localStorage).filter((key) => key.startsWith(PARTING))) {
      const kept = JSON.parse(localStorage.getItem(name) ?? 'null') as Kept | null;
      if (kept) await this.store(kept);
    }
  }
}

function lockName(client: string): string {
  return `oxbow-window-${client}`;
}
