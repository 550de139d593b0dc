import type { Database } from './database.js';

/** What is known of the data as a whole: `demo` is set where it was made as the demo, `organisation` is whose it is; the rest it decides. */
export type FactName = 'demo' | 'organisation' | 'invites' | 'guests' | 'binDays' | 'secondOwner';

/** Keeps what is known of the data as a whole. */
export class Facts {
  constructor(private readonly database: Database) {}

  /** What was kept under a name, or null. */
  async get(name: FactName): Promise<string | null> {
    return (await this.database.models.facts.findByPk(name, { raw: true }))?.value ?? null;
  }

  async keep(name: FactName, value: string): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.facts.upsert({ name, value }, { transaction }),
    );
  }
}
