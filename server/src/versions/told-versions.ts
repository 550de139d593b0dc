import { BEFORE } from '@oxbow/contract';
import type { PastComment, Version } from '@oxbow/contract';
import { wordsIn } from '@oxbow/core/content';
import { nextLabel } from '@oxbow/core/history';
import type { Comparisons } from '../compare/comparisons.js';
import type { Histories, Told } from '../histories/histories.js';
import type { Database } from '../store/database.js';
import { DocumentCache } from '../store/epochs.js';
import type { Stored as Row } from '../store/models.js';
import { Slices } from '../threads/slices.js';
import type { Versions } from './versions.js';

type Stored = Row<'versions'>;
/** What of a version is about the stretch since the one before it. */
type SinceLast = Pick<Version, 'gist' | 'wordsAdded' | 'wordsRemoved' | 'authors'>;

const MOST = 2000;

/**
 * Versions as they are told to somebody. Where their history of a document begins somewhere, what stood there is version 1, and
 * the others are numbered and labelled from it; the first of them tells what came since, not since a version that they may not know.
 */
export class ToldVersions {
  /** What the first version behind a beginning tells, by document, beginning and version. */
  private readonly firsts: DocumentCache<SinceLast>;

  constructor(
    private readonly database: Database,
    private readonly versions: Versions,
    private readonly histories: Histories,
    private readonly comparisons: Comparisons,
  ) {
    this.firsts = new DocumentCache(database.epochs, { max: MOST });
  }

  /** Versions below a number, newest first. */
  async list(view: Told, before: number, limit: number): Promise<Version[]> {
    const hidden = await this.hidden(view);
    const rows = await this.versions.list(view.key, before + hidden, limit);
    const told = await this.tell(
      view,
      hidden,
      rows.filter(({ seq }) => seq > view.first || view.first === 0),
    );
    const isAll = view.first > 0 && rows.length < limit + hidden && told.length < limit && before > 1;
    return isAll ? [...told, await this.beginning(view)] : told;
  }

  /** The version of a number, or null. */
  async byNumber(view: Told, number: number): Promise<Version | null> {
    if (view.first > 0 && number === 1) return this.beginning(view);
    const hidden = await this.hidden(view);
    return this.one(view, hidden, await this.versions.byNumber(view.key, number + hidden));
  }

  /** The version that ends with an edit, or null. */
  async at(view: Told, seq: number): Promise<Version | null> {
    if (view.first > 0 && seq === 0) return this.beginning(view);
    return this.one(view, await this.hidden(view), await this.versions.at(view.key, seq + view.first));
  }

  /** The numbers of the versions that end with some edits, by seq. */
  async numbersAt(view: Told, seqs: readonly number[]): Promise<ReadonlyMap<number, number>> {
    const [hidden, numbers] = await Promise.all([
      this.hidden(view),
      this.versions.numbersAt(
        view.key,
        seqs.map((seq) => seq + view.first),
      ),
    ]);
    const told = new Map([...numbers].map(([seq, number]) => [seq - view.first, number - hidden]));
    return view.first > 0 ? told.set(0, 1) : told;
  }

  /** The number of the newest version. */
  async lastNumber(view: Told): Promise<number> {
    return Math.max(1, (await this.versions.lastNumber(view.key)) - (await this.hidden(view)));
  }

  /** A version that was cut just now, as it is told. */
  async told(view: Told, version: Version): Promise<Version> {
    if (view.first === 0) return version;
    return (await this.at(view, version.seq - view.first)) ?? version;
  }

  /** What a version's comment has said, oldest first. */
  async pastComments(view: Told, number: number): Promise<PastComment[]> {
    if (view.first > 0 && number <= 1) return [];
    return this.versions.pastComments(view.key, number + (await this.hidden(view)));
  }

  /** Writes a version's comment anew; null where there is none, or it is where the history begins. */
  async comment(view: Told, number: number, person: number, comment: string): Promise<Version | null> {
    if (view.first > 0 && number <= 1) return null;
    const hidden = await this.hidden(view);
    const version = await this.versions.comment(view.key, number + hidden, person, comment);
    return version && this.told(view, version);
  }

  private async one(view: Told, hidden: number, row: Stored | null): Promise<Version | null> {
    if (!row || (view.first > 0 && row.seq <= view.first)) return null;
    return (await this.tell(view, hidden, [row]))[0] ?? null;
  }

  /** How many versions more the document has than are told, not counting what stands for those that are not. */
  private async hidden({ key, first }: Told): Promise<number> {
    if (first === 0) return 0;
    const count = await this.versions.countUpTo(key, first);
    return count - 1;
  }

  private async tell(view: Told, hidden: number, rows: readonly Stored[]): Promise<Version[]> {
    const names = await this.versions.names(view.key);
    if (view.first === 0) return rows.map((row) => this.versions.shape(row, names.get(row.seq)));
    const labels = await this.labels(view);
    const out: Version[] = [];
    for (const row of rows) {
      const version = this.versions.shape(row, names.get(row.seq));
      const number = row.number - hidden;
      const since = number === 2 ? await this.firstSince(view, row) : {};
      const label = labels.get(row.number) ?? version.label;
      out.push({ ...version, ...since, number, label, seq: row.seq - view.first });
    }
    return out;
  }

  /** Labels counted from where the history begins, by the number that a version has in all. */
  private async labels({ key, first }: Told): Promise<ReadonlyMap<number, string>> {
    const rows = await this.versions.labelsBehind(key, first);
    const labels = new Map<number, string>();
    let last = nextLabel(null, false);
    for (const { number, label } of rows) labels.set(number, (last = nextLabel(last, label.endsWith('.0'))));
    return labels;
  }

  /** What stood where the history begins. */
  private async beginning(view: Told): Promise<Version> {
    const doc = await this.histories.moment(view, 0);
    const at = new Date(view.since ?? 0).toISOString();
    return {
      number: 1,
      label: nextLabel(null, false),
      seq: 0,
      at,
      cause: 'beginning',
      authors: [BEFORE],
      comment: '',
      gist: 'What stood when you came',
      size: await new Slices().through(wordsIn(doc)),
      wordsAdded: 0,
      wordsRemoved: 0,
      landmark: null,
    };
  }

  /** What came between the beginning and the first version behind it. */
  private async firstSince(view: Told, row: Stored): Promise<SinceLast> {
    const entry = this.firsts.entry(view.key, `${view.first} ${row.seq}`);
    if (entry.value) return entry.value;
    const seq = row.seq - view.first;
    const [earlier, later] = await Promise.all([
      this.histories.moment(view, 0),
      this.histories.moment(view, seq),
    ]);
    const { totals, gist } = await this.comparisons.compare(earlier, later);
    const { wordsAdded, wordsRemoved } = totals;
    const authors = await this.versions.authorsOf(view.key, view.first, row.seq);
    const told = { gist, wordsAdded, wordsRemoved, authors };
    entry.set(told);
    return told;
  }
}
