import type { Edit } from '@oxbow/core/history';
import { textSchema, insertedTokens } from '@oxbow/core/content';
import type { Token } from '@oxbow/core/content';
import { Op } from 'sequelize';
import type { Transaction } from 'sequelize';
import { Step } from 'prosemirror-transform';
import type { Database } from './database.js';
import type { EditRow } from './models.js';

/** An edit as the log stores it: a row without its content parsed. */
export type StoredEdit = Omit<import('sequelize').InferAttributes<EditRow>, 'key'>;

/** Another server process wrote to the document since this one read it. */
export class HeadMoved extends Error {
  constructor(document: number) {
    super(`Document ${document} has edits that this process has not seen`);
    this.name = 'HeadMoved';
  }
}

const PLAIN = ['document', 'seq', 'author', 'client', 'counter', 'acceptedAt', 'writtenAt', 'schema', 'steps', 'sources', 'cause', 'wordsIn', 'wordsOut'];

/** The log of edits: the truth that everything else can be rebuilt from. */
export class Log {
  constructor(private readonly database: Database) {}

  /** Appends edits inside a transaction. Throws `HeadMoved` unless they follow directly on what is stored. */
  async append(edits: readonly StoredEdit[], transaction: Transaction): Promise<void> {
    const [first, last] = [edits[0], edits.at(-1)];
    if (!first || !last) return;
    const { documents, edits: log } = this.database.models;
    const [moved] = await documents.update(
      { seq: last.seq, changedAt: last.acceptedAt, changedBy: last.author },
      { where: { key: first.document, seq: first.seq - 1 }, transaction },
    );
    if (moved !== 1) throw new HeadMoved(first.document);
    await log.bulkCreate([...edits], { transaction, validate: false });
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

  /** One client's edits with these counters, those that were accepted. */
  async byCounter(document: number, client: string, counters: readonly number[]): Promise<StoredEdit[]> {
    const rows = await this.database.models.edits.findAll({ where: { document, client, counter: [...counters] }, attributes: PLAIN, raw: true });
    return rows as unknown as StoredEdit[];
  }

  /** What some edits inserted, by seq; see `insertedTokens`. */
  async tokens(document: number, seqs: Iterable<number>): Promise<Map<number, readonly Token[]>> {
    const rows = await this.database.models.edits.findAll({ where: { document, seq: [...seqs] }, attributes: ['seq', 'steps'], raw: true });
    return new Map(rows.map((row) => [row.seq, insertedTokens(parseSteps(row.steps))]));
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
