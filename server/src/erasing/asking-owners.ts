import type { Instances } from '@oxbow/core/erasing';
import { nanoid } from 'nanoid';
import type { People } from '../access/people.js';
import type { Notices } from '../past/notices.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import type { Covers } from './covers.js';
import type { Extents } from './extent.js';

/** Asks owners of documents to agree to an erasure that somebody else wants, each in an erasure of its own. */
export class AskingOwners {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly extents: Extents,
    private readonly notices: Notices,
  ) {}

  /**
   * Asks the owners of documents that hold the same by origin, but in which whoever erases may not. Those are not asked who were asked
   * before, nor where nothing of it is left.
   */
  async ask(
    erasure: Stored<'erasures'>,
    covers: Covers,
    others: ReadonlyMap<number, Instances>,
  ): Promise<void> {
    const root = erasure.root || erasure.key;
    for (const [document, set] of others) {
      const { letters, images } = await this.extents.of(document, set);
      if (letters + images > 0) await this.askOne(erasure, { ...covers, byWords: [] }, root, document, set);
    }
  }

  private async askOne(
    { by, reason }: Stored<'erasures'>,
    covers: Covers,
    root: number,
    document: number,
    set: Instances,
  ): Promise<void> {
    const { erasures, erasedIn } = this.database.models;
    const owners = await this.database.writes.add(async (transaction) => {
      if ((await erasures.count({ where: { root, document }, transaction })) > 0) return [];
      const lately = await this.people.ownership.lately(document, transaction);
      const made = await erasures.create(
        {
          id: nanoid(12),
          document,
          kind: 'erasure',
          state: 'asked',
          by,
          agreed: 0,
          reason,
          at: Date.now(),
          done: 0,
          covers: JSON.stringify(covers),
          told: '{}',
          root,
          owners: JSON.stringify(lately),
        },
        { transaction },
      );
      const ranges = JSON.stringify(set.ranges());
      await erasedIn.create({ erasure: made.key, document, seq: 0, ranges, told: '{}' }, { transaction });
      return lately;
    });
    await this.tell(document, owners, by, reason);
  }

  /** Tells owners that they are asked. */
  async tell(document: number, owners: readonly number[], by: number, reason: string): Promise<void> {
    const told = { by: [this.people.id(by)], text: reason, words: 0, undo: [] };
    for (const owner of owners)
      await this.notices.tell(
        document,
        owner,
        `erasure by ${by}`,
        'erasure',
        [{ seq: 0, at: Date.now() }],
        told,
      );
  }
}
