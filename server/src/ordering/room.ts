import { SCHEMA_VERSION, blankDocument, tokensOf } from '@oxbow/core/content';
import type { Token } from '@oxbow/core/content';
import {
  REPLAY_BUDGET,
  Refusal,
  appendEdit,
  checkSources,
  insertedLengths,
  mapsOf,
  orderBatch,
  replayCost,
  tallyStep,
} from '@oxbow/core/history';
import type { Cause, Proposal, Provenance, Source } from '@oxbow/core/history';
import type { SourceRef } from '@oxbow/contract';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Database } from '../store/database.js';
import { HeadMoved, parseSteps } from '../store/log.js';
import type { StoredEdit } from '../store/log.js';
import type { Moments } from '../store/moments.js';

/** An edit that somebody wants appended. Sources may still name places in moments or the same client's own edits. */
export interface Wanted {
  readonly counter: number;
  readonly steps: readonly Step[];
  readonly sources: readonly SourceRef[];
  readonly writtenAt: number;
  readonly cause: Cause;
  /** Acceptance time to write instead of the clock's; only the demo's makers set it. */
  readonly at?: number;
}

/** A batch of edits by one person from one client, based on edit `base`. */
export interface Batch {
  readonly author: number;
  readonly client: string;
  readonly base: number;
  readonly edits: readonly Wanted[];
}

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

/** Edits kept parsed for carrying stale ones over; older ones are read from the log. */
const TAIL = 512;
const RETRIES = 8;

/** A base that the document has not reached. */
export class FutureBase extends Refusal {
  constructor(seq: number) {
    super('base', `lies in the future: the document has ${seq} edits`);
  }
}

/**
 * One open document: it orders edits, has them stored, and tells its listeners once they are durable. Ordering runs
 * ahead of storing, so that many edits share one commit; when a store fails, the room goes back to what is stored.
 */
