import { mapOfJSON } from '@oxbow/core/history';
import type { Edit, Trace } from '@oxbow/core/history';
import { tokensIn } from '@oxbow/core/content';
import type { Token } from '@oxbow/core/content';
import type { Schema } from 'prosemirror-model';
import { Op } from 'sequelize';
import { Step } from 'prosemirror-transform';
import type { StepMap } from 'prosemirror-transform';
import { Slices } from '../threads/slices.js';
import { DocumentCache } from './epochs.js';
import type { CacheEntry } from './epochs.js';
import type { Database } from './database.js';
import { DocumentKinds } from './kinds.js';
import type { Models, Stored } from './models.js';
import type { Together } from './writes.js';

/** An edit as the log stores it: a row without its content parsed. */
export type StoredEdit = Omit<Stored<'edits'>, 'key'>;

/** An edit as far as positions are concerned. */
export interface MappedEdit {
  readonly seq: number;
  readonly maps: readonly StepMap[];
}

/** Another server process wrote to the document since this one read it. */
export class HeadMoved extends Error {
  constructor(document: number | string) {
    super(`Document ${document} has edits that this process has not seen`);
    this.name = 'HeadMoved';
  }
}

/** Edits read at once where many are read. */
const PAGE = 500;

const PLAIN = [
  'document',
  'seq',
  'author',
  'client',
  'counter',
  'acceptedAt',
  'writtenAt',
  'schema',
  'steps',
  'sources',
  'quoted',
  'cause',
  'wordsIn',
  'wordsOut',
] as const;
/** Edits in one statement, within the number of values that SQLite and PostgreSQL take. */
const MOST = 2000;
/** Tokens of edits kept at hand, about eighty bytes each. */
const MOST_TOKENS = 400_000;

const INSERT = `INSERT INTO edits (${PLAIN.map((name) => `"${name}"`).join(', ')}) VALUES `;
const ROW = `(${PLAIN.map(() => '?').join(', ')})`;

/** The log of edits: the truth that everything else can be rebuilt from. Appends that wait are written together. */
export class Log implements Together<readonly StoredEdit[]> {
  readonly most = MOST;
  /** What edits inserted, those asked for last. */
  private readonly inserted: DocumentCache<readonly Token[]>;

  /** Which kind the documents are of. */
  readonly kinds: DocumentKinds;

  constructor(private readonly database: Database) {
    this.kinds = new DocumentKinds(database);
    this.inserted = new DocumentCache(database.epochs, {
      maxSize: MOST_TOKENS,
      weight: (tokens) => tokens.length + 1,
    });
  }

  weight(edits: readonly StoredEdit[]): number {
    return edits.length;
  }

  /** Appends edits, and resolves when they are durable. Rejects with `HeadMoved` unless they follow on what is stored. */
  append(edits: readonly StoredEdit[]): Promise<void> {
    return this.database.writes.join(this, edits);
  }

  /** Writes several appends with one statement; the table itself sees to it that each edit follows on its document's head. */
  async run(appends: readonly (readonly StoredEdit[])[]): Promise<void> {
    const edits = appends.flat();
    if (edits.length === 0) return;
    try {
      await this.database.run(
        INSERT + edits.map(() => ROW).join(', '),
        edits.flatMap((edit) => PLAIN.map((name) => edit[name])),
      );
    } catch (error) {
      if (error instanceof Error && /head moved|unique/i.test(error.message))
        throw new HeadMoved([...new Set(edits.map(({ document }) => document))].join(', '));
      throw error;
    }
  }

  /** The parsed steps of the edits after `after` up to `upTo`, in order. */
  async steps(document: number, after: number, upTo: number): Promise<Step[][]> {
    const [{ schema }, stored] = await Promise.all([
      this.kinds.of(document),
      this.storedSteps(document, after, upTo),
    ]);
    return stored.map((steps) => parseSteps(schema, steps));
  }

  /** The same as they are stored, as JSON. */
  async storedSteps(document: number, after: number, upTo: number): Promise<string[]> {
    if (upTo <= after) return [];
    const rows = await this.database.rows<{ steps: string }>(
      'SELECT steps FROM edits WHERE document = :document AND seq > :after AND seq <= :upTo ORDER BY seq',
      { document, after, upTo },
    );
    return rows.map(({ steps }) => steps);
  }

