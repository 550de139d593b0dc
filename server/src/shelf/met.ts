import type { People, Signed } from '../access/people.js';
import type { Database } from '../store/database.js';
import type { Gauges } from './gauges.js';

/** The people one meets: nobody sees all who are here. */
export class Met {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly gauges: Gauges,
  ) {}

  /** Oneself, whoever asks one for a document, whoever has one of one's documents by name or through a group, and whoever did something in what one may see of them. */
  async by(person: Signed): Promise<Signed[]> {
    const views = await this.people.documents(person);
    const met = new Set([person.key, ...(await this.having(views.map(({ key }) => key)))]);
    for (const one of await this.asking(person)) met.add(one);
    for (const view of views) for (const author of await this.gauges.authors(view)) met.add(author);
    return this.people.all.filter(({ key }) => met.has(key));
  }

  /** Whoever asks one for a document. */
  private async asking({ key }: Signed): Promise<number[]> {
    const rows = await this.database.models.notices.findAll({
      where: { person: key, kind: 'asked' },
      raw: true,
    });
    const ids = rows.flatMap(({ told }) => (JSON.parse(told) as { by: string[] }).by);
    return ids.flatMap((id) => this.people.byId(id)?.key ?? []);
  }

  private async having(documents: readonly number[]): Promise<number[]> {
    if (documents.length === 0) return [];
    const rows = await this.database.rows<{ person: number }>(
      `SELECT DISTINCT standings.person FROM standings JOIN shares ON shares.key = standings.share
       WHERE standings.document IN (:documents) AND (shares.person > 0 OR shares."groupKey" > 0)`,
      { documents },
    );
    return rows.map(({ person }) => person);
  }
}
