import { tellJson } from '@oxbow/core/content';
import { kindOf } from '@oxbow/core/kinds';
import {
  Ordering,
  REPLAY_BUDGET,
  Refusal,
  appendEdit,
  earnedSources,
  mapsOf,
  replayCost,
  tallyStep,
} from '@oxbow/core/history';
import type { Proposal, Provenance, Quote, Source } from '@oxbow/core/history';
import { Mutex } from 'async-mutex';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Database } from '../store/database.js';
import { HeadMoved } from '../store/log.js';
import type { StoredEdit } from '../store/log.js';
import type { Moments } from '../store/moments.js';
import { Slices } from '../threads/slices.js';
import { Trouble } from '../trouble/trouble.js';
import type { Batch, Wanted } from './batch.js';
import type { Elsewhere } from './elsewhere.js';
import { Recent } from './recent.js';
import { proposalsOf } from './sources.js';

/** What became of one wanted edit. */
export interface Result {
  readonly counter: number;
  readonly seq: number | null;
  readonly refusal?: Refusal;
}

/** A present document with everything needed to take the next edit. */
export interface Head {
  readonly doc: Node;
  readonly seq: number;
  readonly provenance: Provenance;
}

const RETRIES = 8;
/** How deep blocks stand in the JSON of steps. */
const BLOCKS = 5;

/** Edits that may be ordered ahead of what is stored: beyond these, ordering waits for the storing. */
const MOST_AHEAD = 4000;

/** A base that the document has not reached. */
export class FutureBase extends Refusal {
  constructor(seq: number) {
    super('base', `lies in the future: the document has ${seq} edits`);
  }
}

/** A batch that is being ordered, part by part. */
interface Progress {
  readonly batch: Batch;
  readonly ordering: Ordering;
  /** Its edits that are still to be ordered. */
  left: readonly Wanted[];
  /** The last edit that its ordering has taken in. */
  at: number;
  readonly outcomes: Map<number, Result>;
  readonly stored: Promise<unknown>[];
}

/** An edit as it was ordered: its steps, what they quote, and the document after each. */
interface Ordered {
  readonly steps: readonly Step[];
  readonly sources: readonly Quote[];
  readonly docs: readonly Node[];
}

/** A document as it was at one moment, to be kept so that moments after it open quickly. */
interface Checkpoint {
  readonly seq: number;
  readonly doc: Node;
}

/** Steps of one batch that are ordered in one turn of the room, if it has several edits. */
const PART = 100;

/** The first edits of a batch, as many as one turn takes. */
function partOf(edits: readonly Wanted[]): Wanted[] {
  let [count, steps] = [0, 0];
  for (const edit of edits) {
    steps += edit.steps.length;
    if (count > 0 && steps > PART) break;
    count++;
  }
  return edits.slice(0, count);
}

/** A base so far back that carrying would keep others waiting: whoever wrote it carries it themselves. */
export class FarBehind extends Trouble {
  constructor() {
    super(
      409,
      'Fetch what came since first',
      'So much was written meanwhile that this must be sent anew (carriedMaps).',
      [{ path: 'base', message: 'lies too far back' }],
    );
  }
}

/**
 * One open document: it orders edits, has them stored, and tells its listeners once they are durable. Ordering runs
 * ahead of storing, so that many edits share one commit; when a store fails, the room goes back to what is stored.
 */
export class Room {
  private readonly turn = new Mutex();
  private storing: Promise<unknown> = Promise.resolve();
  private keeping: Promise<unknown> = Promise.resolve();
  private readonly recent: Recent;
  private doc: Node;
  private provenance: Provenance;
  private seq: number;
  private lastAt: number;
  private announced: number;
  private generation = 0;
  private cost = 0;
  private listeners: ((edits: readonly StoredEdit[]) => void)[] = [];

  private constructor(
    readonly document: number,
    private readonly database: Database,
    private readonly moments: Moments,
    private readonly elsewhere: Elsewhere,
    head: Head & { at: number },
    private readonly report: (error: unknown) => void,
  ) {
    this.doc = head.doc;
    this.provenance = head.provenance;
    this.seq = head.seq;
    this.announced = head.seq;
    this.lastAt = head.at;
    this.recent = new Recent(document, moments.log);
  }

