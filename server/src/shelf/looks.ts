import type { DocumentSummary, Look } from '@oxbow/contract';
import type { Trace } from '@oxbow/core/history';
import { sittings } from '@oxbow/core/history';
import type { Signed } from '../access/people.js';
import type { Database } from '../store/database.js';
import type { StoredDocument } from '../store/models.js';

/** Idle time that parts two sittings of what is new. */
const GAP = 10 * 60_000;

/** How far each person has looked at each document. */
export class Looks {
  constructor(private readonly database: Database) {}

  /** How far somebody has looked. Before their first look that is what they wrote last themselves. */
  async get(document: StoredDocument, person: Signed): Promise<Look> {
    const row = await this.database.models.looks.findOne({
      where: { document: document.key, person: person.key },
      raw: true,
    });
    if (!row) return { seq: await this.lastOwn(document, person), at: null, upTo: 0, seen: [] };
    return {
      seq: row.seq,
      at: new Date(Number(row.at)).toISOString(),
      upTo: row.upTo,
      seen: JSON.parse(row.seen) as number[],
    };
  }

  private async lastOwn(document: StoredDocument, person: Signed): Promise<number> {
    const last = await this.database.models.edits.findOne({
      where: { document: document.key, author: person.key },
      attributes: ['seq'],
      order: [['seq', 'DESC']],
      raw: true,
    });
    return last?.seq ?? 0;
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

  /** What others wrote since somebody last looked, in short. */
  fresh(traces: readonly Trace[], person: Signed, { seq }: Pick<Look, 'seq'>): DocumentSummary['fresh'] {
    const others = traces.filter((trace) => trace.seq > seq && trace.author !== person.id);
    const sum = (side: 'wordsIn' | 'wordsOut'): number =>
      others.reduce((total, trace) => total + trace[side], 0);
    return {
      sittings: sittings(others, GAP).length,
      people: [...new Set(others.map(({ author }) => author))],
      wordsIn: sum('wordsIn'),
      wordsOut: sum('wordsOut'),
    };
  }
}
