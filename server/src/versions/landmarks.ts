import type { FoundLandmark, Landmark } from '@oxbow/contract';
import { nanoid } from 'nanoid';
import type { Transaction } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import type { Database } from '../store/database.js';
import type { Stored as Row, StoredDocument } from '../store/models.js';

type Stored = Row<'landmarks'>;

/** Most landmarks a search answers. */
const MOST = 100;
const LATEST = 'latest';

/** Names that people put on moments. A name is one landmark's within a document; one it gave up still leads to it. */
export class Landmarks {
  constructor(
    private readonly database: Database,
    private readonly people: People,
  ) {}

  /** The landmarks of a document, in the order of its life. */
  async list(document: StoredDocument): Promise<Landmark[]> {
    const rows = await this.database.models.landmarks.findAll({
      where: { document: document.key, until: 0 },
      order: [['seq', 'ASC']],
      raw: true,
    });
    return this.shapes(document.id, rows);
  }

  /** Names a moment. Throws 409 where it has a name or the name is another moment's. */
  async name(
    document: StoredDocument,
    person: Signed,
    seq: number,
    { name, note = '' }: { name: string; note?: string },
    at = Date.now(),
  ): Promise<Landmark> {
    const row = {
      id: nanoid(10),
      document: document.key,
      seq,
      name: clean(name),
      note: note.trim(),
      person: person.key,
      at,
      until: 0,
    };
    await this.database.writes.add(async (transaction) => {
      const held = await this.current(document, transaction);
      const here = held.find((one) => one.seq === seq);
      if (here) throw new Trouble(409, `This moment is named “${here.name}” already`, 'Rename it instead.');
      refuseTaken(held, row);
      await this.database.models.landmarks.create(row, { transaction });
    });
    return (await this.shapes(document.id, [row]))[0] as Landmark;
  }

  /** Gives a landmark another name or note; the name it had still leads to it. */
  async rename(
    document: StoredDocument,
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
    return (await this.shapes(document.id, [row]))[0] as Landmark;
  }

  /** Takes a landmark off its moment, which stays. */
  async remove(document: StoredDocument, id: string): Promise<void> {
    await this.database.writes.add(async (transaction) => {
      const old = (await this.current(document, transaction)).find((one) => one.id === id);
      if (!old) throw new Trouble(404, 'There is no such landmark');
      await this.end(old, transaction);
    });
  }

  /** The landmark that an id, a name, a former name or "latest" means. Throws 404 where there is none. */
  async find(document: StoredDocument, wanted: string): Promise<Landmark> {
    const rows = await this.database.models.landmarks.findAll({
      where: { document: document.key },
      order: [['key', 'DESC']],
      raw: true,
    });
    const current = rows.filter(({ until }) => Number(until) === 0);
    const furthest = wanted === LATEST ? [...current].sort((a, b) => b.seq - a.seq)[0] : undefined;
    const named =
      current.find(({ id, name }) => id === wanted || sameName(name, wanted)) ??
      current.find(({ id }) => id === rows.find(({ name }) => sameName(name, wanted))?.id);
    const found = furthest ?? named;
    if (!found) throw new Trouble(404, `No moment of this document is named “${wanted}”`);
    return (await this.shapes(document.id, [found]))[0] as Landmark;
  }

  /** Landmarks in a person's documents whose name or note holds all of the words, newest first. */
  async search(person: Signed, words: string): Promise<FoundLandmark[]> {
    const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
    const rows = await this.database.rows<Stored & { of: string; title: string; number: number | null }>(
      `SELECT landmarks.*, documents.id AS of, documents.title, versions.number FROM landmarks CROSS JOIN shares
       JOIN documents ON documents.key = landmarks.document
       LEFT JOIN versions ON versions.document = landmarks.document AND versions.seq = landmarks.seq
       WHERE shares.document = landmarks.document AND shares.person = :person AND landmarks.until = 0 ORDER BY landmarks.at DESC`,
      { person: person.key },
    );
    return rows
      .filter(({ name, note }) => {
        const text = `${name} ${note}`.toLowerCase();
        return wanted.every((word) => text.includes(word));
      })
      .slice(0, MOST)
      .map((row) => ({ ...this.shape(row.of, row, row.number), title: row.title }));
  }

  private current(document: StoredDocument, transaction: Transaction): Promise<Stored[]> {
    return this.database.models.landmarks.findAll({
      where: { document: document.key, until: 0 },
      transaction,
      raw: true,
    });
  }

  private async end(row: Stored, transaction: Transaction): Promise<void> {
    await this.database.models.landmarks.update(
      { until: Date.now() },
      { where: { key: row.key }, transaction },
    );
  }

  private async shapes(document: string, rows: readonly Omit<Stored, 'key'>[]): Promise<Landmark[]> {
    const versions = await this.database.models.versions.findAll({
      where: { document: rows[0]?.document ?? 0, seq: rows.map(({ seq }) => seq) },
      attributes: ['number', 'seq'],
      raw: true,
    });
    const numbers = new Map(versions.map(({ number, seq }) => [seq, number]));
    return rows.map((row) => this.shape(document, row, numbers.get(row.seq) ?? null));
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
