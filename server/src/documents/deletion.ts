import type { Model, ModelStatic } from 'sequelize';
import type { Rooms } from '../ordering/rooms.js';
import type { WordIndex } from '../past/words.js';
import type { Database } from '../store/database.js';

/** Edits deleted in one transaction, so that others' writes do not wait for a long history. */
const AT_ONCE = 2000;

/** Rows that stay when their document is deleted: whom archives named stay told as claimed, wherever they are credited. */
const KEPT = new Set(['documents', 'claims']);

/** `documents.binned` of a document that is being made: nobody sees it, and it is deleted if the process ends before it is whole. */
export const BEING_MADE = -1;

/** Deletes documents with all that is kept of them, and those that a process which ended was making or deleting. */
export class Deletion {
  /** Documents that are being made by this process. */
  private readonly making = new Set<number>();

  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
    private readonly words: WordIndex,
  ) {}

  /** Keeps a document from being deleted as left over while something makes it. */
  async whileMaking<T>(document: number, act: () => Promise<T>): Promise<T> {
    this.making.add(document);
    try {
      return await act();
    } finally {
      this.making.delete(document);
    }
  }

  /** From here on a document is being deleted: nobody sees it any more, and what is begun is gone on with after a fall. */
  async doom(key: number): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.documents.update({ binned: -Date.now() }, { where: { key }, transaction }),
    );
    this.rooms.forget(key);
    this.database.epochs.raise(key);
  }

  /** Deletes what was doomed, and what was left half-made. */
  async finish(): Promise<void> {
    const rows = await this.database.rows<{ key: number }>('SELECT key FROM documents WHERE binned < 0', {});
    for (const { key } of rows) if (!this.making.has(key)) await this.of(key);
  }

  /** Deletes all that is kept of a document, a long history in parts, and last the document. */
  async of(document: number): Promise<void> {
    this.rooms.forget(document);
    this.database.epochs.raise(document);
    const { edits, documentImages, documents } = this.database.models;
    const hashes = (await documentImages.findAll({ where: { document }, raw: true })).map(({ hash }) => hash);
    const last =
      (await edits.max<number | null, InstanceType<typeof edits>>('seq', { where: { document } })) ?? 0;
    for (let seq = 0; seq <= last; seq += AT_ONCE)
      await this.database.run('DELETE FROM edits WHERE document = ? AND seq <= ?', [document, seq + AT_ONCE]);
    await this.database.writes.add(async (transaction) => {
      await this.words.forget(document, transaction);
      for (const [name, model] of Object.entries(this.database.models) as [string, ModelStatic<Model>][])
        if (!KEPT.has(name) && 'document' in model.getAttributes())
          await model.destroy({ where: { document }, transaction });
      await documents.destroy({ where: { key: document }, transaction });
      if (hashes.length > 0)
        await this.database.sequelize.query(
          `DELETE FROM images WHERE hash IN (:hashes)
             AND NOT EXISTS (SELECT 1 FROM "documentImages" WHERE "documentImages".hash = images.hash)`,
          { replacements: { hashes }, transaction },
        );
    });
  }
}
