import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { handOf } from '@oxbow/core/history';
import type { RunSequence, Trace } from '@oxbow/core/history';
import { Letters, Tape, wordsBegun } from '@oxbow/core/past';
import type { Makers } from '@oxbow/core/past';
import type { Node } from 'prosemirror-model';
import type { People, Signed } from '../access/people.js';
import type { Database } from '../store/database.js';
import { DocumentCache } from '../store/epochs.js';
import { parseSteps } from '../store/log.js';
import { Gate } from '../threads/gate.js';
import { Slices } from '../threads/slices.js';
import { Turns } from '../threads/turns.js';
import type { Models } from '../store/models.js';
import { BEFORE } from '@oxbow/contract';
import { whole } from '../access/view.js';
import type { View } from '../access/view.js';
import { nameOf } from '../histories/histories.js';
import type { Histories, Told } from '../histories/histories.js';
import { CHUNK, WordIndex } from './words.js';

const pack = promisify(deflate);
const unpack = promisify<Buffer, Buffer>(inflate);

/** Bytes that histories kept at hand may take, their tapes counted as much as their letters. */
const MOST_BYTES = 256 * 1024 * 1024;
/** Milliseconds of quiet before words are indexed. */
const QUIET = 2500;

/** A place in a list of documents by when they were last changed. */
export interface Place {
  readonly changedAt: number;
  readonly key: number;
}

/** Everything that is needed to look back at one document, up to edit `tape.now`. */
export interface Chronicle {
  readonly doc: Node;
  readonly tape: Tape;
  readonly letters: Letters;
  readonly runs: RunSequence;
  /** Every edit, in order; edit `seq` is at `seq - 1`. Authors by their outside id. */
  readonly traces: readonly Trace[];
  readonly makers: Makers;
}

/** The letters of a stretch of a log, and the folded words that came about in it. */
export interface IndexedChunk {
  readonly row: {
    readonly document: number;
    readonly chunk: number;
    readonly last: number;
    readonly texts: Uint8Array;
  };
  readonly words: readonly string[];
}

interface Held {
  readonly letters: Letters;
  readonly traces: Trace[];
  tape: Tape | null;
}

/**
 * What documents' letters were, kept beside the log so that looking back reads no steps, and the index of their words.
 * Both follow the log: letters when somebody looks back, the index when versions are cut; what it does not know yet is
 * looked at itself. `report` hears of trouble with the index, which is made behind the `gate` that calls go through.
 */
export class Chronicles {
  readonly words: WordIndex;
  private readonly held: DocumentCache<Held>;
  private readonly soon = new Map<number, NodeJS.Timeout>();
  private readonly indexing = new Set<Promise<void>>();
  private readonly following = new Turns<string>();

  constructor(
    private readonly database: Database,
    private readonly histories: Histories,
    private readonly people: People,
    private readonly keeper: { keepChunk(chunk: IndexedChunk): Promise<void> },
    private readonly report: (error: unknown) => void,
    private readonly gate = new Gate(),
  ) {
    this.words = new WordIndex(database);
    this.held = new DocumentCache(database.epochs, {
      maxSize: MOST_BYTES,
      weight: ({ letters, traces }) => letters.weight * 2 + traces.length * 200 + 4096,
    });
  }

  /** A document's chronicle as it is now, from where its history begins for whoever asks. */
  async open(told: Told): Promise<Chronicle> {
    const { doc, seq, provenance } = await this.histories.head(told);
    const held = await this.following.take(nameOf(told), () => this.follow(told, seq));
    const now = held.letters.seq;
    if (held.tape?.now !== now) held.tape = new Tape(provenance.runs, held.letters);
    const { tape, traces, letters } = held;
    const nobody = told.first > 0 ? BEFORE : 'unknown';
    const makers: Makers = (edit) =>
      traces[edit - 1] ?? { author: handOf(provenance, edit) ?? nobody, at: told.since ?? 0 };
    const present = seq === now ? doc : await this.histories.moment(told, now);
    return { doc: present, tape, letters, runs: provenance.runs, traces, makers };
  }

  /** Reads histories anew when they are next looked at: somebody in them is told otherwise. */
  forget(): void {
    this.held.clear();
  }

  /** Indexes a document when no version of it was cut for a moment. */
  indexSoon(document: number): void {
    clearTimeout(this.soon.get(document));
    const timer = setTimeout(() => {
      this.soon.delete(document);
      const work = this.gate.pass(() => this.index(document)).catch(this.report);
      this.indexing.add(work);
      void work.finally(() => this.indexing.delete(work));
    }, QUIET);
    this.soon.set(document, timer);
  }

