import type { Sequelize } from 'sequelize';
import { Transaction } from 'sequelize';

/** A piece of work inside a write transaction. */
export type Write<T> = (transaction: Transaction) => Promise<T>;

/** Work of one kind that is cheaper done together: `run` does several items in one transaction and answers for each. */
export interface Batch<T, R> {
  run(items: readonly T[], transaction: Transaction): Promise<readonly R[]>;
}

interface Waiting {
  readonly batch: Batch<unknown, unknown>;
  readonly item: unknown;
  readonly done: (value: unknown) => void;
  readonly failed: (error: unknown) => void;
}

/** Most pieces of work committed together. */
const GROUP = 256;

/** Pieces of work that have nothing in common but their transaction. */
const each: Batch<Write<unknown>, unknown> = {
  async run(items, transaction) {
    const values: unknown[] = [];
    for (const item of items) values.push(await item(transaction));
    return values;
  },
};

/**
 * All writes of a process, in order, one transaction at a time. Whatever waits is committed in one group, so the cost of
 * making it durable is shared; when one piece fails, the group is rolled back and its pieces are tried one by one.
 * A promise resolves only after its transaction is committed.
 */
export class WriteQueue {
  private waiting: Waiting[] = [];
  private running: Promise<void> | null = null;

  constructor(private readonly sequelize: Sequelize) {}

  /** Adds a piece of work; answers what it answered, once that is durable. */
  add<T>(run: Write<T>): Promise<T> {
    return this.join(each as Batch<Write<T>, T>, run);
  }

  /** Adds an item that is done together with its neighbours of the same kind. */
  join<T, R>(batch: Batch<T, R>, item: T): Promise<R> {
    const promise = new Promise<R>((done, failed) => {
      this.waiting.push({
        batch: batch as Batch<unknown, unknown>,
        item,
        done: done as (value: unknown) => void,
        failed,
      });
    });
    this.running ??= this.drain();
    return promise;
  }

  /** Resolves when nothing waits any more. */
  async idle(): Promise<void> {
    while (this.running) await this.running;
  }

  private async drain(): Promise<void> {
    await Promise.resolve();
    while (this.waiting.length > 0) {
      const group = this.waiting.splice(0, GROUP);
      if (group.length === 1 || !(await this.commit(group)))
        for (const item of group) await this.commit([item], true);
    }
    this.running = null;
  }

  private async commit(group: readonly Waiting[], last = false): Promise<boolean> {
    try {
      const values = await this.sequelize.transaction(
        { type: Transaction.TYPES.IMMEDIATE },
        async (transaction) => {
          const out: unknown[] = [];
          for (let i = 0; i < group.length;) {
            const { batch } = group[i] as Waiting;
            let end = i;
            while (group[end]?.batch === batch) end++;
            out.push(
              ...(await batch.run(
                group.slice(i, end).map(({ item }) => item),
                transaction,
              )),
            );
            i = end;
          }
          return out;
        },
      );
      group.forEach((item, i) => item.done(values[i]));
      return true;
    } catch (error) {
      if (last) for (const item of group) item.failed(error);
      return false;
    }
  }
}
