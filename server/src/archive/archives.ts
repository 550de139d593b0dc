import type { ArchiveAbout, ArchivedEdit, Filing } from '@oxbow/contract';
import { chainOf } from '@oxbow/core/formats';
import type { SealedEdit } from '@oxbow/core/formats';
import { nanoid } from 'nanoid';
import { Op } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import type { Images } from '../store/images.js';
import { Trouble } from '../trouble/trouble.js';
import type { Given } from '../formats/file-task.js';
import type { Files } from '../formats/files.js';
import type { Database } from '../store/database.js';
import type { Log, StoredEdit } from '../store/log.js';
import type { StoredDocument } from '../store/models.js';
import type { Seals } from './seals.js';
import { loggedOf } from './seals.js';

/** Edits inserted in one transaction. */
const BATCH = 500;

/** The whole history of a document as a file, and a document from such a file. */
export class Archives {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly log: Log,
    private readonly seals: Seals,
    private readonly images: Images,
    private readonly files: Files,
  ) {}

  /** Everything a document was, for its owners. */
  async write(document: StoredDocument, signal?: AbortSignal): Promise<Uint8Array> {
    await this.seals.upTo(document.key, document.seq);
    const [rows, seals] = await Promise.all([
      this.log.between(document.key, 0, document.seq),
      this.seals.of(document.key),
    ]);
    const log = rows.map((row, i) => ({
      ...loggedOf(row, (key) => this.people.id(key)),
      salt: seals[i]?.salt ?? null,
      digest: seals[i]?.digest ?? '',
    }));
    const about = await this.about(document, log);
    return this.files.archive(about, log, await this.images.all(document.key), signal);
  }

  /** A document of a person's own from an archive, with the same history. Throws `FormatError` for one that is not whole. */
  async read(person: Signed, given: Given, signal?: AbortSignal): Promise<StoredDocument> {
    const { about, log, images } = await this.files.unarchive(given, signal);
    const people = await this.known(about);
    const key = (id: string): number => people.get(id)?.key ?? person.key;
    const last = log.at(-1);
    const { documents } = this.database.models;
    const document = await this.database.writes.add(async (transaction) => {
      const row = await documents.create(
        {
          id: nanoid(12),
          kind: about.kind,
          title: about.title,
          collection: null,
          seq: 0,
          createdAt: about.createdAt,
          changedAt: about.createdAt,
          changedBy: key(log[0]?.author ?? ''),
        },
        { transaction },
      );
      return row.get({ plain: true });
    });
    for (const image of images) await this.images.store(document.key, Buffer.from(image));
    const rows = log.map((edit): StoredEdit => storedOf(document.key, edit, key));
    for (let i = 0; i < rows.length; i += BATCH) await this.log.append(rows.slice(i, i + BATCH));
    await this.seals.keep(document.key, log);
    await this.rest(document.key, about, key, person);
    return { ...document, seq: last?.seq ?? 0, changedAt: last?.acceptedAt ?? about.createdAt };
  }

  private async about(document: StoredDocument, log: readonly SealedEdit[]): Promise<ArchiveAbout> {
    const { versions, pastComments, landmarks, filings, shares, people } = this.database.models;
    const where = { document: document.key };
    const [cut, comments, named, filed, shared] = await Promise.all([
      versions.findAll({ where, order: [['number', 'ASC']], raw: true }),
      pastComments.findAll({ where, order: [['key', 'ASC']], raw: true }),
      landmarks.findAll({ where, order: [['key', 'ASC']], raw: true }),
      filings.findAll({ where, order: [['seq', 'ASC']], raw: true }),
      shares.findAll({ where, raw: true }),
    ]);
    const id = (key: number): string => this.people.id(key);
    const keys = new Set([
      ...shared.map(({ person }) => person),
      ...comments.map(({ person }) => person),
      ...named.map(({ person }) => person),
      ...log.map(({ author }) => this.people.byId(author)?.key ?? -1),
    ]);
    const rows = await people.findAll({
      where: { key: { [Op.in]: [...keys] } },
      order: [['key', 'ASC']],
      raw: true,
    });
    const roles = new Map(shared.map(({ person, role }) => [person, role]));
    return {
      archive: 1,
      title: document.title,
      kind: 'text',
      createdAt: Number(document.createdAt),
      edits: log.length,
      chain: chainOf(log.map(({ digest }) => digest)),
      people: rows.map((row) => ({
        id: row.id,
        name: row.name,
        initials: row.initials,
        colour: row.colour,
        email: row.email,
        role: (roles.get(row.key) ?? null) as 'owner' | null,
      })),
      versions: cut.map((row) => ({
        ...without(row, 'document'),
        at: Number(row.at),
        cause: row.cause as ArchiveAbout['versions'][number]['cause'],
        authors: (JSON.parse(row.authors) as number[]).map(id),
        comments: comments
          .filter(({ number }) => number === row.number)
          .map(({ at, person, comment }) => ({ at: Number(at), by: id(person), comment })),
      })),
      landmarks: named.map(({ id: own, seq, name, note, person, at, until }) => ({
        id: own,
        seq,
        name,
        note,
        by: id(person),
        at: Number(at),
        until: Number(until),
      })),
      filings: filed.map(({ seq, told }) => ({ seq, told: JSON.parse(told) as Filing })),
    };
  }

  /**
   * The people an archive names, by id: those who are here under that id and address, the others made known, without a way
   * to sign in. Throws 409 where an id is somebody else's here: the seals are over ids, so none can be exchanged.
   */
  private async known(about: ArchiveAbout): Promise<ReadonlyMap<string, Signed>> {
    const addresses = await this.people.addresses();
    const address = new Map([...addresses].map(([email, person]) => [person.key, email]));
    const clash = about.people.find(({ id, email }) => {
      const here = this.people.byId(id);
      return here && address.get(here.key) !== email.toLowerCase();
    });
    if (clash)
      throw new Trouble(
        409,
        'This history names somebody who is somebody else here',
        `${clash.name} (${clash.id})`,
      );
    const out = new Map<string, Signed>();
    for (const { id, name, initials, colour, email } of about.people) {
      const taken = addresses.has(email.toLowerCase());
      const person =
        this.people.byId(id) ??
        (await this.people.create({
          id,
          name,
          initials,
          colour,
          email: taken || !email ? `${nanoid()}@nowhere.invalid` : email,
          about: 'is named in a history that was brought in',
          passwordHash: '',
        }));
      out.set(id, person);
    }
    return out;
  }

  /** Everything but the log; the share comes with it, so that nobody sees half a history. */
  private async rest(
    document: number,
    about: ArchiveAbout,
    key: (id: string) => number,
    owner: Signed,
  ): Promise<void> {
    const { versions, pastComments, landmarks, filings, shares } = this.database.models;
    await this.database.writes.add(async (transaction) => {
      await shares.create({ document, person: owner.key, role: 'owner' }, { transaction });
      await versions.bulkCreate(
        about.versions.map((row) => ({
          ...without(row, 'comments'),
          document,
          authors: JSON.stringify(row.authors.map(key)),
        })),
        { transaction },
      );
      await pastComments.bulkCreate(
        about.versions.flatMap(({ number, comments }) =>
          comments.map(({ at, by, comment }) => ({ document, number, at, person: key(by), comment })),
        ),
        { transaction },
      );
      await landmarks.bulkCreate(
        about.landmarks.map(({ by, ...row }) => ({ ...row, id: nanoid(10), document, person: key(by) })),
        { transaction },
      );
      await filings.bulkCreate(
        about.filings.map(({ seq, told }) => ({ document, seq, told: JSON.stringify(told) })),
        { transaction },
      );
    });
  }
}

function without<T extends object, K extends keyof T>(value: T, ...keys: readonly K[]): Omit<T, K> {
  return Object.fromEntries(Object.entries(value).filter(([key]) => !keys.includes(key as K))) as Omit<T, K>;
}

function storedOf(document: number, edit: ArchivedEdit, key: (id: string) => number): StoredEdit {
  const { steps, sources, cause, author } = edit;
  return {
    ...without(edit, 'salt', 'digest'),
    document,
    author: key(author),
    steps: JSON.stringify(steps),
    sources: sources.length > 0 ? JSON.stringify(sources) : null,
    cause: cause.kind === 'writing' ? null : JSON.stringify(cause),
  };
}