  /** Opens a document; `report` hears of trouble with what is only kept to spare work, such as a checkpoint. */
  static async open(
    document: number,
    database: Database,
    moments: Moments,
    elsewhere: Elsewhere,
    report: (error: unknown) => void,
  ): Promise<Room> {
    const head = await readHead(document, database, moments);
    return new Room(document, database, moments, elsewhere, head, report);
  }

  /** The document as of the last ordered edit. */
  get head(): Head {
    return { doc: this.doc, seq: this.seq, provenance: this.provenance };
  }

  /** The same, once all of it is stored; where storing fails, what is stored. */
  async storedHead(): Promise<Head> {
    for (;;) {
      const { head, generation } = this;
      try {
        await this.storing;
        return head;
      } catch {
        await this.turn.runExclusive(() => this.reload(generation));
      }
    }
  }

  /** The last edit that is stored. */
  get durable(): number {
    return this.announced;
  }

  /** Rough bytes this room holds in memory. */
  get weight(): number {
    return this.doc.content.size * 8 + this.provenance.runs.size * 24 + this.recent.weight + 4096;
  }

  /** Calls `listener` with every batch of edits once they are durable, in order. */
  onAccepted(listener: (edits: readonly StoredEdit[]) => void): void {
    this.listeners.push(listener);
  }

  /**
   * Orders a batch and answers when it is durable. A batch sent again is answered as before, nothing is doubled.
   * Throws `Refusal` when the message as a whole cannot be taken.
   */
  submit(batch: Batch): Promise<Result[]> {
    return this.ordered(() => this.begin(batch));
  }

  /** As `submit`, with the batch made from the head in the room's own turn, so that nothing comes before its first edits. */
  compose(make: (head: Head) => Batch | Promise<Batch>): Promise<Result[]> {
    return this.ordered((generation) =>
      this.turn.runExclusive(async () => {
        const progress = await this.begin(await make(this.head));
        await this.order(progress, generation);
        return progress;
      }),
    );
  }

  /** Orders what was begun, a large batch in several turns, so that others who write are not kept waiting. */
  private async ordered(begin: (generation: number) => Promise<Progress>): Promise<Result[]> {
    for (let attempt = 1; ; attempt++) {
      const generation = this.generation;
      try {
        const progress = await begin(generation);
        while (progress.left.length > 0) await this.turn.runExclusive(() => this.order(progress, generation));
        await Promise.all(progress.stored);
        return progress.batch.edits.map(
          ({ counter }): Result => progress.outcomes.get(counter) ?? { counter, seq: null },
        );
      } catch (error) {
        if (error instanceof Refusal || error instanceof Trouble) throw error;
        await this.turn.runExclusive(() => this.reload(generation));
        if (!(error instanceof HeadMoved)) throw error;
        if (attempt === RETRIES) throw error;
      }
    }
  }

  /** The steps of some edits with what they bring of erased text erased in them too; of one whose sources do not hold, as they are. */
  async heeded({ author, client, edits }: Batch): Promise<(readonly Step[])[]> {
    const known = { ...this.known(author, client), counter: () => undefined };
    const proposals = await proposalsOf(edits, known, new Slices());
    return proposals.map((one, i) => (one instanceof Refusal ? (edits[i]?.steps ?? []) : one.steps));
  }

  /** What sources of somebody's edits are looked up in. */
  private known(author: number, client: string) {
    return {
      document: this.document,
      author,
      client,
      seq: this.seq,
      runs: this.provenance.runs,
      log: this.moments.log,
      elsewhere: this.elsewhere,
    };
  }

  /** Changes what is stored of the document while nobody's edit is ordered, then reads all of it anew. */
  renew(change: (head: Head) => Promise<void>): Promise<void> {
    return this.turn.runExclusive(async () => {
      const { generation } = this;
      await this.storing.catch(() => this.reload(generation));
      await this.keeping;
      await change(this.head);
      await this.reload(this.generation);
    });
  }

  /** Resolves when everything ordered so far is done. */
  async settled(): Promise<void> {
    await this.turn.runExclusive(() => undefined);
    await this.storing.catch(() => undefined);
    await this.keeping;
  }

