import type { Filing as FilingShape, Outcome } from '@oxbow/contract';
import { formatOfFile } from '@oxbow/core/formats';
import { kindOf } from '@oxbow/core/kinds';
import type { Reading } from '@oxbow/core/formats';
import type { Signed } from '../access/people.js';
import type { Images } from '../store/images.js';
import { Trouble } from '../trouble/trouble.js';
import type { Becoming } from '../going-back/becoming.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Given } from '../formats/file-task.js';
import type { Files } from '../formats/files.js';
import type { Database } from '../store/database.js';
import type { View } from '../access/view.js';

/** Which text of a file with tracked changes is taken: accepted, rejected, or both as two versions. */
export type TakeTracked = 'accepted' | 'rejected' | 'both';

/** A file to file. */
export interface FiledFile {
  readonly name: string;
  readonly reading: Reading;
}

export interface FilingOptions {
  readonly tracked?: TakeTracked;
  readonly comment?: string;
  readonly major?: boolean;
  /** The id of who filed it, where that is not its author. */
  readonly by?: string;
  /** When it is filed, instead of now. */
  readonly at?: number;
}

/** Most comments and tracked changes of a file that are kept with the version. */
const MOST = 500;

/** Files from outside, put on top of documents, with what came in them beside the text. */
export class Filing {
  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
    private readonly becoming: Becoming,
    private readonly images: Images,
    private readonly files: Files,
  ) {}

  /** Reads a file that was sent. Throws `FormatError`. */
  async read(name: string, given: Given, signal?: AbortSignal): Promise<FiledFile> {
    return { name, reading: await this.files.read(name, given, signal) };
  }

  /** Puts a file on top of a document, as an author's. Answers the version that holds it. */
  async file(
    document: View,
    author: Signed,
    { name, reading }: FiledFile,
    { tracked = 'accepted', by, ...options }: FilingOptions,
  ): Promise<Outcome> {
    if (kindOf(reading.doc).name !== document.kind)
      throw Trouble.field('file', 'holds another kind of document than this one');
    await this.images.storeAll(document.key, reading.pictures);
    const cause = { kind: 'filing', file: name, format: formatOfFile(name), ...(by ? { by } : {}) } as const;
    const { doc, before } = reading;
    const put = (target: Reading['doc'], comment?: string): Promise<Outcome> =>
      this.becoming.become(document, author, cause, async () => ({ target, read: cause.format }), {
        ...options,
        comment,
      });
    const [last, first] = tracked === 'rejected' && before ? [before, null] : [doc, before];
    if (tracked === 'both' && first) {
      const head = (await this.rooms.get(document.key)).head.doc;
      if (!head.eq(first)) await put(first, 'Before the changes tracked in the file');
    }
    const outcome = await put(last, options.comment);
    await this.remember(document.key, outcome.seq + document.first, reading);
    return outcome;
  }

  /** What came in the file that an edit filed. Throws 404 when it filed none. */
  async of(document: View, seq: number): Promise<FilingShape> {
    const row = await this.database.models.filings.findOne({
      where: { document: document.key, seq: seq + document.first },
      raw: true,
    });
    if (!row || (seq === 0 && document.first > 0)) throw new Trouble(404, 'No file was filed here');
    return JSON.parse(row.told) as FilingShape;
  }

  private async remember(document: number, seq: number, reading: Reading): Promise<void> {
    const { author, title, remarks, leftOut, tracked } = reading;
    const told: FilingShape = {
      author,
      title,
      remarks: remarks.slice(0, MOST),
      leftOut: [...leftOut],
      tracked: tracked.slice(0, MOST).map((change) => ({ ...change, text: change.text.slice(0, 500) })),
    };
    await this.database.writes.add((transaction) =>
      this.database.models.filings.create({ document, seq, told: JSON.stringify(told) }, { transaction }),
    );
  }
}
