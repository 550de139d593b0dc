import { BEFORE } from '@oxbow/contract';
import type { DocumentSummary } from '@oxbow/contract';
import { kindNamed } from '@oxbow/core/kinds';
import { erasedIn } from '../access/erased.js';
import type { People } from '../access/people.js';
import { NOBODY } from '../access/view.js';
import type { View } from '../access/view.js';
import type { CheckOuts } from '../documents/check-outs.js';
import type { ToldVersions } from '../versions/told-versions.js';
import type { Gauges } from './gauges.js';
import type { Looks } from './looks.js';
import type { Database } from '../store/database.js';

/** Documents as the shelf shows them to one person. */
export class Shelf {
  constructor(
    private readonly database: Database,
    private readonly gauges: Gauges,
    private readonly versions: ToldVersions,
    private readonly people: People,
    private readonly looks: Looks,
    private readonly checkOuts: CheckOuts,
  ) {}

  async summary(view: View): Promise<DocumentSummary> {
    const { watches } = this.database.models;
    const id = (key: number): string => (key === NOBODY ? BEFORE : this.people.id(key));
    const [version, gauge, look, watched, checkOut, erased] = await Promise.all([
      view.history === 'none' ? 1 : this.versions.lastNumber(view),
      this.gauges.bars(view, id),
      this.looks.get(view),
      watches.count({ where: { document: view.key, person: view.person } }),
      this.checkOuts.of(view),
      erasedIn(this.database, view),
    ]);
    const fresh = await this.gauges.fresh(view, look.seq);
    return {
      id: view.id,
      kind: kindNamed(view.kind).name,
      title: view.title,
      collection: view.collection,
      seq: view.seq,
      version,
      role: view.role,
      history: view.history,
      createdAt: new Date(view.createdAt).toISOString(),
      changedAt: new Date(view.changedAt).toISOString(),
      changedBy: id(view.changedBy),
      gauge,
      fresh: { ...fresh, people: fresh.people.map(id) },
      watched: watched > 0,
      checkOut,
      erased,
    };
  }
}