  /** The last of a document's edits up to `seq` that was accepted at or before a time; times never fall. Binary search. */
  async lastBefore(document: number, seq: number, at: number): Promise<number> {
    let [low, high] = [0, seq];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      const [row] = await this.database.rows<{ at: number | string }>(
        'SELECT "acceptedAt" AS at FROM edits WHERE document = :document AND seq = :middle',
        { document, middle },
      );
      if (Number(row?.at ?? Infinity) <= at) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /** The highest counter of a client's accepted edits, or -1. */
  async lastCounter(document: number, client: string): Promise<number> {
    return (
      (await this.database.models.edits.max<number | null, InstanceType<Models['edits']>>('counter', {
        where: { document, client },
      })) ?? -1
    );
  }

  /** The edits after `after` up to `upTo`, in order. */
  async between(document: number, after: number, upTo: number): Promise<StoredEdit[]> {
    if (upTo <= after) return [];
    const rows = await this.database.models.edits.findAll({
      where: { document, seq: { [Op.gt]: after, [Op.lte]: upTo } },
      order: [['seq', 'ASC']],
      attributes: [...PLAIN],
      raw: true,
    });
    return rows as unknown as StoredEdit[];
  }

  /** The edits after `after` up to `upTo` without their content, in order; `author` gives the outside's name of a person. */
  async traces(
    document: number,
    author: (key: number) => string,
    after = 0,
    upTo = Number.MAX_SAFE_INTEGER,
  ): Promise<(Trace & { readonly cause: string | null })[]> {
    const rows = await this.database.models.edits.findAll({
      where: { document, seq: { [Op.gt]: after, [Op.lte]: upTo } },
      attributes: ['seq', 'author', 'acceptedAt', 'wordsIn', 'wordsOut', 'cause'],
      order: [['seq', 'ASC']],
      raw: true,
    });
    return rows.map((row) => ({
      seq: row.seq,
      at: Number(row.acceptedAt),
      author: author(row.author),
      wordsIn: row.wordsIn,
      wordsOut: row.wordsOut,
      cause: row.cause,
    }));
  }

  /** Whether the steps of an edit after one hold a word of letters and digits. */
  async hasNamed(document: number, after: number, word: string): Promise<boolean> {
    const found = await this.database.rows(
      'SELECT seq FROM edits WHERE document = :document AND seq > :after AND steps LIKE :like LIMIT 1',
      { document, after, like: `%${word}%` },
    );
    return found.length > 0;
  }

  /** Why the edits after one were made, those that are not plain writing, in order; as JSON. */
  causes(document: number, after: number): Promise<{ seq: number; cause: string }[]> {
    return this.database.rows<{ seq: number; cause: string }>(
      'SELECT seq, cause FROM edits WHERE document = :document AND seq > :after AND cause IS NOT NULL ORDER BY seq',
      { document, after },
    );
  }

  /** One client's edits with these counters, those that were accepted. */
  async byCounter(document: number, client: string, counters: readonly number[]): Promise<StoredEdit[]> {
    const rows = await this.database.models.edits.findAll({
      where: { document, client, counter: [...counters] },
      attributes: [...PLAIN],
      raw: true,
    });
    return rows as unknown as StoredEdit[];
  }

  /** Those of some edits that somebody else made. */
  async byOthers(document: number, author: number, seqs: readonly number[]): Promise<number[]> {
    const rows = await this.database.rows<{ seq: number }>(
      'SELECT seq FROM edits WHERE document = :document AND seq IN (:seqs) AND author <> :author',
      { document, author, seqs: [...new Set(seqs)] },
    );
    return rows.map(({ seq }) => seq);
  }

  /** The position maps of the edits after `after` up to `upTo`, in order. Read in pages. */
  async maps(document: number, after: number, upTo: number, slices: Slices): Promise<MappedEdit[]> {
    const out: MappedEdit[] = [];
    const { schema } = await this.kinds.of(document);
    for (let from = after; from < upTo; from += PAGE) {
      const rows = await this.database.rows<{ seq: number; steps: string }>(
        'SELECT seq, steps FROM edits WHERE document = :document AND seq > :from AND seq <= :to ORDER BY seq',
        { document, from, to: Math.min(from + PAGE, upTo) },
      );
      for (const { seq, steps } of rows) {
        out.push({ seq, maps: (JSON.parse(steps) as unknown[]).map((step) => mapOfJSON(schema, step)) });
        await slices.rest();
      }
    }
    return out;
  }

  /** Bytes that the steps of some edits take. */
  async bytes(document: number, seqs: ReadonlySet<number>): Promise<number> {
    if (seqs.size === 0) return 0;
    const [row] = await this.database.rows<{ bytes: number | string | null }>(
      'SELECT SUM(LENGTH(steps)) AS bytes FROM edits WHERE document = :document AND seq IN (:seqs)',
      { document, seqs: [...seqs] },
    );
    return Number(row?.bytes ?? 0);
  }

  /** What some edits inserted, by seq; see `insertedTokens`. */
  async tokens(
    document: number,
    seqs: Iterable<number>,
    slices = new Slices(),
  ): Promise<Map<number, readonly Token[]>> {
    const out = new Map<number, readonly Token[]>();
    const unknown = new Map<number, CacheEntry<readonly Token[]>>();
    for (const seq of seqs) {
      const entry = this.inserted.entry(document, seq);
      if (entry.value) out.set(seq, entry.value);
      else unknown.set(seq, entry);
    }
    if (unknown.size === 0) return out;
    const { schema } = await this.kinds.of(document);
    const rows = await this.database.rows<{ seq: number; steps: string }>(
      'SELECT seq, steps FROM edits WHERE document = :document AND seq IN (:unknown)',
      { document, unknown: [...unknown.keys()] },
    );
    for (const { seq, steps } of rows) {
      const tokens = await slices.through(tokensIn(parseSteps(schema, steps)));
      out.set(seq, tokens);
      unknown.get(seq)?.set(tokens);
      await slices.rest();
    }
    return out;
  }
}

/** The steps of a stored edit of a document of a schema. */
export function parseSteps(schema: Schema, json: string): Step[] {
  return (JSON.parse(json) as unknown[]).map((step) => Step.fromJSON(schema, step));
}

/** A stored edit as core knows edits; `author` gives the outside's name of a person. */
export function parseEdit(schema: Schema, row: StoredEdit, author: (key: number) => string): Edit {
  return {
    seq: row.seq,
    author: author(row.author),
    acceptedAt: Number(row.acceptedAt),
    writtenAt: Number(row.writtenAt),
    client: row.client,
    counter: row.counter,
    schema: row.schema,
    steps: parseSteps(schema, row.steps),
    sources: row.sources ? (JSON.parse(row.sources) as Edit['sources']) : [],
    cause: row.cause ? (JSON.parse(row.cause) as Edit['cause']) : { kind: 'writing' },
  };
}
