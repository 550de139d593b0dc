import { Worker } from 'node:worker_threads';
import { Op } from 'sequelize';
import type { Database, DatabaseOptions } from '../store/database.js';
import { Caller, remote, serve } from '../threads/remote.js';
import type { People } from '../access/people.js';
import type { Chronicles, IndexedChunk } from './chronicles.js';
import type { LookingBack } from './looking-back.js';
import type { Watching } from './watching.js';
import type { Seeking } from './seeking.js';
import { CHUNK, WordIndex } from './words.js';

/** Milliseconds in which edits of one document are told to the thread once. */
const GATHERED = 200;

/** What the thread that looks back asks of the main one. */
export interface Mainland {
  /** Writes the letters of a stretch of a log, and the words that came about in it. */
  keepChunk(chunk: IndexedChunk): Promise<void>;
  /** Deletes letters and words of a document, from a chunk on. */
  letGo(document: number, chunk: number): Promise<void>;
  /** Somebody has a notice about a document. */
  noticed(person: number, document: number): void;
  trouble(said: string): void;
}

/**
 * Looking back at histories and telling of changes, in a thread of its own, so that nobody who writes waits for it. The thread begins
 * with the first call.
 */
export class Past {
  readonly lookingBack = remote<LookingBack>(() => this.caller(), 'lookingBack');
  readonly watching = remote<Watching>(() => this.caller(), 'watching');
  readonly seeking = remote<Seeking>(() => this.caller(), 'seeking');
  readonly chronicles = remote<Chronicles>(() => this.caller(), 'chronicles');
  private readonly memory = remote<{
    raiseEpoch(document: number): void;
    letGo(document: number, chunk: number): Promise<void>;
  }>(() => this.caller(), 'memory');
  private thread: { readonly worker: Worker; readonly caller: Caller } | null = null;
  private readonly soon = new Map<number, NodeJS.Timeout>();
  private readonly words: WordIndex;
  private listener: (person: number, document: number) => void = () => undefined;

  /** `report` hears of trouble in the thread that nobody waits for. */
  constructor(
    private readonly database: Database,
    private readonly options: DatabaseOptions,
    people: People,
    private readonly report: (error: unknown) => void,
  ) {
    this.words = new WordIndex(database);
    database.epochs.onRaised((document) => {
      if (this.thread) this.memory.raiseEpoch(document).catch(report);
    });
    const there = remote<People>(() => this.caller(), 'people');
    people.onChanged(async () => {
      if (!this.thread) return;
      await there.load();
      await this.chronicles.forget();
    });
  }

  /** Calls `listener` when somebody has a new notice, or one of theirs grew or is gone. */
  onNotice(listener: (person: number, document: number) => void): void {
    this.listener = listener;
  }

  /** Something was written in a document. */
  wrote(document: number): void {
    if (this.soon.has(document)) return;
    const timer = setTimeout(() => {
      this.soon.delete(document);
      this.watching.wrote(document).catch(this.report);
    }, GATHERED);
    this.soon.set(document, timer);
  }

  /**
   * Makes letters and the index of words anew from an edit on, which was changed in the log. What was under way before is over then, and
   * what it had read is nowhere.
   */
  async renew(document: number, from: number): Promise<void> {
    await this.memory.letGo(document, Math.floor(Math.max(0, from - 1) / CHUNK));
    await this.chronicles.index(document);
  }

  async close(): Promise<void> {
    for (const timer of this.soon.values()) clearTimeout(timer);
    if (!this.thread) return;
    await remote<{ end(): Promise<void> }>(() => this.caller(), 'ending').end();
    await this.thread.worker.terminate();
  }

  private caller(): Caller {
    this.thread ??= this.begin();
    return this.thread.caller;
  }

  private begin(): { worker: Worker; caller: Caller } {
    const worker = new Worker(new URL('./past-thread.js', import.meta.url), { workerData: this.options });
    const caller = new Caller(worker);
    const main: Mainland = {
      keepChunk: (chunk) => this.keepChunk(chunk),
      letGo: (document, chunk) => this.letGo(document, chunk),
      noticed: (person, document) => this.listener(person, document),
      trouble: (said) => this.report(new Error(said)),
    };
    serve(worker, { main });
    worker.on('error', this.report);
    worker.on('exit', () => {
      caller.gone();
      this.thread = null;
    });
    return { worker, caller };
  }

  private letGo(document: number, chunk: number): Promise<void> {
    return this.database.writes.add(async (transaction) => {
      const where = { document, chunk: { [Op.gte]: chunk } };
      await this.database.models.letters.destroy({ where, transaction });
      await this.words.forget(document, transaction, chunk);
    });
  }

  private keepChunk({ row, words }: IndexedChunk): Promise<void> {
    return this.database.writes.add(async (transaction) => {
      const texts = Buffer.from(row.texts);
      await this.database.models.letters.upsert({ ...row, texts }, { transaction });
      await this.words.put(row.document, row.chunk, words, transaction);
    });
  }
}
