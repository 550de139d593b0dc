import type { Version } from '@oxbow/contract';
import { wordCount } from '@oxbow/core/content';
import { dueCuts, nextLabel } from '@oxbow/core/history';
import type { CutCause } from '@oxbow/core/history';
import { Op } from 'sequelize';
import type { People } from '../access/people.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Database } from '../store/database.js';
import type { VersionRow } from '../store/models.js';
import type { Moments } from '../store/moments.js';

export interface CutOptions {
  readonly cause: CutCause;
  readonly at: number;
  readonly comment?: string;
  readonly major?: boolean;
}

type Stored = Omit<import('sequelize').InferAttributes<VersionRow>, never>;

/** Cuts versions out of the log and lists them. Cutting is idempotent: a moment has at most one version. */
export class Versions {
  private readonly cutting = new Map<number, Promise<unknown>>();
  private listener: (document: number, version: Version) => void = () => undefined;

  constructor(
    private readonly database: Database,
    private readonly moments: Moments,
    private readonly people: People,
    private readonly comparisons: Comparisons,
  ) {}

  onCut(listener: (document: number, version: Version) => void): void {
    this.listener = listener;
  }

  /** The newest version of a document, or null before the beginning is cut. */
  async last(document: number): Promise<Stored | null> {
    return (await this.database.models.versions.findOne({
      where: { document },
      order: [['number', 'DESC']],
      raw: true,
    })) as Stored | null;
  }

  async byNumber(document: number, number: number): Promise<Stored | null> {
    return (await this.database.models.versions.findOne({
      where: { document, number },
      raw: true,
    })) as Stored | null;
  }

  async at(document: number, seq: number): Promise<Stored | null> {
    return (await this.database.models.versions.findOne({
      where: { document, seq },
      raw: true,
    })) as Stored | null;
  }

  /** Versions below `before`, newest first. */
  async list(document: number, before: number, limit: number): Promise<Stored[]> {
    const rows = await this.database.models.versions.findAll({
      where: { document, number: { [Op.lt]: before } },
      order: [['number', 'DESC']],
      limit,
      raw: true,
    });
    return rows as unknown as Stored[];
  }

  /** Cuts a version that ends with edit `seq`, or answers the one that does so already. */
  async cut(document: number, seq: number, options: CutOptions): Promise<Version> {
    const before = this.cutting.get(document) ?? Promise.resolve();
    const next = before.then(
      () => this.cutNow(document, seq, options),
      () => this.cutNow(document, seq, options),
    );
    this.cutting.set(document, next);
    try {
      return await next;
    } finally {
      if (this.cutting.get(document) === next) this.cutting.delete(document);
    }
  }

  /** Cuts whatever pauses and long runs are due by `now`. */
  async cutDue(document: number, now: number): Promise<void> {
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
    { cause, at, comment = '', major = false }: CutOptions,
  ): Promise<Version> {
    const held = await this.at(document, seq);
    if (held) return this.shape(held);
    const last = await this.last(document);
    const [earlier, later] = await Promise.all([
      this.moments.open(document, last?.seq ?? 0),
      this.moments.open(document, seq),
    ]);
    const { totals, gist } = await this.comparisons.compare(earlier, later);
    const authors = await this.database.models.edits.findAll({
      where: { document, seq: { [Op.gt]: last?.seq ?? -1, [Op.lte]: seq } },
      attributes: ['author'],
      group: ['author'],
      raw: true,
    });
    const row: Stored = {
      document,
      number: (last?.number ?? 0) + 1,
      label: nextLabel(last?.label ?? null, major),
      seq,
      at,
      cause,
      authors: JSON.stringify(authors.map((edit) => edit.author)),
      comment,
      gist: cause === 'beginning' ? 'The blank beginning' : gist,
      size: wordCount(later),
      wordsAdded: totals.wordsAdded,
      wordsRemoved: totals.wordsRemoved,
    };
    await this.database.writes.add((transaction) =>
      this.database.models.versions.create(row, { transaction }),
    );
    const version = this.shape(row);
    this.listener(document, version);
    return version;
  }

  /** A stored version as the API answers it. */
  shape(row: Stored): Version {
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
    };
  }
}
