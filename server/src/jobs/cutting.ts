import type { Logger } from 'pino';
import type { Database } from '../store/database.js';
import type { Versions } from '../versions/versions.js';

/** How often pauses are looked for, in milliseconds. */
const EVERY = 15_000;

/** Cuts versions where writers paused, by the clock. */
export class Cutting {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();

  constructor(
    private readonly database: Database,
    private readonly versions: Versions,
    private readonly log: Logger,
  ) {}

  /** Begins: each round starts a while after the one before has ended, so that none overlaps another. */
  start(): void {
    this.timer = setTimeout(() => {
      this.running = this.cutDue(Date.now()).then(() => {
        if (this.timer) this.start();
      });
    }, EVERY);
  }

  /** Ends; resolves when a round under way is done. */
  async stop(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    await this.running;
  }

  /** Cuts what is due in all documents. One that fails keeps no other from its turn. */
  async cutDue(now: number): Promise<void> {
    try {
      for (const document of await this.open()) await this.cutOne(document, now);
    } catch (error) {
      this.log.error({ err: error }, 'cutting versions failed');
    }
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
    const rows = await this.database.models.documents.findAll({
      attributes: ['key'],
      where: this.database.sequelize.literal(
        'seq > (SELECT COALESCE(MAX(versions.seq), -1) FROM versions WHERE versions.document = documents.key)',
      ),
      raw: true,
    });
    return rows.map(({ key }) => key);
  }
}
