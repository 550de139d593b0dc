import { LRUCache } from 'lru-cache';
import type { StepMap } from 'prosemirror-transform';
import type { Log, MappedEdit } from '../store/log.js';
import type { Slices } from '../threads/slices.js';
import type { Batch } from './batch.js';

/** Clients whose highest counter is known without asking the log. */
const MOST_CLIENTS = 2000;
/** Stored edits whose maps are kept for carrying stale ones over; older ones are read from the log. Those not stored yet are all kept. */
const TAIL = 512;

/** What was accepted last in one document: at hand for what came since a moment, and for what is sent twice; the log is asked for the rest. */
export class Recent {
  private tail: MappedEdit[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly highest = new LRUCache<string, number>({ max: MOST_CLIENTS });

  constructor(
    private readonly document: number,
    private readonly log: Log,
  ) {}

  /** Rough bytes that it holds in memory. */
  get weight(): number {
    return this.tail.length * 400;
  }

  /** Takes in an edit that was just ordered, on top of all others; `durable` is the last one that is stored. */
  note(
    { client, counter, seq, maps }: MappedEdit & { client: string; counter: number },
    durable: number,
  ): void {
    this.tail.push({ seq, maps });
    const waiting = seq - durable;
    const spare = this.tail.length - Math.max(TAIL, waiting);
    if (spare > 0) this.tail.splice(0, spare);
    this.numbers.set(`${client} ${counter}`, seq);
    this.highest.set(client, Math.max(counter, this.highest.get(client) ?? -1));
    for (const [name, number] of this.numbers) {
      if (this.numbers.size <= 4 * TAIL || number > durable) break;
      this.numbers.delete(name);
    }
  }

  /** Forgets all: the log is not what it was. */
  clear(): void {
    this.tail = [];
    this.numbers.clear();
    this.highest.clear();
  }

  /** The number that an edit of a client's got, if it was accepted lately. */
  seqOf(client: string, counter: number): number | undefined {
    return this.numbers.get(`${client} ${counter}`);
  }

  /** Which edits of a batch were accepted before, by counter. A counter above all that a client has had accepted is new. */
  async alreadyAccepted({ client, edits }: Batch): Promise<Map<number, number>> {
    if (!this.highest.has(client)) {
      const last = await this.log.lastCounter(this.document, client);
      this.highest.set(client, Math.max(last, this.highest.get(client) ?? -1));
    }
    const highest = this.highest.get(client) ?? -1;
    const known = new Map<number, number>();
    const ask: number[] = [];
    for (const { counter } of edits) {
      const seq = this.seqOf(client, counter);
      if (seq !== undefined) known.set(counter, seq);
      else if (counter <= highest) ask.push(counter);
    }
    if (ask.length > 0)
      for (const row of await this.log.byCounter(this.document, client, ask)) known.set(row.counter, row.seq);
    return known;
  }

  /** What was accepted since an edit, up to the last one, as far as positions are concerned. */
  async since(base: number, last: number, slices: Slices): Promise<MappedEdit[]> {
    const recent = this.tail.filter(({ seq }) => seq > base);
    const first = recent[0]?.seq ?? last + 1;
    const older = first > base + 1 ? await this.log.maps(this.document, base, first - 1, slices) : [];
    return [...older, ...recent];
  }

  /** How positions went on since an edit, up to the last one; null where not all of it is at hand. */
  mapsSince(base: number, last: number): StepMap[] | null {
    const recent = this.tail.filter(({ seq }) => seq > base);
    if (base > last || (base < last && recent[0]?.seq !== base + 1)) return null;
    return recent.flatMap(({ maps }) => [...maps]);
  }
}
