import { Injectable, inject } from '@angular/core';
import { Device } from './device';
import type { Copy } from './device';

/** How many documents of a person are kept. */
const MOST = 30;

/** Documents as they last were on this device, so that they open without the server. Nothing of their history is kept. */
@Injectable({ providedIn: 'root' })
export class Copies {
  private readonly device = inject(Device);

  /** Keeps a document in place of what was kept of it; the oldest are let go of. */
  async keep(copy: Copy): Promise<void> {
    const db = await this.device.stores;
    await db.put('copies', copy);
    const all = await this.all(copy.person);
    for (const { person, document } of all.slice(MOST)) await db.delete('copies', [person, document]);
  }

  async of(person: string, document: string): Promise<Copy | null> {
    return (await (await this.device.stores).get('copies', [person, document])) ?? null;
  }

  /** All that are kept for somebody, the last one first. */
  async all(person: string): Promise<Copy[]> {
    const all = await (await this.device.stores).getAllFromIndex('copies', 'person', person);
    return all.sort((a, b) => b.at - a.at);
  }

  /** Lets go of documents in which something was erased since: by how often something was. */
  async heed(
    person: string,
    documents: readonly { readonly id: string; readonly erased: number }[],
  ): Promise<void> {
    const erased = new Map(documents.map((one) => [one.id, one.erased]));
    for (const { document, about } of await this.all(person))
      if ((erased.get(document) ?? about.erased) !== about.erased) await this.drop(person, document);
  }

  /** Lets go of a document, such as one that is not shared any more. */
  async drop(person: string, document: string): Promise<void> {
    await (await this.device.stores).delete('copies', [person, document]);
  }

  /** Lets go of all that was kept for somebody. */
  async dropAll(person: string): Promise<void> {
    for (const { document } of await this.all(person)) await this.drop(person, document);
  }
}
