import { Op } from 'sequelize';
import type { Database } from './database.js';
import type { Stored } from './models.js';
import type { Together } from './writes.js';

/** A document as it was at one moment, or what changed in it since the checkpoint before. */
export type Checkpoint = Stored<'checkpoints'>;

/** A checkpoint that is to be stored, and the epoch of its document when its content was read. */
interface Waiting {
  readonly checkpoint: Checkpoint;
  readonly epoch: number;
}

/** Bytes of checkpoints written with one statement: whoever writes text waits for it. */
const MOST = 2 ** 20;

/**
 * Stored checkpoints. They are only kept to spare work, but a document that is written in fast has many, so that each is one
 * plain statement: as transactions of the models they took most of the time in which edits can be stored.
 */
export class Checkpoints implements Together<Waiting> {
  readonly most = MOST;

  constructor(private readonly database: Database) {}

  weight({ checkpoint }: Waiting): number {
    return checkpoint.data.length;
  }

  /** Stores a checkpoint, in place of one of the same moment, if its document's epoch is still the given one; resolves when it is durable. */
  keep(checkpoint: Checkpoint, epoch: number): Promise<void> {
    return this.database.writes.join(this, { checkpoint, epoch });
  }

  async run(waiting: readonly Waiting[]): Promise<void> {
    const { epochs } = this.database;
    const checkpoints = waiting.flatMap(({ checkpoint, epoch }) =>
      epochs.of(checkpoint.document) === epoch ? [checkpoint] : [],
    );
    if (checkpoints.length === 0) return;
    await this.database.run(
      `INSERT INTO checkpoints (document, seq, whole, data) VALUES ${checkpoints.map(() => '(?, ?, ?, ?)').join(', ')}
       ON CONFLICT (document, seq) DO UPDATE SET whole = excluded.whole, data = excluded.data`,
      checkpoints.flatMap(({ document, seq, whole, data }) => [document, seq, whole, data]),
    );
  }

  /** Deletes those of a document from an edit on. */
  async dropFrom(document: number, seq: number): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.checkpoints.destroy({ where: { document, seq: { [Op.gte]: seq } }, transaction }),
    );
  }

  /** The last one at or before a moment; undefined where there is none. */
  async before(document: number, seq: number): Promise<Omit<Checkpoint, 'document' | 'data'> | undefined> {
    const [found] = await this.database.rows<{ seq: number; whole: number }>(
      'SELECT seq, whole FROM checkpoints WHERE document = :document AND seq <= :seq ORDER BY seq DESC LIMIT 1',
      { document, seq },
    );
    return found;
  }

  /** The data of a whole checkpoint and of those that rest on it up to a moment, in order. */
  async chain(document: number, whole: number, seq: number): Promise<Buffer[]> {
    const rows = await this.database.rows<{ data: Buffer }>(
      'SELECT data FROM checkpoints WHERE document = :document AND whole = :whole AND seq <= :seq ORDER BY seq',
      { document, whole, seq },
    );
    return rows.map(({ data }) => data);
  }
}
