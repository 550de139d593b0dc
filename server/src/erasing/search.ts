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
  /** By document. */
  readonly rows: readonly { readonly document: number; readonly times: number }[];
  readonly files: number;
  readonly found: number;
}

type Row = Record<string, unknown>;

/** A table of documents' text, the columns that hold it, and whether they are packed. */
interface Place {
  readonly table: keyof Database['models'];
  readonly columns: readonly string[];
  readonly packed: boolean;
}

const PLACES: readonly Place[] = [
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

  /** What goes by a rule has no texts to look for: then only the instances are looked at. */
  async look(sets: Sets, sought: MessagesSought): Promise<Searched> {
    const rows = new Map([...sets.keys()].map((document) => [document, 0]));
    let found = await this.unerased(sets);
    if (sought.texts.length > 0)
      for (const place of PLACES)
        for (const [document, before] of rows) {
          const here = await this.inTable(place, document, sought.texts);
          rows.set(document, before + here.rows);
          found += here.found;
        }
    const { held, read } = await this.messages.look(sought);
    return {
      rows: [...rows].map(([document, times]) => ({ document, times })),
      files: read,
      found: found + held.length,
    };
  }

  private async inTable({ table, columns, packed }: Place, document: number, texts: readonly string[]) {
    const { primaryKeyAttributes: keys } = this.database.models[table] as unknown as {
      primaryKeyAttributes: readonly string[];
    };
    const named = (names: readonly string[]): string => names.map((name) => `"${name}"`).join(', ');
    const slices = new Slices(false);
    let [rows, found] = [0, 0];
    for (let skip = 0; ; skip += PAGE) {
      const held = await this.database.rows<Row>(
        `SELECT ${named(columns)} FROM "${table}"
         WHERE document = :document ORDER BY ${named(keys)} LIMIT ${PAGE} OFFSET :skip`,
        { document, skip },
      );
      rows += held.length;
      for (const row of held) {
        for (const value of Object.values(row)) found += timesIn(textOf(value, packed), texts);
        await slices.rest();
      }
      if (held.length < PAGE) return { rows, found };
    }
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
