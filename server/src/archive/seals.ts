import { createHash, randomBytes } from 'node:crypto';
import { sealedOf } from '@oxbow/core/formats';
import type { LoggedEdit, SealedEdit } from '@oxbow/core/formats';
import type { Cause, Source } from '@oxbow/core/history';
import { Op } from 'sequelize';
import type { Transaction } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Log, StoredEdit } from '../store/log.js';
import type { Stored } from '../store/models.js';
import { Slices } from '../threads/slices.js';
import { Turns } from '../threads/turns.js';

/** Edits sealed together; a seal is a salt of 16 bytes and a digest of 32. */
const CHUNK = 256;
const SALT = 16;
const SEAL = 48;

/** A salt, null where it was destroyed, and a digest, in hexadecimal. */
export type Seal = Pick<SealedEdit, 'salt' | 'digest'>;

/** The digest of an edit, as core's `digestOf` gives it, by what the machine has for it. */
export function digestOf(salt: string, edit: LoggedEdit): string {
  return createHash('sha256').update(sealedOf(salt, edit)).digest('hex');
}

/** The names that logs have for people: of somebody who is only claimed, the one the claim gives. */
export interface LogNames {
  byKey(key: number): string;
  byId(id: string): string;
}

/** An edit as it is sealed and archived. */
export function loggedOf(row: StoredEdit, names: LogNames): LoggedEdit {
  const sources = row.sources ? (JSON.parse(row.sources) as Source[]) : [];
  const cause = row.cause ? (JSON.parse(row.cause) as Cause) : ({ kind: 'writing' } as const);
  return {
    seq: row.seq,
    author: names.byKey(row.author),
    client: row.client,
    counter: row.counter,
    acceptedAt: Number(row.acceptedAt),
    writtenAt: Number(row.writtenAt),
    schema: row.schema,
    steps: JSON.parse(row.steps) as unknown[],
    ...renamed({ sources, cause }, (id) => names.byId(id)),
    wordsIn: row.wordsIn,
    wordsOut: row.wordsOut,
  };
}

/** The sources and the cause of an edit with the people they name under other names. */
export function renamed<C extends { readonly kind: string; readonly by?: string }>(
  { sources, cause }: { readonly sources: readonly Source[]; readonly cause: C },
  name: (id: string) => string,
): { sources: Source[]; cause: C } {
  return {
    sources: sources.map((source) =>
      source.of ? { ...source, of: { ...source.of, writer: name(source.of.writer) } } : source,
    ),
    cause: cause.by === undefined ? cause : { ...cause, by: name(cause.by) },
  };
}

/**
 * Salted digests of edits, made when a version is cut or a history is archived, and never again: an edit that was changed
 * afterwards no longer answers to its seal. Erasing an edit destroys its salt (its bytes become zeros) and leaves the digest.
 */
export class Seals {
  private readonly sealing = new Turns();

  constructor(
    private readonly database: Database,
    private readonly log: Log,
    private readonly names: LogNames,
  ) {}

  /** Seals a document's edits up to one of them, those that are not sealed yet. */
  upTo(document: number, seq: number): Promise<void> {
    return this.sealing.take(document, () => this.seal(document, seq));
  }

  /** The seals of a document's edits, in order. */
  async of(document: number): Promise<Seal[]> {
    const rows = await this.database.models.seals.findAll({
      where: { document },
      order: [['first', 'ASC']],
      raw: true,
    });
    return rows.flatMap(({ data }) => unpacked(Buffer.from(data)));
  }

  /** Stores seals that came with a history. */
  async keep(document: number, seals: readonly Seal[]): Promise<void> {
    await this.store(document, 1, seals);
  }

  /** Changes edits that may be sealed, and destroys the salts of those that are, all at once. */
  opening(
    document: number,
    seqs: readonly number[],
    change: (transaction: Transaction) => Promise<void>,
  ): Promise<void> {
    return this.sealing.take(document, () =>
      this.database.writes.add(async (transaction) => {
        await change(transaction);
        const { seals } = this.database.models;
        const [first, last] = [Math.min(...seqs), Math.max(...seqs)];
        const where = { document, first: { [Op.lte]: last }, last: { [Op.gte]: first } };
        for (const row of await seals.findAll({ where, raw: true, transaction })) {
          const data = Buffer.from(row.data);
          for (const seq of seqs)
            if (row.first <= seq && seq <= row.last)
              data.fill(0, (seq - row.first) * SEAL, (seq - row.first) * SEAL + SALT);
          await seals.update({ data }, { where: { document, first: row.first }, transaction });
        }
      }),
    );
  }

  /** The edits that were changed after they were sealed, in order: their salt is gone. */
  async opened(document: number): Promise<number[]> {
    return (await this.of(document)).flatMap(({ salt }, i) => (salt === null ? [i + 1] : []));
  }

  /** Resolves when nothing is being sealed. */
  idle(): Promise<void> {
    return this.sealing.idle();
  }

  private async seal(document: number, seq: number): Promise<void> {
    const [last] = await this.database.rows<{ last: number | null }>(
      'SELECT MAX(last) AS last FROM seals WHERE document = :document',
      { document },
    );
    const after = Number(last?.last ?? 0);
    if (after >= seq) return;
    const rows = await this.log.between(document, after, seq);
    const slices = new Slices(false);
    const seals: Seal[] = [];
    for (const row of rows) {
      const salt = randomBytes(SALT).toString('hex');
      seals.push({ salt, digest: digestOf(salt, loggedOf(row, this.names)) });
      await slices.rest();
    }
    await this.store(document, after + 1, seals);
  }

  private async store(document: number, first: number, seals: readonly Seal[]): Promise<void> {
    const rows: Stored<'seals'>[] = [];
    for (let i = 0; i < seals.length; i += CHUNK) {
      const chunk = seals.slice(i, i + CHUNK);
      const data = Buffer.concat(chunk.map(packed));
      rows.push({ document, first: first + i, last: first + i + chunk.length - 1, data });
    }
    await this.database.writes.add((transaction) =>
      this.database.models.seals.bulkCreate(rows, { ignoreDuplicates: true, transaction }),
    );
  }
}

function packed({ salt, digest }: Seal): Buffer {
  return Buffer.concat([
    salt === null ? Buffer.alloc(SALT) : Buffer.from(salt, 'hex'),
    Buffer.from(digest, 'hex'),
  ]);
}

function unpacked(data: Buffer): Seal[] {
  return Array.from({ length: data.length / SEAL }, (_, i) => {
    const salt = data.subarray(i * SEAL, i * SEAL + SALT);
    return {
      salt: salt.every((byte) => byte === 0) ? null : salt.toString('hex'),
      digest: data.subarray(i * SEAL + SALT, (i + 1) * SEAL).toString('hex'),
    };
  });
}