  private async reload(generation: number): Promise<void> {
    if (generation !== this.generation) return;
    this.generation++;
    await this.storing.catch(() => undefined);
    const head = await readHead(this.document, this.database, this.moments);
    [this.doc, this.provenance, this.seq, this.lastAt] = [head.doc, head.provenance, head.seq, head.at];
    this.storing = Promise.resolve();
    this.recent.clear();
    this.announce(await this.moments.log.between(this.document, this.announced, this.seq));
  }

  private announce(edits: readonly StoredEdit[]): void {
    const fresh = edits.filter((edit) => edit.seq > this.announced);
    const last = fresh.at(-1);
    if (!last) return;
    this.announced = last.seq;
    for (const listener of this.listeners) listener(fresh);
  }

  /**
   * Finds out what of a batch is new and what it has to be carried over, up to the present end. Needs no turn of the room's:
   * how far back a batch is based, nobody else waits for what is read. What comes meanwhile is followed in its turns.
   */
  private async begin(batch: Batch): Promise<Progress> {
    if (batch.base > this.seq) throw new FutureBase(this.seq);
    const slices = new Slices();
    const known = await this.recent.alreadyAccepted(batch);
    const at = this.seq;
    const again = new Map([...known].map(([counter, seq]) => [seq, counter]));
    const own = new Map(batch.edits.map((edit) => [edit.counter, edit]));
    const ordering = new Ordering();
    for (const { seq, maps } of await this.recent.since(batch.base, this.seq, slices)) {
      const counter = again.get(seq);
      if (counter === undefined) ordering.follow(maps);
      else ordering.accepted(own.get(counter)?.steps ?? []);
      if (ordering.width > (batch.mostMaps ?? Infinity)) throw new FarBehind();
      await slices.rest();
    }
    const progress: Progress = {
      batch,
      ordering,
      left: batch.edits.filter((edit) => !known.has(edit.counter)),
      at,
      outcomes: new Map([...known].map(([counter, seq]) => [counter, { counter, seq }])),
      stored: known.size > 0 ? [this.storing] : [],
    };
    return progress;
  }

  /** Orders as much of a batch as may be at once and has it stored, on top of what others wrote since its last part. */
  private async order(progress: Progress, generation: number): Promise<void> {
    const { batch, ordering, outcomes } = progress;
    const slices = new Slices();
    if (generation !== this.generation) {
      throw new HeadMoved(this.document);
    }
    while (this.seq - this.announced >= MOST_AHEAD) await this.storing;
    await batch.authorize?.();
    const again = this.takenMeanwhile(progress);
    for (const { seq, maps } of await this.recent.since(progress.at, this.seq, slices)) {
      const edit = again.get(seq);
      if (edit) ordering.accepted(edit.steps);
      else ordering.follow(maps);
    }
    const part = partOf(progress.left);
    const prepared = await proposalsOf(
      part,
      {
        ...this.known(batch.author, batch.client),
        counter: (counter) => outcomes.get(counter)?.seq ?? this.recent.seqOf(batch.client, counter),
      },
      slices,
    );
    for (const [i, one] of prepared.entries())
      if (one instanceof Refusal)
        throw new Refusal(`edits/${batch.edits.indexOf(part[i] as Wanted)}/${one.path}`, one.message);
    const proposals = prepared.filter((one): one is Proposal<Quote> => !(one instanceof Refusal));
    const verdicts = await slices.through(ordering.take(this.doc, proposals));
    const rows: StoredEdit[] = [];
    for (const [i, edit] of part.entries()) {
      const { counter } = edit;
      const verdict = verdicts[i];
      const { steps = [], sources = [], docs = [] } = verdict?.taken ? verdict : {};
      if (!verdict?.taken || (steps.length === 0 && edit.steps.length > 0)) {
        outcomes.set(counter, { counter, seq: null, refusal: verdict?.taken ? undefined : verdict?.refusal });
        continue;
      }
      const row = await this.accept(batch, edit, { steps, sources, docs }, slices);
      rows.push(row);
      outcomes.set(counter, { counter, seq: row.seq });
      await slices.rest();
    }
    progress.left = progress.left.slice(part.length);
    progress.at = this.seq;
    if (rows.length === 0) return;
    const stored = this.store(rows, this.checkpointDue());
    this.storing = stored;
    stored.catch(() => undefined);
    progress.stored.push(stored);
  }

