import type { Provenance } from '@oxbow/core/history';
import { handOf } from '@oxbow/core/history';
import type { People } from '../access/people.js';
import { may } from '../access/policy.js';
import type { Database } from '../store/database.js';

/** Another document than the one that is written in, as far as it is durable. */
export interface OtherDocument {
  readonly key: number;
  readonly id: string;
  readonly seq: number;
  readonly provenance: Provenance;
}

/** A document as it is open in this process. */
interface OpenDocument {
  readonly durable: number;
  readonly head: { readonly provenance: Provenance };
}

/** Looks sources up in documents other than the one that is written in, by the rights of whoever writes. */
export class Elsewhere {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly rooms: { get(document: number): Promise<OpenDocument> },
  ) {}

  /** A document for somebody who may read it; null where there is none. */
  async open(id: string, person: number): Promise<OtherDocument | null> {
    const standing = await this.people.standings.of(id, person);
    if (!standing || !may(standing.role, 'read')) return null;
    const room = await this.rooms.get(standing.document);
    return { key: standing.document, id, seq: room.durable, provenance: room.head.provenance };
  }

  /** Who made some edits of another document, or wrote there what it has from elsewhere. By seq. */
  async writers(
    { key, provenance }: OtherDocument,
    seqs: ReadonlySet<number>,
  ): Promise<ReadonlyMap<number, string>> {
    const rows = await this.database.models.edits.findAll({
      where: { document: key, seq: [...seqs] },
      attributes: ['seq', 'author'],
      raw: true,
    });
    const out = new Map(rows.map(({ seq, author }) => [seq, this.people.id(author)]));
    for (const seq of seqs) {
      const hand = handOf(provenance, seq);
      if (hand !== undefined) out.set(seq, hand);
    }
    return out;
  }
}
