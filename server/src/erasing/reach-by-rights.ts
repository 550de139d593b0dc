import type { HistoryReach, Role } from '@oxbow/contract';
import type { Instances } from '@oxbow/core/erasing';
import { mayErase } from '../access/policy.js';
import type { Database } from '../store/database.js';
import type { Copies, Sets } from './copies.js';

/** Everything that holds the same by origin, by whether whoever erases may erase there. */
export interface Reached {
  readonly own: Map<number, Instances>;
  /** Documents whose owners are asked. */
  readonly others: Map<number, Instances>;
}

/** Finds how far an erasure goes: along copies, but only into documents in which the people who want it may erase. */
export class ReachByRights {
  constructor(
    private readonly database: Database,
    private readonly copies: Copies,
  ) {}

  /** `decided` are documents in which it was decided already that it is erased. */
  async of(sets: Sets, people: readonly number[], decided: ReadonlySet<number>): Promise<Reached> {
    const all = await this.copies.reach(sets);
    const allowed = await this.erasable(people, [...all.keys()]);
    const [own, others] = [new Map<number, Instances>(), new Map<number, Instances>()];
    for (const [document, set] of all)
      (decided.has(document) || allowed.has(document) ? own : others).set(document, set);
    return { own, others };
  }

  /** The collections of some documents whose names one of some people may change, by id. */
  async collections(documents: readonly number[], people: readonly number[]): Promise<string[]> {
    const rows = await this.database.rows<{ collection: string }>(
      `SELECT DISTINCT documents.collection FROM documents JOIN shares ON shares.document = 0
         AND shares.collection = documents.collection AND shares.role = 'owner' AND shares.person IN (:people)
       WHERE documents.key IN (:documents)`,
      { documents: [0, ...documents], people: [-1, ...people] },
    );
    return rows.map(({ collection }) => collection);
  }

  /** Those of some documents, in the bin too, in which one of some people may erase. */
  private async erasable(
    people: readonly number[],
    documents: readonly number[],
  ): Promise<ReadonlySet<number>> {
    const rows = await this.database.rows<{
      document: number;
      role: Role;
      history: HistoryReach;
      first: number;
    }>(
      `SELECT document, role, history, first FROM holdings
       WHERE person IN (:people) AND document IN (:documents)`,
      { documents: [0, ...documents], people: [-1, ...people] },
    );
    return new Set(rows.filter(mayErase).map(({ document }) => document));
  }
}
