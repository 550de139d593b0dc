import type { Notice } from '@oxbow/contract';
import { nanoid } from 'nanoid';
import type { People, Signed } from '../access/people.js';
import { may, mayErase } from '../access/policy.js';
import type { View } from '../access/view.js';
import { Trouble } from '../trouble/trouble.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';

/** Idle time after which what somebody does counts as another sitting, and is told anew. */
export const SITTING = 10 * 60_000;
const MOST = 100;

type Told = Pick<Notice, 'by' | 'text' | 'words' | 'undo'>;

/** Word of what happened, kept for each person until they put it away; a sitting is told once and grows. */
export class Notices {
  private listener: (person: number, document: number) => void = () => undefined;

  constructor(
    private readonly database: Database,
    private readonly people: People,
  ) {}

  /** Calls `listener` when somebody has a new notice, or one of theirs grew or is gone. */
  onNotice(listener: (person: number, document: number) => void): void {
    this.listener = listener;
  }

  /** Somebody's notices, newest first, of documents they may still see. */
  async list(person: Signed): Promise<Notice[]> {
    const documents = new Map((await this.people.documents(person)).map((view) => [view.key, view]));
    const rows = await this.database.models.notices.findAll({
      where: { person: person.key },
      order: [['at', 'DESC']],
      limit: MOST,
      raw: true,
    });
    return rows.flatMap((row) => {
      const view = documents.get(row.document);
      return view && mayKnow(view, row) ? [shapeOf(row, view)] : [];
    });
  }

  async putAway(person: Signed, id: string): Promise<void> {
    const gone = await this.database.writes.add((transaction) =>
      this.database.models.notices.destroy({ where: { id, person: person.key }, transaction }),
    );
    if (gone === 0) throw new Trouble(404, 'There is no such notice');
  }

  /** Writes a notice, or lets the one of the same sitting grow; says nothing to whoever may not see the document. */
  async tell(
    document: number,
    person: number,
    watch: string,
    kind: Notice['kind'],
    edits: readonly { readonly seq: number; readonly at: number }[],
    told: Told,
  ): Promise<void> {
    if (!(await this.maySee(document, person))) return;
    const [first, last] = [edits[0], edits.at(-1)];
    if (!first || !last) return;
    await this.database.writes.add(async (transaction) => {
      const { notices } = this.database.models;
      const held = await notices.findOne({
        where: { document, person, watch, kind },
        order: [['at', 'DESC']],
        transaction,
        raw: true,
      });
      const grows = held !== null && first.at - Number(held.at) <= SITTING;
      const before = grows ? (JSON.parse(held.told) as Told) : null;
      const sum = before && kind === 'changed' ? before.words + told.words : told.words;
      const row = {
        id: grows ? held.id : nanoid(10),
        document,
        person,
        watch,
        kind,
        first: grows ? held.first : first.seq,
        last: last.seq,
        at: last.at,
        mailed: 0,
        told: JSON.stringify({ ...told, words: sum, by: [...new Set([...(before?.by ?? []), ...told.by])] }),
      };
      await notices.upsert(row, { transaction });
    });
    this.listener(person, document);
  }

  /** The notices of text that was lost in a document, with the edits it was lost by. */
  async losses(document: number): Promise<{ id: string; person: number; undo: number[] }[]> {
    const rows = await this.database.models.notices.findAll({ where: { document, kind: 'lost' }, raw: true });
    return rows.map(({ id, person, told }) => ({ id, person, undo: (JSON.parse(told) as Told).undo }));
  }

  /** Takes a notice back, since it holds no longer. */
  async unsay(document: number, person: number, id: string): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.notices.destroy({ where: { id }, transaction }),
    );
    this.listener(person, document);
  }

  /** Takes back that somebody asked for a document: they have it. */
  async unsayAsked(document: number, watch: string): Promise<void> {
    const { notices } = this.database.models;
    const where = { document, watch, kind: 'asked' };
    const rows = await notices.findAll({ where, raw: true });
    if (rows.length === 0) return;
    await this.database.writes.add((transaction) => notices.destroy({ where, transaction }));
    for (const { person } of rows) this.listener(person, document);
  }

  private async maySee(document: number, person: number): Promise<boolean> {
    return (await this.people.standings.having(document)).includes(person);
  }
}

/** Whether somebody may know of a notice: of what is asked whoever shares the document, of the rest whoever may look back that far. */
function mayKnow(view: View, { kind, first }: Stored<'notices'>): boolean {
  if (kind === 'erasure') return mayErase(view);
  return kind === 'asked' ? may(view, 'share') : may(view, 'lookBack') && first > view.first;
}

function shapeOf(row: Stored<'notices'>, { id, title, first }: View): Notice {
  const told = JSON.parse(row.told) as Told;
  return {
    id: row.id,
    document: id,
    title,
    kind: row.kind as Notice['kind'],
    first: row.first - first,
    last: row.last - first,
    at: new Date(Number(row.at)).toISOString(),
    ...told,
    undo: told.undo.map((seq) => seq - first),
  };
}
