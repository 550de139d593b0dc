import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import type { GaugeBar } from '@oxbow/contract';
import { longerSittings, sittingsOn } from '@oxbow/core/history';
import type { Sitting, Trace } from '@oxbow/core/history';
import type { View } from '../access/view.js';
import type { Database } from '../store/database.js';
import { DocumentCache } from '../store/epochs.js';
import type { Log, StoredEdit } from '../store/log.js';
import { Turns } from '../threads/turns.js';

const pack = promisify(deflate);
const unpack = promisify<Buffer, Buffer>(inflate);

/** Idle time that parts two sittings, and two bars of the small tideline, in milliseconds. */
const [GAP, HALF_DAY] = [10 * 60_000, 12 * 3600_000];
/** Bars of the small tideline. */
const BARS = 60;
/** Sittings, and stretches since somebody looked, kept at hand. */
const [MOST_SITTINGS, MOST_SINCE] = [400_000, 20_000];
/** Edits after which sittings are stored again. */
const EVERY = 500;

/** The sittings of a document up to an edit. Authors by the database's number of them, as text. */
interface Held {
  readonly seq: number;
  readonly sittings: readonly Sitting[];
}

/** Words that others wrote, and in how many sittings. */
export interface Fresh {
  readonly sittings: number;
  readonly people: readonly number[];
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/**
 * What the shelf shows of how each document was written: its small tideline, and what came since somebody looked. Kept in step with
 * the log, edit by edit, so that a word typed costs the same however long the history is.
 */
export class Gauges {
  private readonly held: DocumentCache<Held>;
  /** Edits of a sitting that somebody had looked at in part, by document and the edit they looked to. */
  private readonly since: DocumentCache<{ upTo: number; sittings: readonly Sitting[] }>;
  private readonly stored = new Map<number, number>();
  private readonly turns = new Turns();

  constructor(
    private readonly database: Database,
    private readonly log: Log,
    private readonly report: (error: unknown) => void,
  ) {
    this.held = new DocumentCache(database.epochs, {
      maxSize: MOST_SITTINGS,
      weight: ({ sittings }) => sittings.length + 1,
    });
    this.since = new DocumentCache(database.epochs, { max: MOST_SINCE });
    database.epochs.onRaised((document) => this.stored.delete(document));
  }

  /** Edits of a document became durable. */
  wrote(document: number, edits: readonly StoredEdit[]): void {
    const entry = this.held.entry(document);
    const held = entry.value;
    const [first, last] = [edits[0], edits.at(-1)];
    if (!held || !first || !last) return;
    if (first.seq !== held.seq + 1) {
      this.held.delete(document);
      return;
    }
    const sittings = sittingsOn(held.sittings, edits.map(traceOf), GAP);
    entry.set({ seq: last.seq, sittings });
    if (last.seq - (this.stored.get(document) ?? 0) >= EVERY) this.keep(document).catch(this.report);
  }

  /** Makes the sittings of a document anew when they are next asked for: its log was changed. */
  async forget(document: number): Promise<void> {
    this.database.epochs.raise(document);
    await this.database.writes.add((transaction) =>
      this.database.models.gauges.destroy({ where: { document }, transaction }),
    );
  }

  /** The bars of a document's small tideline, as far as somebody may look back. */
  async bars(view: View, person: (key: number) => string): Promise<GaugeBar[]> {
    if (view.history === 'none') return [];
    return longerSittings(await this.after(view, 0), HALF_DAY)
      .slice(-BARS)
      .map(({ to, shares }) => ({
        at: to,
        shares: shares.map(({ author, wordsIn, wordsOut }) => [person(Number(author)), wordsIn, wordsOut]),
      }));
  }

  /** What others than whose view it is wrote after an edit. */
  async fresh(view: View, after: number): Promise<Fresh> {
    const sittings = view.history === 'none' ? [] : await this.after(view, after);
    const others = sittings.flatMap(({ shares }) => {
      const own = shares.filter(({ author }) => Number(author) !== view.person);
      return own.length > 0 ? [own] : [];
    });
    const all = others.flat();
    return {
      sittings: others.length,
      people: [...new Set(all.map(({ author }) => Number(author)))],
      wordsIn: all.reduce((sum, { wordsIn }) => sum + wordsIn, 0),
      wordsOut: all.reduce((sum, { wordsOut }) => sum + wordsOut, 0),
    };
  }

