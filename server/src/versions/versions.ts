import type { PastComment, Version } from '@oxbow/contract';
import { wordsIn } from '@oxbow/core/content';
import { dueCuts, nextLabel } from '@oxbow/core/history';
import type { CutCause } from '@oxbow/core/history';
import { Op } from 'sequelize';
import type { Transaction } from 'sequelize';
import type { People } from '../access/people.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Database } from '../store/database.js';
import type { Stored as Row } from '../store/models.js';
import type { Moments } from '../store/moments.js';
import { Slices } from '../threads/slices.js';
import type { Rules } from './rules.js';
import { Turns } from '../threads/turns.js';

export interface CutOptions {
  readonly cause: CutCause;
  readonly at: number;
  readonly comment?: string;
  readonly major?: boolean;
  /** Who wrote the comment. */
  readonly by?: number;
}

type Stored = Row<'versions'>;
type Named = Version['landmark'];

const NOTHING = (): Promise<void> => Promise.resolve();

/** What is neither discarded nor thinned out. */
const SHOWN = { discarded: 0, thinned: 0 };

/** Cuts versions out of the log and lists them. Cutting is idempotent: a moment has at most one version. */
export class Versions {
  private readonly cutting = new Turns();
  private listener: (document: number, version: Version) => void = () => undefined;
  private onOther: (document: number) => void = () => undefined;

  constructor(
    private readonly database: Database,
    private readonly moments: Moments,
    private readonly people: People,
    private readonly comparisons: Comparisons,
    private readonly rules: Rules,
  ) {}

  onCut(listener: (document: number, version: Version) => void): void {
    this.listener = listener;
  }

  /** Calls `listener` when versions are gone, or are there again. */
  onChanged(listener: (document: number) => void): void {
    this.onOther = listener;
  }

  /** Versions of a document are gone, or are there again. */
  changed(document: number): void {
    this.onOther(document);
  }

  /** The newest version of a document, though it may be discarded, or null before the beginning is cut. */
  async last(document: number): Promise<Stored | null> {
    return (await this.database.models.versions.findOne({
      where: { document },
      order: [['number', 'DESC']],
      raw: true,
    })) as Stored | null;
  }

  async byNumber(document: number, number: number): Promise<Stored | null> {
    return (await this.database.models.versions.findOne({
      where: { document, number, ...SHOWN },
      raw: true,
    })) as Stored | null;
  }

  /** The number of the newest version that is shown; 0 where none is. */
  async lastNumber(document: number): Promise<number> {
    const [row] = await this.list(document, 2 ** 30, 1);
    return row?.number ?? 0;
  }

  /** Discarded versions, those discarded last first. */
  async discarded(document: number): Promise<Stored[]> {
    return (await this.database.models.versions.findAll({
      where: { document, discarded: { [Op.gt]: 0 } },
      order: [
        ['discarded', 'DESC'],
        ['number', 'DESC'],
      ],
      raw: true,
    })) as Stored[];
  }

  /** The version that ends with an edit, also one that is not shown. */
  async heldAt(document: number, seq: number): Promise<Stored | null> {
    return (await this.database.models.versions.findOne({
      where: { document, seq },
      raw: true,
    })) as Stored | null;
  }

  async at(document: number, seq: number): Promise<Stored | null> {
    return (await this.database.models.versions.findOne({
      where: { document, seq, ...SHOWN },
      raw: true,
    })) as Stored | null;
  }

  /** Versions below `before`, newest first. */
  async list(document: number, before: number, limit: number): Promise<Stored[]> {
    const rows = await this.database.models.versions.findAll({
      where: { document, number: { [Op.lt]: before }, ...SHOWN },
      order: [['number', 'DESC']],
      limit,
      raw: true,
    });
    return rows as unknown as Stored[];
  }

  /**
   * Cuts a version that ends with edit `seq`, or returns the one that does so already. `also` is done in the same transaction; when it
   * throws, no version is cut.
   */
  cut(
    document: number,
    seq: number,
    options: CutOptions,
    also: (transaction: Transaction) => Promise<void> = NOTHING,
  ): Promise<Version> {
    return this.cutting.take(document, () => this.cutNow(document, seq, options, also));
  }

  /** Cuts whatever pauses and long runs are due by `now`. */
  async cutDue(document: number, now: number): Promise<void> {
    if ((await this.rules.of(document)).cut === 'asked') return;
    const last = await this.last(document);
    const edits = await this.database.models.edits.findAll({
      where: { document, seq: { [Op.gt]: last?.seq ?? 0 } },
      attributes: ['seq', 'acceptedAt'],
      order: [['seq', 'ASC']],
      raw: true,
    });
    const stamps = edits.map((edit) => ({ seq: edit.seq, acceptedAt: Number(edit.acceptedAt) }));
    for (const { seq, at, cause } of dueCuts(stamps, now)) await this.cut(document, seq, { cause, at });
  }

  private async cutNow(
    document: number,
    seq: number,
    { cause, at, comment = '', major = false, by }: CutOptions,
    also: (transaction: Transaction) => Promise<void>,
  ): Promise<Version> {
    const held = await this.heldAt(document, seq);
    if (held) {
      if (also !== NOTHING) await this.database.writes.add(also);
      return this.shape(held, await this.nameOf(document, seq));
    }
    const last = await this.last(document);
    const told = await this.sinceOf(document, last?.seq ?? 0, seq);
    const authors = await this.authorKeys(document, last?.seq ?? -1, seq);
    const isMajor = major || (await this.rules.of(document)).numbers === 'major';
    const row: Stored = {
      document,
      number: (last?.number ?? 0) + 1,
      label: nextLabel(last?.label ?? null, isMajor),
      seq,
      at,
      cause,
      authors: JSON.stringify(authors),
      comment,
      ...told,
      gist: cause === 'beginning' ? 'The blank beginning' : told.gist,
      ...SHOWN,
      discardedBy: 0,
      erasure: 0,
    };
    await this.database.writes.add(async (transaction) => {
      await also(transaction);
      await this.database.models.versions.create(row, { transaction });
      if (comment && by !== undefined)
        await this.database.models.pastComments.create(
          { document, number: row.number, at, person: by, comment },
          { transaction },
        );
    });
    const version = this.shape(row, await this.nameOf(document, seq));
    this.listener(document, version);
    return version;
  }