export class Room {
  private turn: Promise<unknown> = Promise.resolve();
  private storing: Promise<unknown> = Promise.resolve();
  private keeping: Promise<unknown> = Promise.resolve();
  private tail: { seq: number; steps: readonly Step[] }[] = [];
  private recent = new Map<string, number>();
  private readonly highest = new Map<string, number>();
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
    head: Head & { at: number },
    private readonly report: (error: unknown) => void,
  ) {
    this.doc = head.doc;
    this.provenance = head.provenance;
    this.seq = head.seq;
    this.announced = head.seq;
    this.lastAt = head.at;
  }

  /** Opens a document; `report` hears of trouble with what is only kept to spare work, such as a checkpoint. */
  static async open(
    document: number,
    database: Database,
    moments: Moments,
    report: (error: unknown) => void,
  ): Promise<Room> {
    return new Room(document, database, moments, await readHead(document, database, moments), report);
  }

  /** The document as of the last ordered edit. */
  get head(): Head {
    return { doc: this.doc, seq: this.seq, provenance: this.provenance };
  }

  /** Rough bytes this room holds in memory. */
  get weight(): number {
    return this.doc.content.size * 8 + this.provenance.runs.size * 24 + this.tail.length * 400 + 4096;
  }

  /** Calls `listener` with every batch of edits once they are durable, in order. */
  onAccepted(listener: (edits: readonly StoredEdit[]) => void): void {
    this.listeners.push(listener);
  }

  /**
   * Orders a batch and answers when it is durable. A batch sent again is answered as before, nothing is doubled.
   * Throws `Refusal` when the message as a whole cannot be taken.
   */
  async submit(batch: Batch): Promise<Result[]> {
    return this.compose(() => batch);
  }

  /** As `submit`, with the batch made from the head in the room's own turn, so that nothing comes in between. */
  async compose(make: (head: Head) => Batch | Promise<Batch>): Promise<Result[]> {
    for (let attempt = 1; ; attempt++) {
      const generation = this.generation;
      const ordered = await this.inTurn(async () => this.order(await make(this.head)));
      try {
        await ordered.stored;
        return ordered.results;
      } catch (error) {
        await this.inTurn(() => this.reload(generation));
        if (!(error instanceof HeadMoved) && !isUniqueError(error)) throw error;
        if (attempt === RETRIES) throw error;
      }
    }
  }

  /** Resolves when everything ordered so far is done. */
  async settled(): Promise<void> {
    await this.turn.catch(() => undefined);
    await this.storing.catch(() => undefined);
    await this.keeping;
  }

  private inTurn<T>(act: () => Promise<T>): Promise<T> {
    const next = this.turn.then(act, act);
    this.turn = next.catch(() => undefined);
    return next;
  }

  private async reload(generation: number): Promise<void> {
    if (generation !== this.generation) return;
    this.generation++;
    await this.database.writes.idle();
    const head = await readHead(this.document, this.database, this.moments);
    [this.doc, this.provenance, this.seq, this.lastAt] = [head.doc, head.provenance, head.seq, head.at];
    this.tail = [];
    this.recent.clear();
    this.highest.clear();
    this.announce(await this.moments.log.between(this.document, this.announced, this.seq));
  }

  private announce(edits: readonly StoredEdit[]): void {
    const fresh = edits.filter((edit) => edit.seq > this.announced);
    const last = fresh.at(-1);
    if (!last) return;
    this.announced = last.seq;
    for (const listener of this.listeners) listener(fresh);
  }

  private async order(batch: Batch): Promise<{ results: Result[]; stored: Promise<void> }> {
    if (batch.base > this.seq) throw new FutureBase(this.seq);
    const known = await this.alreadyAccepted(batch);
    const wanted = batch.edits.filter((edit) => !known.has(edit.counter));
    const own = new Map(known);
    const between = await this.stepsAfter(batch.base, batch, known);
    const prepared = await Promise.all(
      wanted.map((edit, i) => this.prepare(edit, i, wanted, batch.client, own)),
    );
    const verdicts = orderBatch(
      this.doc,
      prepared.map((one, i) =>
        one instanceof Refusal ? { steps: wanted[i]?.steps ?? [], sources: [] } : one,
      ),
      mapsOf(between),
    );
    const rows: StoredEdit[] = [];
    const outcomes = new Map<number, Result>();
    for (const [i, edit] of wanted.entries()) {
      const verdict = verdicts[i];
      const bad = prepared[i];
      if (bad instanceof Refusal) throw new Refusal(`edits/${i}/${bad.path}`, bad.message);
      if (!verdict?.taken)
        outcomes.set(edit.counter, { counter: edit.counter, seq: null, refusal: verdict?.refusal });
      else if (verdict.steps.length === 0 && edit.steps.length > 0)
        outcomes.set(edit.counter, { counter: edit.counter, seq: null });
      else {
        const row = this.accept(batch, edit, verdict.steps, verdict.sources);
        rows.push(row);
        own.set(edit.counter, row.seq);
        outcomes.set(edit.counter, { counter: edit.counter, seq: row.seq });
      }
    }
    const results = batch.edits.map(
      ({ counter }): Result => outcomes.get(counter) ?? { counter, seq: known.get(counter) ?? null },
    );
    const stored = this.store(rows);
    this.storing = stored;
    return { results, stored };
  }

  /** Which edits of a batch were accepted before. A counter above all that a client has had accepted is new. */
  private async alreadyAccepted({ client, edits }: Batch): Promise<Map<number, number>> {
    const highest = this.highest.get(client) ?? (await this.moments.log.lastCounter(this.document, client));
    this.highest.set(client, highest);
    const known = new Map<number, number>();
    const ask: number[] = [];
    for (const { counter } of edits) {
      const seq = this.recent.get(`${client} ${counter}`);
      if (seq !== undefined) known.set(counter, seq);
      else if (counter <= highest) ask.push(counter);
    }
    if (ask.length > 0)
      for (const row of await this.moments.log.byCounter(this.document, client, ask))
        known.set(row.counter, row.seq);
    return known;
  }

  /** Steps accepted since the base, without those of this very batch when it is sent again. */
  private async stepsAfter(base: number, batch: Batch, known: ReadonlyMap<number, number>): Promise<Step[]> {
    const first = this.tail[0];
    if (base < this.seq && (!first || first.seq > base + 1)) {
      const rows = await this.moments.log.between(this.document, base, this.seq);
      return rows
        .filter((row) => row.client !== batch.client || !known.has(row.counter))
        .flatMap((row) => parseSteps(row.steps));
    }
    const again = new Set(known.values());
    return this.tail.filter(({ seq }) => seq > base && !again.has(seq)).flatMap(({ steps }) => steps);
  }

  /** Resolves an edit's sources to instances and checks them token by token. */
  private async prepare(
    edit: Wanted,
    index: number,
    wanted: readonly Wanted[],
    client: string,
    own: ReadonlyMap<number, number>,
  ): Promise<Proposal | Refusal> {
    if (edit.cause.kind === 'carry' && edit.cause.moment > this.seq)
      return new Refusal('cause/moment', 'is a moment that has not been yet');
    if (edit.sources.length === 0) return { steps: edit.steps, sources: [] };
    try {
      const lengths = insertedLengths(edit.steps);
      const sources = (
        await Promise.all(edit.sources.map((ref, i) => this.resolve(ref, i, client, own)))
      ).flat();
      const late = edit.sources.some(
        (ref) => 'counter' in ref && wanted.slice(0, index).some((one) => one.counter === ref.counter),
      );
      if (late) return { steps: edit.steps, sources: [] };
      if (sources.some((source) => source.at + source.length > (lengths[source.step] ?? 0)))
        throw new Refusal('sources', 'reach beyond what the step inserts');
      const tokens = await this.moments.log.tokens(
        this.document,
        new Set(sources.map((source) => source.seq)),
      );
      const blank = this.tokensOfBlank(sources);
      checkSources({ steps: edit.steps, sources }, (seq) => tokens.get(seq) ?? (seq === 0 ? blank : []));
      return { steps: edit.steps, sources };
    } catch (error) {
      if (error instanceof Refusal) return error;
      throw error;
    }
  }

  private tokensOfBlank(sources: readonly Source[]): readonly Token[] {
    if (!sources.some((source) => source.seq === 0)) return [];
    return tokensOf(blankDocument().content);
  }

  private async resolve(
    ref: SourceRef,
    index: number,
    client: string,
    own: ReadonlyMap<number, number>,
  ): Promise<Source[]> {
    const { step, at, length } = ref;
    if ('seq' in ref) return [{ step, at, length, seq: ref.seq, offset: ref.offset }];
    if ('counter' in ref) {
      const seq =
        own.get(ref.counter) ??
        this.recent.get(`${client} ${ref.counter}`) ??
        (await this.moments.log.byCounter(this.document, client, [ref.counter]))[0]?.seq;
      return seq === undefined ? [] : [{ step, at, length, seq, offset: ref.offset }];
    }
    if (ref.moment > this.seq)
      throw new Refusal(`sources/${index}/moment`, 'is a moment that has not been yet');
    return this.provenance.runs
      .at(ref.moment)
      .between(ref.position, ref.position + length)
      .map((run) => ({
        step,
        at: at + run.from - ref.position,
        length: run.length,
        seq: run.seq,
        offset: run.offset,
      }));
  }

  /** Takes an ordered edit into the head and answers its row. */
  private accept(batch: Batch, edit: Wanted, steps: readonly Step[], sources: readonly Source[]): StoredEdit {
    const seq = this.seq + 1;
    let [wordsIn, wordsOut] = [0, 0];
    let doc = this.doc;
    for (const step of steps) {
      const after = step.apply(doc).doc;
      if (!after) break;
      const tally = tallyStep(doc, after, step);
      wordsIn += tally.wordsIn;
      wordsOut += tally.wordsOut;
      this.cost += replayCost(doc, step);
      doc = after;
    }
    this.doc = appendEdit(this.provenance, this.doc, { seq, steps, sources });
    this.seq = seq;
    this.lastAt = Math.max(this.lastAt, edit.at ?? Date.now());
    this.tail.push({ seq, steps });
    if (this.tail.length > TAIL) this.tail.splice(0, this.tail.length - TAIL);
    this.recent.set(`${batch.client} ${edit.counter}`, seq);
    this.highest.set(batch.client, Math.max(edit.counter, this.highest.get(batch.client) ?? -1));
    if (this.recent.size > 4 * TAIL) this.recent.delete(this.recent.keys().next().value as string);
    return {
      document: this.document,
      seq,
      author: batch.author,
      client: batch.client,
      counter: edit.counter,
      acceptedAt: this.lastAt,
      writtenAt: Math.min(edit.writtenAt, this.lastAt),
      schema: SCHEMA_VERSION,
      steps: JSON.stringify(steps.map((step) => step.toJSON() as unknown)),
      sources: sources.length > 0 ? JSON.stringify(sources) : null,
      cause: edit.cause.kind === 'writing' ? null : JSON.stringify(edit.cause),
      wordsIn,
      wordsOut,
    };
  }

  private async store(rows: readonly StoredEdit[]): Promise<void> {
    if (rows.length === 0) return;
    await this.moments.log.append(rows);
    this.announce(rows);
    if (this.cost > REPLAY_BUDGET && rows.at(-1)?.seq === this.seq) {
      this.cost = 0;
      this.keeping = this.moments.keep(this.document, this.seq, this.doc).catch(this.report);
    }
  }
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

function isUniqueError(error: unknown): boolean {
  return error instanceof Error && error.name === 'SequelizeUniqueConstraintError';
}
