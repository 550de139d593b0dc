import type { Role } from '@oxbow/contract';
import { LRUCache } from 'lru-cache';
import type { Database } from '../store/database.js';
import type { Hold } from './policy.js';

/** How a person stands to a document: by its number, their role, and whether somebody has it checked out. */
export interface Standing {
  readonly document: number;
  readonly role: Role;
  readonly hold: Hold;
  /** Who has it checked out. */
  readonly holder: number | null;
}

/** How long a standing is taken for true, in milliseconds: what another process changed is known after that. */
const FRESH = 1000;
const MOST = 20_000;

/**
 * How people stand to documents, for messages of which many come a second: read once a second at most, and anew at once
 * after this process changed a share or a check-out.
 */
export class Standings {
  private readonly held = new LRUCache<string, Promise<Standing | null>>({ max: MOST, ttl: FRESH });

  constructor(private readonly database: Database) {}

  /** Null where there is no such document, or it is not shared with the person. */
  of(id: string, person: number): Promise<Standing | null> {
    const name = `${person} ${id}`;
    const held = this.held.get(name);
    if (held) return held;
    const read = this.read(id, person);
    this.held.set(name, read);
    read.catch(() => this.held.delete(name));
    return read;
  }

  /** A share or a check-out changed. */
  changed(): void {
    this.held.clear();
  }

  /** The same, as it is stored now. */
  async read(id: string, person: number): Promise<Standing | null> {
    const [row] = await this.database.rows<{
      document: number;
      role: string;
      asked: number | null;
      holder: number | null;
    }>(
      `SELECT documents.key AS document, shares.role AS role, "checkOuts".document AS asked, "checkOuts".person AS holder
       FROM documents JOIN shares ON shares.document = documents.key AND shares.person = :person
       LEFT JOIN "checkOuts" ON "checkOuts".document = documents.key WHERE documents.id = :id`,
      { id, person },
    );
    if (!row) return null;
    const { document, role, asked, holder } = row;
    const hold = asked === null ? 'free' : holder === null ? 'nobody' : holder === person ? 'own' : 'other';
    return { document, role: role as Role, hold, holder };
  }
}
