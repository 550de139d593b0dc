import type { KeepingRule, KeptBy, RulePreview, Thinning as ThinningTold } from '@oxbow/contract';
import { Instances, goingBy, unseenAt } from '@oxbow/core/erasing';
import type { KeptVersion, ThinningRule } from '@oxbow/core/erasing';
import { nanoid } from 'nanoid';
import type { People, Signed } from '../access/people.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import type { Rules, SetRule } from '../versions/rules.js';
import type { Eraser } from './eraser.js';
import type { Extents } from './extent.js';
import type { SecondOwner } from './second-owner.js';

const DAY = 24 * 3600_000;

type Version = Stored<'versions'>;

/** What goes of a document by a rule: versions, and what no kept moment shows. */
interface Plan {
  readonly versions: readonly Version[];
  readonly going: readonly Version[];
  readonly set: Instances;
}

/** Thins documents out by the rules they are kept by. */
export class Thinning {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly rooms: Rooms,
    private readonly rules: Rules,
    private readonly second: SecondOwner,
    private readonly extents: Extents,
    private readonly eraser: Eraser,
  ) {}

  /** A rule as it is told to somebody: also whether versions of some documents go by it only when another owner agrees. */
  async told(set: SetRule, documents: readonly number[], person: Signed, maySet: boolean): Promise<KeptBy> {
    const waits = set.rule.keep !== 'everything' && (await this.waits(set, documents));
    return {
      rule: set.rule,
      from: set.from,
      by: set.by > 0 ? this.people.id(set.by) : null,
      at: set.at,
      maySet,
      waits,
      mayAgree: waits && maySet && set.by !== person.key,
    };
  }

  private waits({ by, agreed }: SetRule, documents: readonly number[]): Promise<boolean> {
    return this.database.writes.add(async (transaction) => {
      for (const document of documents) {
        const needed = await this.second.needed(document, by, transaction);
        if (needed.length > 0 && !needed.includes(agreed)) return true;
      }
      return false;
    });
  }

  /** What would go of some documents under a rule. */
  async preview(documents: readonly number[], rule: KeepingRule, now = Date.now()): Promise<RulePreview> {
    const out: RulePreview['documents'] = [];
    for (const document of documents) {
      const { versions, going, set } = await this.plan(document, rule, now);
      const row = await this.database.models.documents.findByPk(document, { raw: true });
      const { letters } = going.length > 0 ? await this.extents.of(document, set) : { letters: 0 };
      if (!row) continue;
      out.push({
        document: row.id,
        title: row.title,
        versions: versions.length,
        go: going.map(({ number, label, at, gist }) => ({ number, label, at: iso(at), gist })),
        letters,
      });
    }
    return { documents: out };
  }

  /** Thins every document that a rule says to; answers of how many versions went. */
  async thinDue(now: number): Promise<number> {
    let count = 0;
    for (const { document, rule, by, agreed } of await this.rules.thinning())
      count += await this.thin(document, rule, by, agreed, now);
    await this.eraser.sweep();
    return count;
  }

  /** Thins one document by a rule, on the word of whoever set it, and of a second owner where one has to agree. */
  private async thin(
    document: number,
    rule: KeepingRule,
    by: number,
    agreed: number,
    now: number,
  ): Promise<number> {
    const { going, set } = await this.plan(document, rule, now);
    if (going.length === 0) return 0;
    const numbers = going.map(({ number }) => number);
    const key = await this.database.writes.add(async (transaction) => {
      const needed = await this.second.needed(document, by, transaction);
      if (needed.length > 0 && !needed.includes(agreed)) return null;
      const { erasures, erasedIn, versions } = this.database.models;
      const made = await erasures.create(
        {
          id: nanoid(12),
          document,
          kind: 'thinning',
          state: 'running',
          by,
          agreed,
          reason: JSON.stringify(rule),
          at: now,
          done: 0,
          covers: JSON.stringify({ texts: [], images: [], byWords: [] }),
          told: '{}',
          root: 0,
          owners: '[]',
        },
        { transaction },
      );
      const ranges = JSON.stringify(set.ranges());
      await erasedIn.create({ erasure: made.key, document, seq: 0, ranges, told: '{}' }, { transaction });
      await versions.update(
        { thinned: now, erasure: made.key, gist: '' },
        { where: { document, number: numbers }, transaction },
      );
      return made.key;
    });
    if (key === null) return 0;
    await this.eraser.erase(key);
    return going.length;
  }

  /** Versions of a document that went by rules, newest first. */
  async list(document: number): Promise<ThinningTold[]> {
    const { erasures, versions } = this.database.models;
    const rows = await erasures.findAll({
      where: { document, kind: 'thinning' },
      order: [['key', 'DESC']],
      raw: true,
    });
    const gone = await versions.findAll({
      where: { document, erasure: rows.map(({ key }) => key) },
      order: [['number', 'ASC']],
      raw: true,
    });
    return rows.map((row) => ({
      id: row.id,
      at: iso(row.at),
      by: this.people.id(row.by),
      rule: JSON.parse(row.reason) as KeepingRule,
      versions: gone
        .filter(({ erasure }) => erasure === row.key)
        .map(({ number, label, seq, at }) => ({ number, label, seq, at: iso(at) })),
    }));
  }

  private async plan(document: number, rule: KeepingRule, now: number): Promise<Plan> {
    const thinning = thinningOf(rule);
    const versions = await this.database.models.versions.findAll({
      where: { document, thinned: 0 },
      order: [['number', 'ASC']],
      raw: true,
    });
    const shown = versions.filter(({ discarded }) => Number(discarded) === 0);
    const none = { versions: shown, going: [], set: Instances.of([]) };
    if (goingBy(thinning, shown.map(toldAs(new Set())), now).length === 0) return none;
    const pinned = await this.pinned(document);
    const numbers = new Set(goingBy(thinning, shown.map(toldAs(pinned)), now));
    if (numbers.size === 0) return none;
    const { provenance, seq: head } = await (await this.rooms.get(document)).storedHead();
    const going = shown.filter(({ number }) => numbers.has(number));
    const open = await this.openFrom(document, thinning, shown, head, now);
    const kept = versions.flatMap(({ number, seq }) => (numbers.has(number) ? [] : [seq]));
    // What is new to somebody is told from where they last looked.
    const looked = await this.database.rows<{ seq: number }>(
      'SELECT seq FROM looks WHERE document = :document',
      { document },
    );
    const moments = [...new Set([0, head, ...kept, ...pinned, ...looked.map(({ seq }) => seq)])].sort(
      (a, b) => a - b,
    );
    return { versions: shown, going, set: unseenAt(provenance.runs, moments, open) };
  }

  /** The edit from which on every moment is kept. */
  private async openFrom(
    document: number,
    rule: ThinningRule,
    shown: readonly Version[],
    head: number,
    now: number,
  ): Promise<number> {
    if (rule.keep === 'everything') return 0;
    if (rule.keep === 'last') return shown.at(-rule.last)?.seq ?? 0;
    return this.rooms.moments.log.lastBefore(document, head, now - rule.days * DAY);
  }

  /** Moments of a document that something points to: names, where somebody's history begins, origins of copies. */
  private async pinned(document: number): Promise<ReadonlySet<number>> {
    const values = { document };
    const [named, begun, copied, [own]] = await Promise.all([
      this.database.rows<{ seq: number }>('SELECT seq FROM landmarks WHERE document = :document', values),
      this.database.rows<{ seq: number }>(
        `SELECT first AS seq FROM reaches WHERE document = :document
         UNION SELECT first FROM "memberReaches" WHERE document = :document`,
        values,
      ),
      this.database.rows<{ seq: number }>('SELECT seq FROM origins WHERE other = :document', values),
      this.database.rows<{ id: string }>('SELECT id FROM documents WHERE key = :document', values),
    ]);
    const causes = await this.database.rows<{ document: number; cause: string }>(
      `SELECT document, cause FROM edits WHERE cause IS NOT NULL
         AND (document = :document OR cause LIKE :like)`,
      { document, like: `%"${own?.id ?? ''}"%` },
    );
    return new Set([
      ...[...named, ...begun, ...copied].map(({ seq }) => seq),
      ...causes.flatMap((row) => pointedAt(row, document, own?.id ?? '')),
    ]);
  }
}

/** A version as rules see it; `pinned` are moments that something points to. */
function toldAs(pinned: ReadonlySet<number>): (version: Version) => KeptVersion {
  return ({ number, at, label, seq, cause }) => ({
    number,
    at: Number(at),
    stays: pinned.has(seq) || label.endsWith('.0') || cause === 'filing' || cause === 'share',
  });
}

/** The moments of a document that an edit says it came from. */
function pointedAt(row: { document: number; cause: string }, document: number, id: string): number[] {
  const cause = JSON.parse(row.cause) as Record<string, unknown>;
  const isOwn = row.document === document;
  const at = (name: string, holds: boolean): number[] =>
    holds && typeof cause[name] === 'number' ? [cause[name]] : [];
  if (cause['kind'] === 'assembly')
    return [...at('earlier', cause['other'] === id), ...at('later', cause['document'] === id)];
  return at('moment', 'document' in cause ? cause['document'] === id : isOwn);
}

function thinningOf({ keep, last = 2, days = 0, each = 'day' }: KeepingRule): ThinningRule {
  if (keep === 'last') return { keep, last };
  return keep === 'thinned' ? { keep, days, each } : { keep: 'everything' };
}

function iso(at: number): string {
  return new Date(Number(at)).toISOString();
}
