import { randomBytes } from 'node:crypto';
import type { ReadingLink, ReadingLinkInput } from '@oxbow/contract';
import { toldToReaders } from '@oxbow/core/kinds/told';
import { nanoid } from 'nanoid';
import type { Node } from 'prosemirror-model';
import { Attempts } from '../access/attempts.js';
import type { People } from '../access/people.js';
import { time } from '../access/shares.js';
import type { Shares } from '../access/shares.js';
import type { View } from '../access/view.js';
import { whole } from '../access/view.js';
import type { Histories } from '../histories/histories.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';

/** How long visits are gathered before they are counted, in milliseconds. */
const GATHERED = 2000;
const NOBODY = { person: 0, groupKey: 0, email: '' };

type Row = Stored<'readingLinks'>;

/** A document as a reading link shows it: of its history this and no more. */
export interface Shown {
  readonly key: number;
  readonly title: string;
  /** The edit it stands at. */
  readonly seq: number;
  /** The document's epoch before it was read. */
  readonly epoch: number;
  readonly doc: Node;
  /** Sites that may show it in a frame. */
  readonly frames: readonly string[];
}

/** Links by which anybody may read a document without signing in. A document has one that holds at a time. */
export class ReadingLinks {
  private readonly visits = new Map<string, number>();
  private counting: NodeJS.Timeout | null = null;
  private readonly attempts = new Attempts();

  /** `site` gives the address at which people reach this server; `report` hears of visits that could not be counted. */
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly shares: Shares,
    private readonly rooms: Rooms,
    private readonly histories: Histories,
    private readonly site: () => string,
    private readonly report: (error: unknown) => void,
  ) {}

  /** The links of a document, newest first. */
  async list({ key }: View): Promise<ReadingLink[]> {
    await this.count();
    const rows = await this.database.models.readingLinks.findAll({
      where: { document: key },
      order: [['at', 'DESC']],
      raw: true,
    });
    return rows.map((row) => this.told(row));
  }

  /** Makes a link in place of the one that held. Throws 422 where it is to show a landmark and there is none. */
  async make(view: View, { shows, password, until, frames = [] }: ReadingLinkInput): Promise<ReadingLink> {
    if (shows === 'landmark' && (await this.latestLandmark(view.key)) === null)
      throw Trouble.field('shows', 'needs a landmark, and this document has none yet');
    const row: Row = {
      token: randomBytes(24).toString('base64url'),
      id: nanoid(10),
      document: view.key,
      shows,
      password: password === undefined ? '' : await this.people.passwords.hash(password),
      until: until ? Date.parse(until) : 0,
      frames: JSON.stringify(frames),
      at: Date.now(),
      by: view.person,
      visits: 0,
      visited: 0,
      ended: 0,
    };
    const { readingLinks } = this.database.models;
    const shared = { document: view.key, collection: '', person: view.person };
    await this.database.writes.add(async (transaction) => {
      await readingLinks.update({ ended: row.at }, { where: { document: view.key, ended: 0 }, transaction });
      await readingLinks.create(row, { transaction });
      await this.shares.note(shared, 'linked', NOBODY, null, transaction);
    });
    return this.told(row);
  }

  /** Ends a link. Throws 404 for one that does not hold. */
  async end(view: View, id: string): Promise<void> {
    const shared = { document: view.key, collection: '', person: view.person };
    await this.database.writes.add(async (transaction) => {
      const [count] = await this.database.models.readingLinks.update(
        { ended: Date.now() },
        { where: { document: view.key, id, ended: 0 }, transaction },
      );
      if (count === 0) throw new Trouble(404, 'There is no such link');
      await this.shares.note(shared, 'unlinked', NOBODY, null, transaction);
    });
  }

  /**
   * What a link shows, to whoever is at a network address. Throws 404 for no link, 410 for one that ended or whose document is gone,
   * 401 where a password is asked for or wrong, and `TooMany` where it was guessed at too often.
   */
  async open(token: string, password: string | null, address: string): Promise<Shown> {
    const row = await this.database.models.readingLinks.findByPk(token, { raw: true });
    if (!row) throw new Trouble(404, 'There is no such page');
    const document = await this.database.models.documents.findByPk(row.document, { raw: true });
    const isOver = Number(row.ended) !== 0 || (Number(row.until) !== 0 && Number(row.until) <= Date.now());
    if (isOver || !document || Number(document.binned) !== 0)
      throw new Trouble(410, 'This page is not shared any more', 'Ask whoever gave you its address.');
    if (row.password !== '') await this.checkPassword(row, password, address);
    const epoch = this.database.epochs.of(row.document);
    const seq = row.shows === 'landmark' ? await this.latestLandmark(row.document) : null;
    if (row.shows === 'landmark' && seq === null)
      throw new Trouble(404, 'There is nothing to read here yet', 'Please come back later.');
    const shown =
      seq === null
        ? await (await this.rooms.get(row.document)).storedHead()
        : { seq, doc: await this.histories.moment(whole(row.document), seq) };
    return {
      key: row.document,
      title: document.title,
      seq: shown.seq,
      epoch,
      doc: toldToReaders(shown.doc),
      frames: JSON.parse(row.frames) as string[],
    };
  }

  /** Counts a visit of whoever was shown a page; nothing of them is kept. */
  visited(token: string): void {
    this.visits.set(token, (this.visits.get(token) ?? 0) + 1);
    this.counting ??= setTimeout(() => void this.count().catch(this.report), GATHERED);
  }

  /** Counts the visits that are not counted yet. */
  async count(): Promise<void> {
    if (this.counting) clearTimeout(this.counting);
    this.counting = null;
    const visits = [...this.visits];
    this.visits.clear();
    if (visits.length === 0) return;
    await this.database.writes.add(async (transaction) => {
      for (const [token, by] of visits) {
        const where = { token };
        await this.database.models.readingLinks.increment({ visits: by }, { where, transaction });
        await this.database.models.readingLinks.update({ visited: Date.now() }, { where, transaction });
      }
    });
  }

  private async checkPassword(row: Row, password: string | null, address: string): Promise<void> {
    if (password === null) throw new Trouble(401, 'This page asks for a password');
    const attempt = { account: row.id, address };
    await this.attempts.begin(attempt);
    if (!(await this.people.passwords.check(password, row.password)))
      throw new Trouble(401, 'This is not the password of this page');
    await this.attempts.right(attempt);
  }

  private async latestLandmark(document: number): Promise<number | null> {
    const row = await this.database.models.landmarks.findOne({
      where: { document, until: 0 },
      order: [['seq', 'DESC']],
      raw: true,
    });
    return row?.seq ?? null;
  }

  private told(row: Row): ReadingLink {
    const maybe = (at: number): string | null => (Number(at) === 0 ? null : time(at));
    return {
      id: row.id,
      address: Number(row.ended) === 0 ? `${this.site()}/read/${row.token}` : '',
      shows: row.shows as ReadingLink['shows'],
      password: row.password !== '',
      until: maybe(row.until),
      frames: JSON.parse(row.frames) as string[],
      at: time(row.at),
      by: this.people.id(row.by),
      visits: row.visits,
      visited: maybe(row.visited),
      ended: maybe(row.ended),
    };
  }
}
