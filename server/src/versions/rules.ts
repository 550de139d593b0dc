import { KEEP_EVERYTHING } from '@oxbow/contract';
import type { KeepingRule, KeptBy } from '@oxbow/contract';
import type { Database } from '../store/database.js';

/** What a rule is of: a document by its number, or a collection by its id. */
export interface Ruled {
  readonly document: number;
  readonly collection: string;
}

/** A rule with where it is set, by whom and which second owner agreed, by number; 0 for nobody. */
export interface SetRule extends Pick<KeptBy, 'rule' | 'from' | 'at'> {
  readonly by: number;
  readonly agreed: number;
}

interface Row {
  readonly document: number;
  readonly rule: string;
  readonly by: number;
  readonly agreed: number;
  readonly at: number | string;
}

/** How documents are kept. What a document's owner says counts, then what its collection's owner says, then that everything is kept. */
export class Rules {
  constructor(private readonly database: Database) {}

  /** The rule that counts for a document. */
  async of(document: number): Promise<KeepingRule> {
    return (await this.set(document)).rule;
  }

  /** The rule that would count for a document if it had none of its own. */
  async inherited(document: number): Promise<KeepingRule> {
    const rows = await this.rows(
      `document = 0 AND collection = (SELECT collection FROM documents WHERE documents.key = :document)`,
      { document },
    );
    return this.told(rows).rule;
  }

  /** The same with where it is set, by whom and when. */
  async ofDocument(document: number): Promise<SetRule> {
    return this.set(document);
  }

  /** The rule of a collection. */
  async ofCollection(collection: string): Promise<SetRule> {
    return this.told(await this.rows('document = 0 AND collection = :collection', { collection }));
  }

  /** Sets a rule, or with null takes it back. Who sets the very rule that another set agrees to it. */
  async put(what: Ruled, rule: KeepingRule | null, by: number): Promise<void> {
    const { keepingRules } = this.database.models;
    const where = { ...what };
    await this.database.writes.add(async (transaction) => {
      const held = await keepingRules.findOne({ where, raw: true, transaction });
      if (rule === null) await keepingRules.destroy({ where, transaction });
      else if (held && held.by !== by && isSame(JSON.parse(held.rule) as KeepingRule, rule))
        await keepingRules.update({ agreed: by }, { where, transaction });
      else
        await keepingRules.upsert(
          { ...what, rule: JSON.stringify(rule), by, at: Date.now(), agreed: 0 },
          { transaction },
        );
    });
  }

  /** The documents that the rule of a collection counts for. */
  async under(collection: string): Promise<number[]> {
    const rows = await this.database.rows<{ key: number }>(
      `SELECT key FROM documents WHERE collection = :collection AND binned = 0
         AND NOT EXISTS (SELECT 1 FROM "keepingRules" WHERE "keepingRules".document = documents.key)`,
      { collection },
    );
    return rows.map(({ key }) => key);
  }

  /** All documents by which a rule thins, with who set it. */
  async thinning(): Promise<{ document: number; rule: KeepingRule; by: number; agreed: number }[]> {
    const rows = await this.database.rows<{ document: number; rule: string; by: number; agreed: number }>(
      `SELECT documents.key AS document, "keepingRules".rule, "keepingRules".by, "keepingRules".agreed FROM documents
       JOIN "keepingRules" ON "keepingRules".document = documents.key
         OR ("keepingRules".document = 0 AND "keepingRules".collection = documents.collection
           AND NOT EXISTS (SELECT 1 FROM "keepingRules" AS own WHERE own.document = documents.key))
       WHERE documents.binned = 0`,
      {},
    );
    return rows
      .map(({ rule, ...rest }) => ({ ...rest, rule: JSON.parse(rule) as KeepingRule }))
      .filter(({ rule }) => rule.keep !== 'everything');
  }

  private async set(document: number): Promise<SetRule> {
    return this.told(
      await this.rows(
        `document = :document OR (document = 0 AND collection =
           (SELECT collection FROM documents WHERE documents.key = :document))`,
        { document },
      ),
    );
  }

  private rows(where: string, values: Record<string, number | string>): Promise<Row[]> {
    return this.database.rows<Row>(
      `SELECT document, rule, by, agreed, at FROM "keepingRules" WHERE ${where} ORDER BY document DESC LIMIT 1`,
      values,
    );
  }

  private told([row]: readonly Row[]): SetRule {
    if (!row) return { rule: KEEP_EVERYTHING, from: 'nobody', by: 0, agreed: 0, at: null };
    return {
      rule: JSON.parse(row.rule) as KeepingRule,
      from: row.document > 0 ? 'document' : 'collection',
      by: row.by,
      agreed: row.agreed,
      at: new Date(Number(row.at)).toISOString(),
    };
  }
}

/** Whether two rules say the same, in whatever order. */
function isSame(one: KeepingRule, other: KeepingRule): boolean {
  const names = [...new Set([...Object.keys(one), ...Object.keys(other)])] as (keyof KeepingRule)[];
  return names.every((name) => one[name] === other[name]);
}
