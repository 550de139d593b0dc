import type { Sequelize } from 'sequelize';
import { Transaction } from 'sequelize';

/** A piece of work inside a write transaction. */
export type Write<T> = (transaction: Transaction) => Promise<T>;

/** Work of one kind that is cheaper done together, and durable by itself: `run` does several items at once, or none of them. */
export interface Together<T> {
  /** How much of it is done at once, by what its items weigh. */
  readonly most: number;
  weight(item: T): number;
  run(items: readonly T[]): Promise<void>;
}

interface Alone {
  readonly act: () => Promise<void>;
  readonly done: () => void;
  readonly failed: (error: unknown) => void;
}

interface Waiting {
  readonly run: Write<unknown>;
  readonly done: (value: unknown) => void;
  readonly failed: (error: unknown) => void;
}

/** An item of a kind of work that is done together. */
interface Item {
  readonly item: unknown;
  readonly done: () => void;
  readonly failed: (error: unknown) => void;
}

/** Most pieces of other work committed together. */
const GROUP = 4;

/**
 * All writes of a process, one after the other. What is of a kind that is done together goes as much at once as it allows; in turn with
 * those the rest is committed in small groups, so that none waits for more than one turn of each other. When one piece of a
 * group fails, nothing of it is done, and its pieces are tried one by one. A promise resolves only after its work is durable.
 */
export class WriteQueue {
  private waiting: Waiting[] = [];
  private alone: Alone[] = [];
  private readonly kinds = new Map<Together<unknown>, Item[]>();
  private running: Promise<void> | null = null;

  constructor(private readonly sequelize: Sequelize) {}

  /** Adds a piece of work; answers what it answered, once that is durable. */
  add<T>(run: Write<T>): Promise<T> {
    return new Promise<T>((done, failed) => {
      this.waiting.push({ run, done: done as (value: unknown) => void, failed });
      this.running ??= this.drain();
    });
  }

  /** Adds an item that is done together with others of its kind. */
  join<T>(kind: Together<T>, item: T): Promise<void> {
    return new Promise((done, failed) => {
      const items = this.kinds.get(kind as Together<unknown>) ?? [];
      items.push({ item, done, failed });
      this.kinds.set(kind as Together<unknown>, items);
      this.running ??= this.drain();
    });
  }

  /** Adds work on the files themselves, that no transaction may be open for; all that comes after waits for it. */
  between(act: () => Promise<void>): Promise<void> {
    return new Promise((done, failed) => {
      this.alone.push({ act, done, failed });
      this.running ??= this.drain();
    });
  }

  /** Resolves when nothing waits any more. */
  async idle(): Promise<void> {
    while (this.running) await this.running;
  }

  private async drain(): Promise<void> {
    await Promise.resolve();
    for (;;) {
      const kinds = [...this.kinds].filter(([, items]) => items.length > 0);
      if (kinds.length === 0 && this.waiting.length === 0 && this.alone.length === 0) break;
      for (const [kind, items] of kinds)
        await doneInParts(firstOf(items, kind), (some) => runTogether(kind, some));
      if (this.waiting.length > 0)
        await doneInParts(this.waiting.splice(0, GROUP), (some) => this.commit(some));
      for (const { act, done, failed } of this.alone.splice(0)) await act().then(done, failed);
    }
    this.running = null;
  }

  private async commit(group: readonly Waiting[]): Promise<void> {
    const values = await this.sequelize.transaction(
      { type: Transaction.TYPES.IMMEDIATE },
      async (transaction) => {
        const out: unknown[] = [];
        for (const { run } of group) out.push(await run(transaction));
        return out;
      },
    );
    group.forEach(({ done }, i) => done(values[i]));
  }
}

/** Takes the first of some items off, as much as is done at once, but one at least. */
function firstOf(items: Item[], { most, weight }: Together<unknown>): Item[] {
  let [count, sum] = [0, 0];
  for (const { item } of items) {
    sum += weight(item);
    if (count > 0 && sum > most) break;
    count++;
  }
  return items.splice(0, count);
}

async function runTogether(kind: Together<unknown>, items: readonly Item[]): Promise<void> {
  await kind.run(items.map(({ item }) => item));
  for (const { done } of items) done();
}

/** Does a group at once, or, when that fails, each of its pieces by itself. */
async function doneInParts<T extends { readonly failed: (error: unknown) => void }>(
  group: readonly T[],
  run: (some: readonly T[]) => Promise<void>,
): Promise<void> {
  try {
    await run(group);
  } catch (error) {
    const [only] = group;
    if (group.length === 1) only?.failed(error);
    else for (const one of group) await doneInParts([one], run);
  }
}
