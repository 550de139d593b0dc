import type { FoundLandmark, Landmark } from '@oxbow/contract';
import { nanoid } from 'nanoid';
import type { Transaction } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import type { Database } from '../store/database.js';
import { may } from '../access/policy.js';
import type { View } from '../access/view.js';
import type { Stored as Row } from '../store/models.js';

import type { ToldVersions } from './told-versions.js';

type Stored = Row<'landmarks'>;

/** Most landmarks a search answers. */
const MOST = 100;
const LATEST = 'latest';

/** Names that people put on moments. A name is one landmark's within a document; one it gave up still leads to it. */
export class Landmarks {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly versions: ToldVersions,
  ) {}

  /** The landmarks of a document, in the order of its life. */
  async list(document: View): Promise<Landmark[]> {
    const rows = await this.database.models.landmarks.findAll({
      where: { document: document.key, until: 0 },
      order: [['seq', 'ASC']],
      raw: true,
    });
    return this.shapes(
      document,
      rows.filter((row) => isTold(document, row)),
    );
  }

  /** Names a moment. Throws 409 where it has a name or the name is another moment's. */
  async name(
    document: View,
    person: Signed,
    seq: number,
    { name, note = '' }: { name: string; note?: string },
    at = Date.now(),
  ): Promise<Landmark> {
    const row = {
      id: nanoid(10),
      document: document.key,
      seq: seq + document.first,
      name: clean(name),
      note: note.trim(),
      person: person.key,
      at,
      until: 0,
    };
    await this.database.writes.add(async (transaction) => {
      const held = await this.current(document, transaction);
      const here = held.find((one) => one.seq === row.seq);
      if (here) throw new Trouble(409, `This moment is named “${here.name}” already`, 'Rename it instead.');
      refuseTaken(held, row);
      await this.database.models.landmarks.create(row, { transaction });
    });
    return (await this.shapes(document, [row]))[0] as Landmark;
  }

  /** Gives a landmark another name or note; the name it had still leads to it. */
  async rename(
    document: View,
    person: Signed,
    id: string,
    patch: { name?: string; note?: string },
  ): Promise<Landmark> {
    const row = await this.database.writes.add(async (transaction) => {
      const held = await this.current(document, transaction);
      const old = held.find((one) => one.id === id);
      if (!old) throw new Trouble(404, 'There is no such landmark');
      const renamed = {
        id,
        document: old.document,
        seq: old.seq,
        name: clean(patch.name ?? old.name),
        note: (patch.note ?? old.note).trim(),
        person: person.key,
        at: Date.now(),
        until: 0,
      };
      refuseTaken(held, renamed);
      await this.end(old, transaction);
      await this.database.models.landmarks.create(renamed, { transaction });
      return renamed;
    });
    return (await this.shapes(document, [row]))[0] as Landmark;
  }

  /** Takes a landmark off its moment, which stays; answers which that is. */
  async remove(document: View, id: string): Promise<number> {
    return this.database.writes.add(async (transaction) => {
      const old = (await this.current(document, transaction)).find((one) => one.id === id);
      if (!old) throw new Trouble(404, 'There is no such landmark');
      await this.end(old, transaction);
      return old.seq - document.first;
    });
  }

  /** The landmark that an id, a name, a former name or "latest" means. Throws 404 where there is none. */
  async find(document: View, wanted: string): Promise<Landmark> {
    const all = await this.database.models.landmarks.findAll({
      where: { document: document.key },
      order: [['key', 'DESC']],
      raw: true,
    });
    const rows = all.filter((row) => isTold(document, row));
    const current = rows.filter(({ until }) => Number(until) === 0);
    const furthest = wanted === LATEST ? [...current].sort((a, b) => b.seq - a.seq)[0] : undefined;
    const named =
      current.find(({ id, name }) => id === wanted || sameName(name, wanted)) ??
      current.find(({ id }) => id === rows.find(({ name }) => sameName(name, wanted))?.id);
    const found = furthest ?? named;
    if (!found) throw new Trouble(404, `No moment of this document is named “${wanted}”`);
    return (await this.shapes(document, [found]))[0] as Landmark;
  }

  /** Landmarks in a person's documents whose name or note holds all of the words, newest first. */
  async search(person: Signed, words: string): Promise<FoundLandmark[]> {
    const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
    const rows = await this.database.rows<Stored>(
      `SELECT landmarks.* FROM landmarks CROSS JOIN standings
       WHERE standings.document = landmarks.document AND standings.person = :person AND landmarks.until = 0
       ORDER BY landmarks.at DESC, landmarks.key DESC`,
      { person: person.key },
    );
    const named = rows.filter(({ name, note }) => {
      const text = `${name} ${note}`.toLowerCase();
      return wanted.every((word) => text.includes(word));
    });
    const views = await this.people.standings.views(person.key, [
      ...new Set(named.map(({ document }) => document)),
    ]);
    const byKey = new Map(views.filter((view) => may(view, 'lookBack')).map((view) => [view.key, view]));
    const told = named.filter((row) => {
      const view = byKey.get(row.document);
      return view && isTold(view, row);
    });
    return Promise.all(
      told.slice(0, MOST).map(async (row): Promise<FoundLandmark> => {
        const view = byKey.get(row.document) as View;
        const [landmark] = await this.shapes(view, [row]);
        return { ...(landmark as Landmark), title: view.title };
      }),
    );
  }

  /** The landmarks that are told: a name that one may not know of is no name that is taken. */
  private async current(document: View, transaction: Transaction): Promise<Stored[]> {
    const rows = await this.database.models.landmarks.findAll({
      where: { document: document.key, until: 0 },
      transaction,
      raw: true,
    });
    return rows.filter((row) => isTold(document, row));
  }

  private async end(row: Stored, transaction: Transaction): Promise<void> {
    await this.database.models.landmarks.update(
      { until: Date.now() },
      { where: { key: row.key }, transaction },
    );
  }

  private async shapes(document: View, rows: readonly Omit<Stored, 'key'>[]): Promise<Landmark[]> {
    const told = rows.map((row) => ({ ...row, seq: row.seq - document.first }));
    const numbers = await this.versions.numbersAt(
      document,
      told.map(({ seq }) => seq),
    );
    return told.map((row) => this.shape(document.id, row, numbers.get(row.seq) ?? null));
  }

  private shape(document: string, row: Omit<Stored, 'key'>, version: number | null): Landmark {
    return {
      id: row.id,
      document,
      seq: row.seq,
      name: row.name,
      note: row.note,
      by: this.people.id(row.person),
      at: new Date(Number(row.at)).toISOString(),
      version,
    };
  }
}

/** Whether a landmark is on a moment that is told; on the one where the history begins, whether it was put there since. */
function isTold({ first, since }: View, { seq, at }: Pick<Stored, 'seq' | 'at'>): boolean {
  return seq > first || (seq === first && (since === null || Number(at) >= since));
}

function clean(name: string): string {
  return name.trim().replace(/\s+/g, ' ');
}

function sameName(a: string, b: string): boolean {
  return clean(a).toLowerCase() === clean(b).toLowerCase();
}

function refuseTaken(held: readonly Stored[], wanted: { id: string; name: string }): void {
  const taken = held.some((one) => one.id !== wanted.id && sameName(one.name, wanted.name));
  if (taken || sameName(wanted.name, LATEST))
    throw new Trouble(409, `“${wanted.name}” is taken`, undefined, [
      {
        path: 'name',
        message: taken
          ? 'names another moment of this document'
          : 'is kept for the link to the latest landmark',
      },
    ]);
}