  /** Takes off a batch what was accepted since it was last looked at, as when it was sent twice; by seq. */
  private takenMeanwhile(progress: Progress): ReadonlyMap<number, Wanted> {
    const again = new Map<number, Wanted>();
    for (const edit of progress.left) {
      const seq = this.recent.seqOf(progress.batch.client, edit.counter);
      if (seq === undefined) continue;
      again.set(seq, edit);
      progress.outcomes.set(edit.counter, { counter: edit.counter, seq });
    }
    if (again.size > 0) {
      progress.left = progress.left.filter(({ counter }) => !progress.outcomes.has(counter));
      progress.stored.push(this.storing);
    }
    return again;
  }

  /** Where positions of the document after an edit are in its head; null where what came since is no longer at hand. */
  carried(positions: readonly number[], since: number): number[] | null {
    const maps = this.recent.mapsSince(since, this.seq);
    return maps && positions.map((position) => maps.reduce((at, map) => map.map(at), position));
  }

  /** Takes an ordered edit into the head and answers its row. */
  private async accept(
    batch: Batch,
    edit: Wanted,
    { steps, sources: quotes, docs }: Ordered,
    slices: Slices,
  ): Promise<StoredEdit> {
    const seq = this.seq + 1;
    const sources = await slices.through(earnedSources(seq, steps, quotes, this.provenance.runs));
    let [wordsIn, wordsOut] = [0, 0];
    for (const [i, step] of steps.entries()) {
      const before = docs[i - 1] ?? this.doc;
      const tally = await slices.through(tallyStep(before, docs[i] as Node, step));
      wordsIn += tally.wordsIn;
      wordsOut += tally.wordsOut;
      this.cost += replayCost(before, step);
    }
    this.doc = appendEdit(this.provenance, this.doc, { seq, steps, sources }, docs);
    this.seq = seq;
    this.lastAt = Math.max(this.lastAt, edit.at ?? Date.now());
    const noted = { client: batch.client, counter: edit.counter, seq, maps: mapsOf(steps) };
    this.recent.note(noted, this.announced);
    return {
      document: this.document,
      seq,
      author: batch.author,
      client: batch.client,
      counter: edit.counter,
      acceptedAt: this.lastAt,
      writtenAt: Math.min(edit.writtenAt, this.lastAt),
      schema: kindOf(this.doc).version,
      steps: await slices.through(
        tellJson(
          steps.map((step) => step.toJSON() as unknown),
          BLOCKS,
        ),
      ),
      sources: sources.length > 0 ? JSON.stringify(sources) : null,
      quoted: isAsSaid(quotes, sources) ? null : JSON.stringify(quotes),
      cause: edit.cause.kind === 'writing' ? null : JSON.stringify(edit.cause),
      wordsIn,
      wordsOut,
    };
  }

  /** The present document, where replaying what came since the last checkpoint would cost much. */
  private checkpointDue(): Checkpoint | null {
    if (this.cost <= REPLAY_BUDGET) return null;
    this.cost = 0;
    return { seq: this.seq, doc: this.doc };
  }

  private async store(rows: readonly StoredEdit[], due: Checkpoint | null): Promise<void> {
    await this.moments.log.append(rows);
    this.announce(rows);
    if (due) this.keeping = this.moments.keep(this.document, due.seq, due.doc).catch(this.report);
  }
}

/** Whether all that an edit quotes keeps its credit, and is of its own document: then its sources say what it quoted. */
function isAsSaid(quotes: readonly Quote[], sources: readonly Source[]): boolean {
  const letters = (all: readonly Source[]): number => all.reduce((sum, { length }) => sum + length, 0);
  return letters(quotes) === letters(sources) && quotes.every(({ of }) => !of);
}

async function readHead(
  document: number,
  database: Database,
  moments: Moments,
): Promise<Head & { at: number }> {
  const row = await database.models.documents.findByPk(document, { raw: true });
  const seq = row?.seq ?? 0;
  return { ...(await moments.load(document, seq)), seq, at: Number(row?.changedAt ?? 0) };
}
