import { inflateSync } from 'node:zlib';
import { isErased } from '@oxbow/core/content';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import { Slices } from '../threads/slices.js';
import type { Sets } from './copies.js';
import { timesIn } from './holdings.js';
import type { Messages, MessagesSought } from './messages.js';

/** How a search for what was erased ended: what was read, and where it was still found. */
export interface Searched {
  readonly rows: number;
  readonly files: number;
  readonly found: number;
}

type Row = Record<string, unknown>;

/** Tables of documents' text, the columns that hold it, and whether they are packed. */
const PLACES: readonly { table: string; columns: readonly string[]; packed: boolean }[] = [
  { table: 'edits', columns: ['steps', 'cause', 'quoted'], packed: false },
  { table: 'checkpoints', columns: ['data'], packed: true },
  { table: 'provenance', columns: ['forms'], packed: true },
  { table: 'letters', columns: ['texts'], packed: true },
  { table: 'gauges', columns: ['sittings'], packed: true },
  { table: 'versions', columns: ['comment', 'gist'], packed: false },
  { table: 'pastComments', columns: ['comment'], packed: false },
  { table: 'landmarks', columns: ['name', 'note'], packed: false },
  { table: 'notices', columns: ['told'], packed: false },
  { table: 'filings', columns: ['told'], packed: false },
  { table: 'shareEvents', columns: ['named', 'told'], packed: false },
];

/** Rows read at once. */
const PAGE = 200;

/** Looks for what was erased in everything that is kept of some documents, and in messages of those who have them. */
export class Search {
  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
    private readonly messages: Messages,
  ) {}

  async look(sets: Sets, sought: MessagesSought): Promise<Searched> {
    const { texts } = sought;
    const slices = new Slices(false);
    let [rows, found] = [0, await this.unerased(sets)];
    for (const { table, columns, packed } of PLACES)
      for (const document of sets.keys())
        for (let skip = 0; ; skip += PAGE) {
          const held = await this.database.rows<Row>(
            `SELECT ${columns.map((name) => `"${name}"`).join(', ')} FROM "${table}"
             WHERE document = :document ORDER BY 1 LIMIT ${PAGE} OFFSET :skip`,
            { document, skip },
          );
          rows += held.length;
          for (const row of held) {
            for (const value of Object.values(row)) found += timesIn(textOf(value, packed), texts);
            await slices.rest();
          }
          if (held.length < PAGE) break;
        }
    const { held, read } = await this.messages.look(sought);
    return { rows, files: read, found: found + held.length };
  }

  /** Instances of some sets whose letters or images still stand where they were made. */
  private async unerased(sets: Sets): Promise<number> {
    let found = 0;
    for (const [document, set] of sets) {
      const tokens = await this.rooms.moments.log.tokens(document, set.seqs, new Slices(false));
      for (const { seq, offset, length } of set.ranges())
        for (const token of (tokens.get(seq) ?? []).slice(offset, offset + length)) {
          const holds = token.kind === 'unit' || (token.kind === 'leaf' && 'hash' in token.node.attrs);
          if (holds && !isErased(token)) found++;
        }
    }
    return found;
  }
}

function textOf(value: unknown, packed: boolean): string {
  if (packed && Buffer.isBuffer(value)) return inflateSync(value).toString('utf8');
  return typeof value === 'string' ? value : '';
}