  async close(): Promise<void> {
    for (const timer of this.soon.values()) clearTimeout(timer);
    await Promise.all(this.indexing);
  }

  /** Brings what is stored of a document's letters and words up to its present end. */
  async index(document: number): Promise<void> {
    const { tape, letters } = await this.open(entire(document));
    const slices = new Slices(false);
    const stored = await this.storedUpTo(document);
    const last = tape.now;
    if (stored >= last) return;
    for (let chunk = Math.floor(Math.max(0, stored - 1) / CHUNK); chunk * CHUNK < last; chunk++) {
      const [first, end] = [chunk * CHUNK + 1, Math.min(last, (chunk + 1) * CHUNK)];
      const texts = letters.between(chunk === 0 ? 0 : first, end);
      const row = { document, chunk, last: end, texts: await pack(JSON.stringify(texts)) };
      const words = await slices.through(wordsBegun(tape, chunk === 0 ? -1 : first - 1, end));
      await this.keeper.keepChunk({ row, words: [...words] });
    }
  }

  /**
   * Documents of a person's that may have held all of some folded words, those last written in first, from a place on: those
   * in which the index has each of them, those of which it does not know all yet, and those whose history begins somewhere for
   * this person: which of them the index names would tell what was before.
   */
  async mayHold(
    person: Signed,
    words: readonly string[],
    { changedAt, key }: Place,
    most: number,
  ): Promise<View[]> {
    const holding = words.map((word, i) => this.words.holding(word, `word${i}`));
    const changed = greatest(this.database, 'documents."changedAt"', 'standings.since');
    const rows = await this.database.rows<{ key: number }>(
      `SELECT documents.key FROM documents JOIN standings ON standings.document = documents.key
         AND standings.person = :person AND standings.history <> 'none'
       WHERE (${changed} < :changedAt OR (${changed} = :changedAt AND documents.key < :key))
         AND ((${holding.map(({ sql }) => `documents.key IN (${sql})`).join(' AND ')})
           OR standings.history <> 'all'
           OR documents.seq > COALESCE((SELECT last FROM letters WHERE letters.document = documents.key
             ORDER BY chunk DESC LIMIT 1), 0))
       ORDER BY ${changed} DESC, documents.key DESC LIMIT :most`,
      Object.assign({ person: person.key, changedAt, key, most }, ...holding.map(({ values }) => values)),
    );
    const keys = rows.map((row) => row.key);
    const views = new Map(
      (await this.people.standings.views(person.key, keys)).map((view) => [view.key, view]),
    );
    return keys.flatMap((one) => views.get(one) ?? []);
  }

  /** The last edit whose words are in the index. */
  async storedUpTo(document: number): Promise<number> {
    return (
      (await this.database.models.letters.max<number | null, InstanceType<Models['letters']>>('last', {
        where: { document },
      })) ?? 0
    );
  }

  /** Takes in what the log has more than what is held. */
  private async follow(told: Told, upTo: number): Promise<Held> {
    const entry = this.held.entry(told.key, told.first);
    const held = entry.value ?? (told.first === 0 ? await this.read(told.key) : await this.begun(told));
    const slices = new Slices();
    const { schema } = await this.histories.kindOf(told.key);
    for (const steps of await this.histories.steps(told, held.letters.seq, upTo)) {
      held.letters.append(parseSteps(schema, steps));
      await slices.rest();
    }
    const known = held.traces.length;
    const author = (key: number): string => this.people.id(key);
    for (const trace of await this.histories.traces(told, author, known, upTo)) held.traces.push(trace);
    entry.set(held);
    return held;
  }

  /** A chronicle that begins with what stood somewhere. */
  private async begun(told: Told): Promise<Held> {
    return { letters: Letters.starting(await this.histories.moment(told, 0)), traces: [], tape: null };
  }

  private async read(document: number): Promise<Held> {
    const rows = await this.database.models.letters.findAll({
      where: { document },
      order: [['chunk', 'ASC']],
      raw: true,
    });
    const texts: string[] = [];
    for (const row of rows) texts.push(...(JSON.parse((await unpack(row.texts)).toString()) as string[]));
    const letters =
      texts.length > 0
        ? Letters.of(texts)
        : Letters.starting((await this.histories.kindOf(document)).blank());
    return { letters, traces: [], tape: null };
  }
}

/** All of a document, for what the server does by itself. */
export function entire(document: number): Told {
  return { ...whole(document), id: '', since: null };
}

/** The greater of two columns; SQLite and PostgreSQL name it differently. */
function greatest({ sequelize }: Database, one: string, other: string): string {
  return `${sequelize.getDialect() === 'sqlite' ? 'MAX' : 'GREATEST'}(${one}, ${other})`;
}
