import type { Look } from '@oxbow/contract';
import type { View } from '../access/view.js';
import type { Database } from '../store/database.js';
import type { Gauges } from './gauges.js';

/** How far each person has looked at each document. Kept by edits counted from the very beginning. */
export class Looks {
  constructor(
    private readonly database: Database,
    private readonly gauges: Gauges,
  ) {}

  /** How far somebody has looked. Before their first look that is what they wrote last themselves. */
  async get(view: View): Promise<Look> {
    const { key, first, person } = view;
    const where = { document: key, person };
    const row = await this.database.models.looks.findOne({ where, raw: true });
    if (!row) return { seq: await this.gauges.lastOf(view), at: null, upTo: 0, seen: [] };
    return {
      seq: Math.max(0, row.seq - first),
      at: new Date(Math.max(Number(row.at), view.since ?? 0)).toISOString(),
      upTo: Math.max(0, row.upTo - first),
      seen: row.upTo > first ? (JSON.parse(row.seen) as number[]) : [],
    };
  }

  /** Remembers how far somebody has looked; a look never goes back. */
  async keep(
    view: View,
    { seq, upTo = 0, seen = [] }: { seq: number; upTo?: number; seen?: readonly number[] },
    at = Date.now(),
  ): Promise<Look> {
    const before = await this.get(view);
    const row = {
      document: view.key,
      person: view.person,
      seq: Math.min(view.seq, Math.max(before.seq, seq)) + view.first,
      at,
      upTo: Math.min(view.seq, upTo) + view.first,
      seen: JSON.stringify(seen),
    };
    await this.database.writes.add((transaction) => this.database.models.looks.upsert(row, { transaction }));
    return this.get(view);
  }
}
