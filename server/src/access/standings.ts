import type { HistoryReach, Role } from '@oxbow/contract';
import { LRUCache } from 'lru-cache';
import type { Database } from '../store/database.js';
import type { StoredDocument } from '../store/models.js';
import type { Ownership } from './ownership.js';
import type { Hold } from './policy.js';
import type { Stand, View } from './view.js';
import { viewOf } from './view.js';

/** How a person stands to a document: what they may do with it, and how far back its history goes for them. */
export interface Standing extends Omit<Stand, 'person'> {
  /** The document's number. */
  readonly document: number;
  readonly id: string;
  /** Who has it checked out. */
  readonly holder: number | null;
}

/** That who has some documents is not what it was, or how they have them. */
export interface StandingsChange {
  readonly documents: readonly number[];
  /** Whom it is about; null for everybody here. */
  readonly people: readonly number[] | null;
  /** Whether they have other collections now, too. */
  readonly collections: boolean;
}

/** How long a standing is taken for true, in milliseconds: what another process changed is known after that. */
const FRESH = 1000;
const MOST = 20_000;

interface Row {
  readonly document: number;
  readonly id: string;
  readonly role: string;
  readonly history: string;
  readonly first: number;
  readonly since: number | string;
  readonly asked: number | null;
  readonly holder: number | null;
}

const SELECT = `SELECT documents.key AS document, documents.id, standings.role, standings.history, standings.first,
    standings.since, "checkOuts".document AS asked, "checkOuts".person AS holder
  FROM standings JOIN documents ON documents.key = standings.document
  LEFT JOIN "checkOuts" ON "checkOuts".document = documents.key
  WHERE standings.person = :person`;

/**
 * How people stand to documents. For messages of which many come a second it is read once a second at most, and anew at once
 * after this process changed a share or a check-out.
 */
export class Standings {
  private readonly held = new LRUCache<string, Promise<Standing | null>>({ max: MOST, ttl: FRESH });
  /** The numbers of documents by their outside ids, which never change. */
  private readonly keys = new LRUCache<string, number>({ max: MOST });
  private listener: (change: StandingsChange) => void = () => undefined;

  constructor(
    private readonly database: Database,
    private readonly ownership: Ownership,
  ) {}

  /** Null where there is no such document, or the person does not have it. */
  of(id: string, person: number): Promise<Standing | null> {
    const name = `${person} ${id}`;
    const held = this.held.get(name);
    if (held) return held;
    const read = this.read(id, person);
    this.held.set(name, read);
    read.catch(() => this.held.delete(name));
    return read;
  }

  /** A check-out changed. */
  stale(): void {
    this.held.clear();
  }

  /**
   * To be called when who has some documents changed, or how. What people had of them beside it goes with what they have lost: what they saw,
   * what they watch and what they were told.
   */
  async changed(change: StandingsChange): Promise<void> {
    const { documents } = change;
    this.held.clear();
    for (const document of documents) this.database.epochs.raise(document);
    if (documents.length > 0)
      await this.database.writes.add(async (transaction) => {
        await this.ownership.record(documents, transaction);
        for (const [table, from] of [
          ['looks', 'seq'],
          ['watches', 'since'],
          ['notices', 'first'],
        ] as const)
          await this.database.sequelize.query(
            `DELETE FROM ${table} WHERE document IN (:documents) AND NOT EXISTS (SELECT 1 FROM holdings
               WHERE holdings.document = ${table}.document AND holdings.person = ${table}.person
                 AND holdings.first <= ${table}.${from})`,
            { replacements: { documents: [...documents] }, transaction },
          );
      });
    this.listener(change);
  }

  /** Calls `listener` when who has some documents changed, or how. */
  onChanged(listener: (change: StandingsChange) => void): void {
    this.listener = listener;
  }

  /** The same, as it is stored now. */
  async read(id: string, person: number): Promise<Standing | null> {
    const document = await this.keyOf(id);
    if (document === null) return null;
    const sql = `${SELECT} AND standings.document = :document`;
    const [row] = await this.database.rows<Row>(sql, { document, person });
    return row ? standingOf(row, person) : null;
  }

  private async keyOf(id: string): Promise<number | null> {
    const held = this.keys.get(id);
    if (held !== undefined) return held;
    const [row] = await this.database.rows<{ key: number }>('SELECT key FROM documents WHERE id = :id', {
      id,
    });
    if (row) this.keys.set(id, row.key);
    return row?.key ?? null;
  }

  /** What a person has of one document, by its outside id; null where that is nothing. */
  async view(id: string, person: number): Promise<{ view: View; holder: number | null } | null> {
    const [row, standing] = await Promise.all([
      this.database.models.documents.findOne({ where: { id }, raw: true }),
      this.read(id, person),
    ]);
    return row && standing ? { view: viewOf(row, { ...standing, person }), holder: standing.holder } : null;
  }

  /** What a person has of all documents, or of some, by number. */
  async views(person: number, documents?: readonly number[]): Promise<View[]> {
    const some = documents === undefined ? '' : ' AND standings.document IN (:documents)';
    if (documents?.length === 0) return [];
    const asked = { person, ...(documents ? { documents } : {}) };
    const standings = await this.database.rows<Row>(SELECT + some, asked);
    const key = standings.map(({ document }) => document);
    const rows = await this.database.models.documents.findAll({ where: { key }, raw: true });
    const byKey = new Map<number, StoredDocument>(rows.map((row) => [row.key, row]));
    return standings.flatMap((standing) => {
      const row = byKey.get(standing.document);
      return row ? [viewOf(row, { ...standingOf(standing, person), person })] : [];
    });
  }

  /** Everybody who has a document now. */
  async having(document: number): Promise<number[]> {
    const rows = await this.database.rows<{ person: number }>(
      'SELECT person FROM standings WHERE document = :document',
      { document },
    );
    return rows.map(({ person }) => person);
  }
}

function standingOf(row: Row, person: number): Standing {
  const { document, id, role, history, first, since, asked, holder } = row;
  return {
    document,
    id,
    role: role as Role,
    hold: holdOf(asked, holder, person),
    holder,
    history: history as HistoryReach,
    first,
    since: history === 'all' ? null : Number(since),
  };
}

function holdOf(asked: number | null, holder: number | null, person: number): Hold {
  if (asked === null) return 'free';
  if (holder === null) return 'nobody';
  return holder === person ? 'own' : 'other';
}
