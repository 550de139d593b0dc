import type { Discard, Version } from '@oxbow/contract';
import type { People, Signed } from '../access/people.js';
import type { View } from '../access/view.js';
import type { Database } from '../store/database.js';
import { Trouble } from '../trouble/trouble.js';
import type { Versions } from './versions.js';

/** Versions that owners put out of sight. What stood there still stands in the log; the number stays taken. */
export class Discards {
  constructor(
    private readonly database: Database,
    private readonly versions: Versions,
    private readonly people: People,
  ) {}

  /** Discards a version. Throws 404 where there is none, and 409 for the beginning. */
  async put(view: View, person: Signed, number: number, at = Date.now()): Promise<void> {
    const row = await this.versions.byNumber(view.key, number);
    if (!row) throw new Trouble(404, 'Unknown version', `There is no version ${number}.`);
    if (row.cause === 'beginning')
      throw new Trouble(409, 'The beginning cannot be discarded', 'Every later version rests on it.');
    await this.mark(view.key, number, at, person.key);
  }

  /** Puts a discarded version back where it stood. Throws 404. */
  async putBack(view: View, number: number): Promise<Version> {
    const row = (await this.rows(view)).find((one) => one.number === number);
    if (!row) throw new Trouble(404, 'Unknown version', `There is no discarded version ${number}.`);
    await this.mark(view.key, number, 0, 0);
    return this.versions.shape(row, (await this.versions.names(view.key)).get(row.seq));
  }

  /** Discarded versions, those discarded last first. */
  async list(view: View): Promise<Discard[]> {
    const names = await this.versions.names(view.key);
    return (await this.rows(view)).map((row): Discard => ({
      version: this.versions.shape(row, names.get(row.seq)),
      at: new Date(Number(row.discarded)).toISOString(),
      by: this.people.id(row.discardedBy),
    }));
  }

  private rows({ key }: View) {
    return this.versions.discarded(key);
  }

  private async mark(
    document: number,
    number: number,
    discarded: number,
    discardedBy: number,
  ): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.versions.update(
        { discarded, discardedBy },
        { where: { document, number }, transaction },
      ),
    );
    this.versions.changed(document);
  }
}
