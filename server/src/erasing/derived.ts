import { ERASED_IMAGE } from '@oxbow/core/content';
import type { Comparisons } from '../compare/comparisons.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Past } from '../past/past.js';
import type { Gauges } from '../shelf/gauges.js';
import type { Database } from '../store/database.js';
import type { Versions } from '../versions/versions.js';

/** What is made of documents' logs and kept beside them: letters, the index of words, sittings, what versions tell, images. */
export class Derived {
  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
    private readonly versions: Versions,
    private readonly gauges: Gauges,
    private readonly comparisons: Comparisons,
    private readonly past: Past,
  ) {}

  /** Makes all of it anew for a document whose log was changed from an edit on. */
  async renew(document: number, from: number): Promise<void> {
    this.database.epochs.raise(document);
    await this.past.renew(document, from);
    await this.gauges.forget(document);
    await this.versions.retell(document, from);
    this.versions.changed(document);
    this.comparisons.forget();
  }

  /** Deletes the images of a document that no moment of it shows any more, and of all documents those that none holds. Answers their hashes. */
  async collect(document: number, hashes: ReadonlySet<string>): Promise<string[]> {
    const gone: string[] = [];
    for (const hash of hashes)
      if (hash !== ERASED_IMAGE && !(await this.rooms.moments.log.hasNamed(document, 0, hash)))
        gone.push(hash);
    if (gone.length === 0) return [];
    await this.database.writes.add(async (transaction) => {
      await this.database.models.documentImages.destroy({ where: { document, hash: gone }, transaction });
      await this.database.sequelize.query(
        `DELETE FROM images WHERE hash IN (:gone)
           AND NOT EXISTS (SELECT 1 FROM "documentImages" WHERE "documentImages".hash = images.hash)`,
        { replacements: { gone }, transaction },
      );
    });
    return gone;
  }
}
