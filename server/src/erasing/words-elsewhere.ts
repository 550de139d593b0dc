import type { HoldingPlace } from '@oxbow/contract';
import { FILLER } from '@oxbow/core/content';
import type { Stretch } from '@oxbow/core/erasing';
import type { Database } from '../store/database.js';
import { WORD_COLUMNS, erasedAt, stretchesOf, withWords, wordsOf } from './holdings.js';
import type { WordColumn } from './holdings.js';

type Row = Record<string, string | number | null>;

/** Words in a row: which row, where in it, how long they are, and which stretches of them are to be erased. */
export interface WordsIn {
  readonly table: WordColumn['table'];
  readonly column: string;
  readonly place: HoldingPlace;
  /** The document that it belongs to; 0 for none. */
  readonly document: number;
  readonly row: Row;
  readonly pointer: string;
  readonly length: number;
  readonly stretches: readonly Stretch[];
  readonly isEcho?: true;
}

/** What is erased, as far as words beside documents' text are concerned. */
export interface WordsSought {
  readonly documents: readonly number[];
  /** Collections whose names are looked at, by id. */
  readonly collections: readonly string[];
  readonly texts: readonly string[];
  /** The edits by which any of it came or went, by document: what quotes them is erased whole, since it may quote it in part. */
  readonly events: ReadonlyMap<number, ReadonlySet<number>>;
}

/** Words in titles, comments, names, notices and what came with files, of some documents. */
export class WordsElsewhere {
  constructor(private readonly database: Database) {}

  /** Where what is sought stands. */
  async find({ documents, collections, texts, events }: WordsSought): Promise<WordsIn[]> {
    if (documents.length === 0) return [];
    const out: WordsIn[] = [];
    const inOrder = new Map(
      [...events].map(([document, some]) => [document, Float64Array.from(some).sort()]),
    );
    for (const column of WORD_COLUMNS) {
      const about = abouts[column.table];
      const keys = this.keysOf(column.table);
      const rows = await this.database.rows<Row>(
        `SELECT ${[...new Set([...keys, column.column, ...(about?.columns ?? [])])].map((one) => `"${one}"`).join(', ')},
           ${column.document ?? '0'} AS "ofDocument" FROM "${column.table}" WHERE "${column.column}" IS NOT NULL AND ${column.of}`,
        { documents: [...documents], collections: ['', ...collections] },
      );
      for (const row of rows) {
        const isAbout = about?.is(row, inOrder.get(Number(row['document'])) ?? new Float64Array()) ?? false;
        for (const [pointer, text] of wordsOf(column, String(row[column.column]))) {
          const whole = isAbout && about?.pointers.test(pointer) && text !== '' && !isBlank(text);
          const stretches = whole ? [{ from: 0, to: text.length }] : stretchesOf(text, texts);
          if (stretches.length === 0) continue;
          const { table, column: name, place, isEcho } = column;
          const where = Object.fromEntries(keys.map((key) => [key, row[key] ?? null]));
          out.push({
            table,
            column: name,
            place,
            document: Number(row['ofDocument']),
            row: where,
            pointer,
            length: text.length,
            stretches,
            ...(isEcho ? { isEcho } : {}),
          });
        }
      }
    }
    return out;
  }

  /** Erases what was found. Words that are others by now go whole. */
  async erase(found: readonly WordsIn[]): Promise<void> {
    for (const { table, column, row, pointer, length, stretches } of found) {
      const model = this.database.models[table] as unknown as {
        findOne(options: object): Promise<Row | null>;
        update(values: Row, options: object): Promise<unknown>;
      };
      await this.database.writes.add(async (transaction) => {
        const held = await model.findOne({ where: row, raw: true, transaction });
        if (!held) return;
        const next = withWords(String(held[column]), pointer, (text) =>
          text.length === length ? erasedAt(text, stretches) : FILLER.repeat(text.length),
        );
        await model.update({ [column]: next }, { where: row, transaction });
      });
    }
  }

  private keysOf(table: WordColumn['table']): string[] {
    const model = this.database.models[table] as unknown as { primaryKeyAttributes: string[] };
    return [...model.primaryKeyAttributes];
  }
}

/** Tables whose words quote what some edits did, perhaps cut short: which edits a row is about, and which of its words quote. */
const abouts: Partial<
  Record<
    WordColumn['table'],
    {
      readonly columns: readonly string[];
      readonly pointers: RegExp;
      /** `events` are in order. */
      is(row: Row, events: Float64Array): boolean;
    }
  >
> = {
  notices: {
    columns: ['document', 'first', 'last'],
    pointers: /^\/text$/,
    is: (row, events) => isAnyIn(events, Number(row['first']), Number(row['last'])),
  },
  filings: {
    columns: ['document', 'seq'],
    pointers: /^\/tracked\/\d+\/text$|^\/remarks\/\d+\/about$/,
    is: (row, events) => isAnyIn(events, Number(row['seq']), Number(row['seq'])),
  },
};

/** Whether any of some numbers, which are in order, lies between two, both included. Binary search. */
function isAnyIn(numbers: Float64Array, first: number, last: number): boolean {
  let [low, high] = [0, numbers.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((numbers[middle] as number) < first) low = middle + 1;
    else high = middle;
  }
  return low < numbers.length && (numbers[low] as number) <= last;
}

function isBlank(text: string): boolean {
  return [...text].every((sign) => sign === FILLER);
}