  /** The last edit that whose view it is made themselves; 0 for none. */
  async lastOf(view: View): Promise<number> {
    const { key: document, first, person } = view;
    const sittings = await this.after(view, 0);
    const sitting = sittings.findLast(({ shares }) => shares.some(({ author }) => Number(author) === person));
    if (!sitting) return 0;
    const [row] = await this.database.rows<{ last: number }>(
      'SELECT MAX(seq) AS last FROM edits WHERE document = :document AND seq BETWEEN :from AND :to AND author = :person',
      { document, from: sitting.first, to: sitting.last, person },
    );
    return Math.max(0, Number(row?.last ?? 0) - first);
  }

  /** Everybody who wrote in what a view tells. */
  async authors(view: View): Promise<ReadonlySet<number>> {
    if (view.history === 'none') return new Set();
    const sittings = await this.after(view, 0);
    return new Set(sittings.flatMap(({ shares }) => shares.map(({ author }) => Number(author))));
  }

  /** The sittings behind an edit of a view, what of one came before it left out. Edits counted from the very beginning. */
  private async after({ key, seq, first }: View, edit: number): Promise<readonly Sitting[]> {
    const after = edit + first;
    const { sittings } = await this.upTo(key, seq + first);
    const later = sittings.filter(({ last }) => last > after);
    const [open] = later;
    if (!open || open.first > after) return later;
    return [...(await this.restOf(key, open, after)), ...later.slice(1)];
  }

  /** What of a sitting came after an edit in its midst. Reads what it does not know of it yet. */
  private async restOf(document: number, sitting: Sitting, after: number): Promise<readonly Sitting[]> {
    const entry = this.since.entry(document, after);
    const known = entry.value ?? { upTo: after, sittings: [] };
    if (known.upTo >= sitting.last) return known.sittings;
    const traces = await this.log.traces(document, String, known.upTo, sitting.last);
    const next = { upTo: sitting.last, sittings: sittingsOn(known.sittings, traces, GAP) };
    entry.set(next);
    return next.sittings;
  }

  private upTo(document: number, seq: number): Promise<Held> {
    const held = this.held.get(document);
    if (held && held.seq >= seq) return Promise.resolve(held);
    return this.turns.take(document, async () => {
      const entry = this.held.entry(document);
      const before = entry.value ?? (await this.read(document));
      if (before.seq >= seq) return before;
      const traces = await this.log.traces(document, String, before.seq, seq);
      const next = { seq, sittings: sittingsOn(before.sittings, traces, GAP) };
      const now = this.held.get(document);
      if (!now || now.seq < seq) entry.set(next);
      if (seq - (this.stored.get(document) ?? 0) >= EVERY) this.keep(document).catch(this.report);
      return next;
    });
  }

  private async read(document: number): Promise<Held> {
    const row = await this.database.models.gauges.findByPk(document, { raw: true });
    if (!row) return { seq: 0, sittings: [] };
    this.stored.set(document, row.seq);
    return { seq: row.seq, sittings: JSON.parse((await unpack(row.sittings)).toString()) as Sitting[] };
  }

  /** Stores the sittings of a document, so that the next start need not read its whole log. */
  private async keep(document: number): Promise<void> {
    const epoch = this.database.epochs.of(document);
    const held = this.held.get(document);
    if (!held) return;
    this.stored.set(document, held.seq);
    const row = { document, seq: held.seq, sittings: await pack(JSON.stringify(held.sittings)) };
    await this.database.writes.add(async (transaction) => {
      if (this.database.epochs.of(document) === epoch)
        await this.database.models.gauges.upsert(row, { transaction });
    });
  }
}

function traceOf({ seq, author, acceptedAt, wordsIn, wordsOut }: StoredEdit): Trace {
  return { seq, at: Number(acceptedAt), author: String(author), wordsIn, wordsOut };
}
