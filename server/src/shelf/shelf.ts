import type { DocumentSummary, Role } from '@oxbow/contract';
import { sittings } from '@oxbow/core/history';
import type { People, Signed } from '../access/people.js';
import type { CheckOuts } from '../documents/check-outs.js';
import type { Versions } from '../versions/versions.js';
import type { Looks } from './looks.js';
import type { Database } from '../store/database.js';
import type { Log } from '../store/log.js';
import type { StoredDocument } from '../store/models.js';

const HALF_DAY = 12 * 3600_000;
/** Bars of the small tideline. */
const BARS = 60;

/** Documents as the shelf shows them to one person. */
export class Shelf {
  constructor(
    private readonly database: Database,
    private readonly log: Log,
    private readonly versions: Versions,
    private readonly people: People,
    private readonly looks: Looks,
    private readonly checkOuts: CheckOuts,
  ) {}

  async summary(document: StoredDocument, role: Role, person: Signed): Promise<DocumentSummary> {
    const { watches } = this.database.models;
    const [last, traces, look, watched, checkOut] = await Promise.all([
      this.versions.last(document.key),
      this.log.traces(document.key, (key) => this.people.id(key)),
      this.looks.get(document, person),
      watches.count({ where: { document: document.key, person: person.key } }),
      this.checkOuts.of(document),
    ]);
    return {
      id: document.id,
      kind: 'text',
      title: document.title,
      collection: document.collection,
      seq: document.seq,
      version: last?.number ?? 1,
      role,
      createdAt: new Date(Number(document.createdAt)).toISOString(),
      changedAt: new Date(Number(document.changedAt)).toISOString(),
      changedBy: this.people.id(document.changedBy),
      gauge: sittings(traces, HALF_DAY)
        .slice(-BARS)
        .map((sitting) => ({
          at: sitting.to,
          shares: sitting.shares.map(
            (share) => [share.author, share.wordsIn, share.wordsOut] as [string, number, number],
          ),
        })),
      fresh: this.looks.fresh(traces, person, look),
      watched: watched > 0,
      checkOut,
    };
  }
}
