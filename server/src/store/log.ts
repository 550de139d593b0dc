import { mapOfJSON } from '@oxbow/core/history';
import type { Edit, Trace } from '@oxbow/core/history';
import { textSchema, insertedTokens } from '@oxbow/core/content';
import type { Token } from '@oxbow/core/content';
import { Op, QueryTypes } from 'sequelize';
import type { Transaction } from 'sequelize';
import { Step } from 'prosemirror-transform';
import type { StepMap } from 'prosemirror-transform';
import { Slices } from '../threads/slices.js';
import type { Database } from './database.js';
import type { EditRow } from './models.js';
import type { Batch } from './writes.js';

/** An edit as the log stores it: a row without its content parsed. */
export type StoredEdit = Omit<import('sequelize').InferAttributes<EditRow>, 'key'>;

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
  'cause',
  'wordsIn',
  'wordsOut',
];

/** The log of edits: the truth that everything else can be rebuilt from. Appends of a commit are written together. */
export class Log implements Batch<readonly StoredEdit[], void> {
  constructor(private readonly database: Database) {}

  /** Appends edits, and resolves when they are durable. Rejects with `HeadMoved` unless they follow on what is stored. */
  append(edits: readonly StoredEdit[]): Promise<void> {
    return this.database.writes.join(this, edits);
  }

  /** Writes several appends inside one transaction: one guard for each document, one insert for all. */
  async run(appends: readonly (readonly StoredEdit[])[], transaction: Transaction): Promise<void[]> {
    const byDocument = new Map<number, StoredEdit[]>();
    for (const edit of appends.flat()) {
      const list = byDocument.get(edit.document) ?? [];
      if (list.length > 0 && list.at(-1)?.seq !== edit.seq - 1) throw new HeadMoved(edit.document);
      byDocument.set(edit.document, [...list, edit]);
    }
    await this.moveHeads([...byDocument.values()], transaction);
    await this.database.sequelize.getQueryInterface().bulkInsert('edits', appends.flat(), { transaction });
    return appends.map(() => undefined);
  }

  /** Moves each document's head from before the first to the last of its edits; none may have been moved by another process. */
  private async moveHeads(
    lists: readonly (readonly StoredEdit[])[],
    transaction: Transaction,
  ): Promise<void> {
    const heads = lists.flatMap((list) => {
      const [first, last] = [list[0], list.at(-1)];
      return first && last
        ? [[first.document, first.seq - 1, last.seq, last.acceptedAt, last.author].map(Number)]
        : [];
    });
    const moved = await this.database.sequelize.query(
      `WITH heads(document, before, seq, at, author) AS (VALUES ${heads.map((head) => `(${head.join(', ')})`).join(', ')})
       UPDATE documents SET seq = heads.seq, "changedAt" = heads.at, "changedBy" = heads.author
       FROM heads WHERE documents.key = heads.document AND documents.seq = heads.before`,
      { type: QueryTypes.BULKUPDATE, transaction },
    );
    if (moved !== heads.length) throw new HeadMoved(heads.map((head) => head[0]).join(', '));
  }

  /** The parsed steps of the edits after `after` up to `upTo`, in order. */
  async steps(document: number, after: number, upTo: number): Promise<Step[][]> {
    if (upTo <= after) return [];
    const rows = await this.database.rows<{ steps: string }>(
      'SELECT steps FROM edits WHERE document = :document AND seq > :after AND seq <= :upTo ORDER BY seq',
      { document, after, upTo },
    );
    return rows.map((row) => parseSteps(row.steps));
  }

  /** The highest counter of a client's accepted edits, or -1. */
  async lastCounter(document: number, client: string): Promise<number> {
    return (
      (await this.database.models.edits.max<number | null, EditRow>('counter', {
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
      attributes: PLAIN,
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

  /** One client's edits with these counters, those that were accepted. */
  async byCounter(document: number, client: string, counters: readonly number[]): Promise<StoredEdit[]> {
    const rows = await this.database.models.edits.findAll({
      where: { document, client, counter: [...counters] },
      attributes: PLAIN,
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
    for (let from = after; from < upTo; from += PAGE) {
      const rows = await this.database.rows<{ seq: number; steps: string }>(
        'SELECT seq, steps FROM edits WHERE document = :document AND seq > :from AND seq <= :to ORDER BY seq',
        { document, from, to: Math.min(from + PAGE, upTo) },
      );
      for (const { seq, steps } of rows) {
        out.push({ seq, maps: (JSON.parse(steps) as unknown[]).map((step) => mapOfJSON(textSchema, step)) });
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
    const rows = await this.database.models.edits.findAll({
      where: { document, seq: [...seqs] },
      attributes: ['seq', 'steps'],
      raw: true,
    });
    const out = new Map<number, readonly Token[]>();
    for (const { seq, steps } of rows) {
      out.set(seq, insertedTokens(parseSteps(steps)));
      await slices.rest();
    }
    return out;
  }
}

export function parseSteps(json: string): Step[] {
  return (JSON.parse(json) as unknown[]).map((step) => Step.fromJSON(textSchema, step));
}

/** A stored edit as core knows edits; `author` gives the outside's name of a person. */
export function parseEdit(row: StoredEdit, author: (key: number) => string): Edit {
  return {
    seq: row.seq,
    author: author(row.author),
    acceptedAt: Number(row.acceptedAt),
    writtenAt: Number(row.writtenAt),
    client: row.client,
    counter: row.counter,
    schema: row.schema,
    steps: parseSteps(row.steps),
    sources: row.sources ? (JSON.parse(row.sources) as Edit['sources']) : [],
    cause: row.cause ? (JSON.parse(row.cause) as Edit['cause']) : { kind: 'writing' },
  };
}
