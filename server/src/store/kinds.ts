import type { Kind } from '@oxbow/core/kinds';
import { kindNamed } from '@oxbow/core/kinds';
import { LRUCache } from 'lru-cache';
import type { Database } from './database.js';

/** Of how many documents it is known at once which kind they are of. */
const KNOWN = 100_000;

/** Of which kind each document is; that never changes. */
export class DocumentKinds {
  private readonly known = new LRUCache<number, Kind>({ max: KNOWN });

  constructor(private readonly database: Database) {}

  /** The kind of a document. Throws `RangeError` for one that is not there. */
  async of(document: number): Promise<Kind> {
    const known = this.known.get(document);
    if (known) return known;
    const row = await this.database.models.documents.findByPk(document, { attributes: ['kind'], raw: true });
    if (!row) throw new RangeError(`document ${document} is not there`);
    const kind = kindNamed(row.kind);
    this.known.set(document, kind);
    return kind;
  }
}
