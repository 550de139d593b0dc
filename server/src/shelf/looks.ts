import type { Look } from '@oxbow/contract';
import type { Signed } from '../access/people.js';
import type { Database } from '../store/database.js';
import type { Gauges } from './gauges.js';
import type { StoredDocument } from '../store/models.js';

/** How far each person has looked at each document. */
export class Looks {
  constructor(
    private readonly database: Database,
    private readonly gauges: Gauges,
  ) {}

  /** How far somebody has looked. Before their first look that is what they wrote last themselves. */
  async get(document: StoredDocument, person: Signed): Promise<Look> {
    const row = await this.database.models.looks.findOne({
      where: { document: document.key, person: person.key },
      raw: true,
    });
    if (!row)
      return {
        seq: await this.gauges.lastOf(document.key, document.seq, person.key),
        at: null,
        upTo: 0,
        seen: [],
      };
    return {
      seq: row.seq,
      at: new Date(Number(row.at)).toISOString(),
      upTo: row.upTo,
      seen: JSON.parse(row.seen) as number[],
    };
  }

  /** Remembers how far somebody has looked; a look never goes back. */
  async keep(
    document: StoredDocument,
    person: Signed,
    { seq, upTo = 0, seen = [] }: { seq: number; upTo?: number; seen?: readonly number[] },
    at = Date.now(),
  ): Promise<Look> {
    const before = await this.get(document, person);
    const row = {
      document: document.key,
      person: person.key,
      seq: Math.min(document.seq, Math.max(before.seq, seq)),
      at,
      upTo: Math.min(document.seq, upTo),
      seen: JSON.stringify(seen),
    };
    await this.database.writes.add((transaction) => this.database.models.looks.upsert(row, { transaction }));
    return this.get(document, person);
  }
}
