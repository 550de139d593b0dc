import type { Logger } from 'pino';
import type { Database } from '../store/database.js';
import type { Versions } from '../versions/versions.js';

/** Cuts versions where writers paused. */
export class Cutting {
  constructor(
    private readonly database: Database,
    private readonly versions: Versions,
    private readonly log: Logger,
  ) {}

  /** Cuts what is due in all documents. One that fails keeps no other from its turn. */
  async cutDue(now: number): Promise<void> {
    for (const document of await this.open()) await this.cutOne(document, now);
  }

  private async cutOne(document: number, now: number): Promise<void> {
    try {
      await this.versions.cutDue(document, now);
    } catch (error) {
      this.log.error({ err: error, document }, 'cutting versions of a document failed');
    }
  }

  /** Documents with edits behind their last version. */
  private async open(): Promise<number[]> {
    const rows = await this.database.rows<{ key: number }>(
      `SELECT key FROM documents WHERE binned = 0 AND seq >
         (SELECT COALESCE(MAX(versions.seq), -1) FROM versions WHERE versions.document = documents.key)`,
      {},
    );
    return rows.map(({ key }) => key);
  }
}
