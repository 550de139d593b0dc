import type { DocumentSummary, Role } from '@oxbow/contract';
import type { People, Signed } from '../access/people.js';
import type { CheckOuts } from '../documents/check-outs.js';
import type { Versions } from '../versions/versions.js';
import type { Gauges } from './gauges.js';
import type { Looks } from './looks.js';
import type { Database } from '../store/database.js';
import type { StoredDocument } from '../store/models.js';

/** Documents as the shelf shows them to one person. */
export class Shelf {
  constructor(
    private readonly database: Database,
    private readonly gauges: Gauges,
    private readonly versions: Versions,
    private readonly people: People,
    private readonly looks: Looks,
    private readonly checkOuts: CheckOuts,
  ) {}

  async summary(document: StoredDocument, role: Role, person: Signed): Promise<DocumentSummary> {
    const { watches } = this.database.models;
    const id = (key: number): string => this.people.id(key);
    const { key, seq } = document;
    const [last, gauge, look, watched, checkOut] = await Promise.all([
      this.versions.last(key),
      this.gauges.bars(key, seq, id),
      this.looks.get(document, person),
      watches.count({ where: { document: document.key, person: person.key } }),
      this.checkOuts.of(document),
    ]);
    const fresh = await this.gauges.fresh(key, seq, look.seq, person.key);
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
      gauge,
      fresh: { ...fresh, people: fresh.people.map(id) },
      watched: watched > 0,
      checkOut,
    };
  }
}
