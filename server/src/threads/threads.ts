import { AsyncLocalStorage } from 'node:async_hooks';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { Trouble } from '../trouble/trouble.js';

/** How many threads a kind of work has: one core is left to those who write. */
const THREADS = Math.max(1, Math.min(4, availableParallelism() - 1));
/** How long an idle thread waits for more, in milliseconds. */
const IDLE = 30_000;
/** How much may wait for a thread: in all, and of what one person asked for. */
const MOST_WAITING = 400;
const MOST_WAITING_EACH = 40;

/** Who the call under way is for; what is for nobody is the server's own. */
const asking = new AsyncLocalStorage<number>();

/** Runs a call for somebody, so that the work it leads to takes its turn among that of others. */
export function onBehalfOf<T>(person: number, act: () => T): T {
  return asking.run(person, act);
}

/** Bounds on a piece of work. */
export interface Bounds {
  /** Milliseconds it may take once it has begun. */
  readonly longest: number;
  /** Breaks it off when whoever asked has gone. */
  readonly signal?: AbortSignal;
}

/** A piece of work took longer than it may. */
export class TooLong extends Error {
  constructor() {
    super('It took too long, so it was given up');
    this.name = 'TooLong';
  }
}

interface Waiting {
  readonly begin: () => void;
  readonly signal?: AbortSignal;
}

/**
 * Threads that run a task file for what takes long, made when there is something to do. People take turns: whoever asks
 * for much waits behind their own, not others behind them. With a bound of memory in megabytes, if one is given.
 */
export class Threads<Task, Done> {
  private readonly pool: Piscina<Task, Done>;
  private readonly lines = new Map<number, Waiting[]>();
  private waiting = 0;
  private busy = 0;

  constructor(
    file: URL,
    mostMemory?: number,
    private readonly threads = THREADS,
  ) {
    this.pool = new Piscina<Task, Done>({
      filename: file.href,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: IDLE,
      ...(mostMemory ? { resourceLimits: { maxOldGenerationSizeMb: mostMemory } } : {}),
    });
  }

  /** Runs a task in its turn. Throws `TooLong`, 503 where too much waits already, and an `AbortError` when it is broken off. */
  async run(task: Task, { longest, signal }: Bounds): Promise<Done> {
    await this.turn(signal);
    const ends = AbortSignal.timeout(longest);
    try {
      return await this.pool.run(task, { signal: signal ? AbortSignal.any([signal, ends]) : ends });
    } catch (error) {
      throw ends.aborted ? new TooLong() : error;
    } finally {
      this.busy--;
      this.next();
    }
  }

  async close(): Promise<void> {
    await this.pool.close({ force: true });
  }

  private turn(signal?: AbortSignal): Promise<void> {
    const person = asking.getStore() ?? 0;
    const line = this.lines.get(person) ?? [];
    if (this.waiting >= MOST_WAITING || (person !== 0 && line.length >= MOST_WAITING_EACH))
      throw new Trouble(503, 'Too much is being worked on', 'Please try again in a moment.');
    return new Promise((resolve, reject) => {
      line.push({
        signal,
        begin: () => (signal?.aborted ? reject(signal.reason as Error) : resolve()),
      });
      this.lines.set(person, line);
      this.waiting++;
      this.next();
    });
  }

  /** Lets the line that waited longest since its last turn go on. */
  private next(): void {
    while (this.busy < this.threads) {
      const [first] = this.lines;
      if (!first) return;
      const [person, line] = first;
      const one = line.shift();
      this.lines.delete(person);
      if (line.length > 0) this.lines.set(person, line);
      if (!one) continue;
      this.waiting--;
      if (!one.signal?.aborted) this.busy++;
      one.begin();
    }
  }
}
