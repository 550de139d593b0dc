import { createHash } from 'node:crypto';
import type { StoredImage } from '@oxbow/contract';
import { fileTypeFromBuffer } from 'file-type';
import { picturesIn } from '@oxbow/core/content';
import type { Picture } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';
import type { Database } from './database.js';
import { Trouble } from '../trouble/trouble.js';

const TAKEN = new Set(['image/png', 'image/jpeg', 'image/gif', 'image/webp']);

/** Images: bytes stored once by their hash, reached only through a document that holds them. */
export class Images {
  constructor(private readonly database: Database) {}

  /** Stores an image for a document; what it is, its first bytes say. */
  async store(document: number, data: Buffer): Promise<StoredImage> {
    const type = (await fileTypeFromBuffer(data))?.mime ?? '';
    if (!TAKEN.has(type))
      throw new Trouble(415, 'Only PNG, JPEG, GIF and WebP images can be stored', undefined, [
        { path: 'file', message: 'is not such an image' },
      ]);
    const hash = createHash('sha256').update(data).digest('hex');
    const { images, documentImages } = this.database.models;
    await this.database.writes.add(async (transaction) => {
      await images.bulkCreate([{ hash, type, data }], { ignoreDuplicates: true, transaction });
      await documentImages.bulkCreate([{ document, hash }], { ignoreDuplicates: true, transaction });
    });
    return { hash, type, bytes: data.length };
  }

  /** Stores the images a file carries. */
  async storeAll(document: number, pictures: readonly Picture[]): Promise<void> {
    for (const { bytes } of pictures) await this.store(document, Buffer.from(bytes));
  }

  /** The bytes of all images that contents of a document show, as far as it holds them. */
  async shownIn(document: number, ...contents: readonly Node[]): Promise<Uint8Array[]> {
    const hashes = [...new Set(contents.flatMap((content) => [...picturesIn(content)]))];
    if (hashes.length === 0) return [];
    const { images, documentImages } = this.database.models;
    const held = await documentImages.findAll({ where: { document, hash: hashes }, raw: true });
    const rows = await images.findAll({ where: { hash: held.map(({ hash }) => hash) }, raw: true });
    return rows.map(({ data }) => data);
  }

  /** Lets another document show the images that a content refers to, as far as the first one holds them. */
  async lend(from: number, to: number, content: Node): Promise<void> {
    const wanted = picturesIn(content);
    if (wanted.size === 0) return;
    const { documentImages } = this.database.models;
    const held = await documentImages.findAll({ where: { document: from, hash: [...wanted] }, raw: true });
    const rows = held.map(({ hash }) => ({ document: to, hash }));
    await this.database.writes.add((transaction) =>
      documentImages.bulkCreate(rows, { ignoreDuplicates: true, transaction }),
    );
  }

  /** The bytes of all images that any moment of a document may show. */
  async all(document: number): Promise<Uint8Array[]> {
    const { images, documentImages } = this.database.models;
    const held = await documentImages.findAll({ where: { document }, order: [['hash', 'ASC']], raw: true });
    const rows = await images.findAll({
      where: { hash: held.map(({ hash }) => hash) },
      order: [['hash', 'ASC']],
      raw: true,
    });
    return rows.map(({ data }) => data);
  }

  async read(document: number, hash: string): Promise<{ type: string; data: Buffer } | null> {
    const { images, documentImages } = this.database.models;
    if (!(await documentImages.findOne({ where: { document, hash }, raw: true }))) return null;
    return images.findByPk(hash, { raw: true });
  }
}
