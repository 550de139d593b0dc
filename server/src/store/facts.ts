import type { Transaction } from 'sequelize';
import type { Database } from './database.js';

/** What is known of the data as a whole: `demo` is set where it was made as the demo, `organisation` is whose it is; `clock` is when the clock was last trusted; the rest it decides. */
export type FactName = 'demo' | 'organisation' | 'invites' | 'guests' | 'binDays' | 'secondOwner' | 'clock';

/** Keeps what is known of the data as a whole. */
export class Facts {
  constructor(private readonly database: Database) {}

  /** What was kept under a name, or null. */
  async get(name: FactName): Promise<string | null> {
    return (await this.database.models.facts.findByPk(name, { raw: true }))?.value ?? null;
  }

  /** Everything that was kept, by name, as part of a transaction where one is given. */
  async all(transaction?: Transaction): Promise<ReadonlyMap<string, string>> {
    const rows = await this.database.models.facts.findAll({ raw: true, transaction });
    return new Map(rows.map(({ name, value }) => [name, value]));
  }

  async keep(name: FactName, value: string): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.facts.upsert({ name, value }, { transaction }),
    );
  }
}
