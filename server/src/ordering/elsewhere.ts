import type { Token } from '@oxbow/core/content';
import type { Provenance } from '@oxbow/core/history';
import { handOf } from '@oxbow/core/history';
import { BEFORE } from '@oxbow/contract';
import type { People } from '../access/people.js';
import { may } from '../access/policy.js';
import type { Histories, Told } from '../histories/histories.js';
import type { Database } from '../store/database.js';

/** Another document than the one that is written in, as whoever writes has it, as far as it is durable. */
export interface OtherDocument extends Told {
  readonly seq: number;
  readonly provenance: Provenance;
}

/** Looks sources up in documents other than the one that is written in, by the rights of whoever writes. */
export class Elsewhere {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly histories: Histories,
  ) {}

  /** A document for somebody who may look back at it; null where there is none. */
  async open(id: string, person: number): Promise<OtherDocument | null> {
    const standing = await this.people.standings.of(id, person);
    if (!standing || !may(standing, 'lookBack')) return null;
    const { document: key, first, since } = standing;
    const told = { key, id, first, since };
    const { seq, provenance } = await this.histories.head(told);
    return { ...told, seq, provenance };
  }

  /** What some edits inserted. */
  tokens(other: OtherDocument, seqs: ReadonlySet<number>): Promise<(seq: number) => readonly Token[]> {
    return this.histories.tokens(other, seqs);
  }

  /** Who made some edits of another document, or wrote there what it has from elsewhere, as far as that is told. By seq. */
  async writers(
    { key, first, provenance }: OtherDocument,
    seqs: ReadonlySet<number>,
  ): Promise<ReadonlyMap<number, string>> {
    const rows = await this.database.models.edits.findAll({
      where: { document: key, seq: [...seqs].flatMap((seq) => (seq > 0 ? [seq + first] : [])) },
      attributes: ['seq', 'author'],
      raw: true,
    });
    const out = new Map(rows.map(({ seq, author }) => [seq - first, this.people.id(author)]));
    if (first > 0) out.set(0, BEFORE);
    for (const seq of seqs) {
      const hand = handOf(provenance, seq);
      if (hand !== undefined) out.set(seq, hand);
    }
    return out;
  }
}