  /** Tells anew what versions behind an edit changed, from the log as it is now, once none is being cut; those before it are as they were. */
  retell(document: number, from: number): Promise<void> {
    return this.cutting.take(document, () => this.retellNow(document, from));
  }

  private async retellNow(document: number, from: number): Promise<void> {
    const { versions } = this.database.models;
    const rows = await versions.findAll({ where: { document }, order: [['number', 'ASC']], raw: true });
    let before: Stored | null = null;
    for (const row of rows) {
      if (Number(row.thinned) > 0) continue;
      const earlier = before;
      before = row;
      if (row.seq < from || row.cause === 'beginning') continue;
      const told = await this.sinceOf(document, earlier?.seq ?? 0, row.seq);
      if (
        told.gist === row.gist &&
        told.size === row.size &&
        told.wordsAdded === row.wordsAdded &&
        told.wordsRemoved === row.wordsRemoved
      )
        continue;
      const where = { document, number: row.number };
      await this.database.writes.add((transaction) => versions.update(told, { where, transaction }));
    }
  }

  /** What changed from one edit to another, and how long the document is then. */
  private async sinceOf(document: number, after: number, seq: number) {
    const [earlier, later] = await Promise.all([
      this.moments.open(document, after),
      this.moments.open(document, seq),
    ]);
    const { totals, gist } = await this.comparisons.compare(earlier, later);
    const { wordsAdded, wordsRemoved } = totals;
    return { gist, size: await new Slices().through(wordsIn(later)), wordsAdded, wordsRemoved };
  }

  /** Writes a version's comment anew; what it said before stays on record. */
  async comment(document: number, number: number, person: number, comment: string): Promise<Version | null> {
    const row = await this.byNumber(document, number);
    if (!row) return null;
    if (row.comment !== comment)
      await this.database.writes.add(async (transaction) => {
        const { versions, pastComments } = this.database.models;
        await versions.update({ comment }, { where: { document, number }, transaction });
        await pastComments.create({ document, number, at: Date.now(), person, comment }, { transaction });
      });
    const version = this.shape({ ...row, comment }, await this.nameOf(document, row.seq));
    this.listener(document, version);
    return version;
  }

  /** What a version's comment has said, oldest first. */
  async pastComments(document: number, number: number): Promise<PastComment[]> {
    const rows = await this.database.models.pastComments.findAll({
      where: { document, number },
      order: [['key', 'ASC']],
      raw: true,
    });
    return rows.map(({ at, person, comment }) => ({
      at: new Date(Number(at)).toISOString(),
      by: this.people.id(person),
      comment,
    }));
  }

  /** The landmarks on moments of a document, by seq. */
  async names(document: number): Promise<ReadonlyMap<number, Named>> {
    const rows = await this.database.models.landmarks.findAll({ where: { document, until: 0 }, raw: true });
    return new Map(rows.map(({ seq, id, name, note }) => [seq, { id, name, note }]));
  }

  /** The numbers of the versions that end with some edits, by seq. */
  async numbersAt(document: number, seqs: readonly number[]): Promise<Map<number, number>> {
    const rows = await this.database.models.versions.findAll({
      where: { document, seq: [...seqs], ...SHOWN },
      attributes: ['number', 'seq'],
      raw: true,
    });
    return new Map(rows.map(({ number, seq }) => [seq, number]));
  }

  /** How many versions end with an edit or before it, also of those that are not shown. */
  countUpTo(document: number, seq: number): Promise<number> {
    return this.database.models.versions.count({ where: { document, seq: { [Op.lte]: seq } } });
  }

  /** Numbers and labels of the versions behind an edit, in order, also of those that are not shown. */
  labelsBehind(document: number, seq: number): Promise<{ number: number; label: string }[]> {
    return this.database.models.versions.findAll({
      where: { document, seq: { [Op.gt]: seq } },
      attributes: ['number', 'label'],
      order: [['number', 'ASC']],
      raw: true,
    });
  }

  /** Who made the edits after one up to another. */
  async authorsOf(document: number, after: number, upTo: number): Promise<string[]> {
    return (await this.authorKeys(document, after, upTo)).map((key) => this.people.id(key));
  }

  private async authorKeys(document: number, after: number, upTo: number): Promise<number[]> {
    const rows = await this.database.models.edits.findAll({
      where: { document, seq: { [Op.gt]: after, [Op.lte]: upTo } },
      attributes: ['author'],
      group: ['author'],
      raw: true,
    });
    return rows.map(({ author }) => author);
  }

  private async nameOf(document: number, seq: number): Promise<Named> {
    return (await this.names(document)).get(seq) ?? null;
  }

  /** A stored version as the API answers it. */
  shape(row: Stored, landmark: Named = null): Version {
    return {
      number: row.number,
      label: row.label,
      seq: row.seq,
      at: new Date(Number(row.at)).toISOString(),
      cause: row.cause as CutCause,
      authors: (JSON.parse(row.authors) as number[]).map((key) => this.people.id(key)),
      comment: row.comment,
      gist: row.gist,
      size: row.size,
      wordsAdded: row.wordsAdded,
      wordsRemoved: row.wordsRemoved,
      landmark,
    };
  }
}
