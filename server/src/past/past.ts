import { Worker } from 'node:worker_threads';
import type { Database, DatabaseOptions } from '../store/database.js';
import { Caller, serve } from '../threads/remote.js';
import type { Remote } from '../threads/remote.js';
import type { People } from '../access/people.js';
import type { Chronicles, IndexedChunk } from './chronicles.js';
import type { LookingBack } from './looking-back.js';
import type { Watching } from './watching.js';
import { WordIndex } from './words.js';

/** Milliseconds in which edits of one document are told to the thread once. */
const GATHERED = 200;

/** What the thread that looks back asks of the main one. */
export interface Mainland {
  /** Writes the letters of a stretch of a log, and the words that came about in it. */
  keepChunk(chunk: IndexedChunk): Promise<void>;
  /** Somebody has a notice about a document. */
  noticed(person: number, document: number): void;
  trouble(said: string): void;
}

/** Looking back at histories and telling of changes, in a thread of its own, so that nobody who writes waits for it. */
export class Past {
  readonly lookingBack: Remote<LookingBack>;
  readonly watching: Remote<Watching>;
  readonly chronicles: Remote<Chronicles>;
  private readonly worker: Worker;
  private readonly ending: Remote<{ end(): Promise<void> }>;
  private readonly soon = new Map<number, NodeJS.Timeout>();
  private listener: (person: number, document: number) => void = () => undefined;

  /** `report` hears of trouble in the thread that nobody waits for. */
  constructor(
    database: Database,
    options: DatabaseOptions,
    people: People,
    private readonly report: (error: unknown) => void,
  ) {
    this.worker = new Worker(new URL('./past-thread.js', import.meta.url), { workerData: options });
    const caller = new Caller(this.worker);
    const words = new WordIndex(database);
    const main: Mainland = {
      keepChunk: ({ row, words: begun }) =>
        database.writes.add(async (transaction) => {
          await database.models.letters.upsert({ ...row, texts: Buffer.from(row.texts) }, { transaction });
          await words.put(row.document, row.chunk, begun, transaction);
        }),
      noticed: (person, document) => this.listener(person, document),
      trouble: (said) => report(new Error(said)),
    };
    serve(this.worker, { main });
    this.worker.on('error', report);
    this.worker.on('exit', () => caller.gone());
    this.lookingBack = caller.service('lookingBack');
    this.watching = caller.service('watching');
    this.chronicles = caller.service('chronicles');
    this.ending = caller.service('ending');
    const thread: Remote<People> = caller.service('people');
    people.onChanged(async () => {
      await thread.load();
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

  async close(): Promise<void> {
    for (const timer of this.soon.values()) clearTimeout(timer);
    await this.ending.end();
    await this.worker.terminate();
  }
}
