import type { ArchiveAbout, ArchivedEdit, Filing } from '@oxbow/contract';
import { FormatError, chainOf } from '@oxbow/core/formats';
import type { SealedEdit } from '@oxbow/core/formats';
import type { Cause, Source } from '@oxbow/core/history';
import { kindNamed } from '@oxbow/core/kinds';
import { nanoid } from 'nanoid';
import type { Documents } from '../documents/documents.js';
import type { Claims } from '../access/claims.js';
import type { People, Signed } from '../access/people.js';
import type { Images } from '../store/images.js';
import type { Given, WholeArchive } from '../formats/file-task.js';
import type { Files } from '../formats/files.js';
import { Op } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Log, StoredEdit } from '../store/log.js';
import type { View } from '../access/view.js';
import type { Seals } from './seals.js';
import { loggedOf, renamed } from './seals.js';

/** Edits inserted in one transaction. */
const BATCH = 500;

/** The whole history of a document as a file, and a document from such a file. */
export class Archives {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly claims: Claims,
    private readonly log: Log,
    private readonly seals: Seals,
    private readonly images: Images,
    private readonly files: Files,
    private readonly documents: Documents,
  ) {}

  /** Everything a document was, for its owners. */
  async write(document: View, signal?: AbortSignal): Promise<Uint8Array> {
    await this.seals.upTo(document.key, document.seq);
    const [rows, seals] = await Promise.all([
      this.log.between(document.key, 0, document.seq),
      this.seals.of(document.key),
    ]);
    const log = rows.map((row, i) => ({
      ...loggedOf(row, this.people.logNames),
      salt: seals[i]?.salt ?? null,
      digest: seals[i]?.digest ?? '',
    }));
    const about = await this.about(document, log);
    return this.files.archive(about, log, await this.images.all(document.key), signal);
  }

  /**
   * A document of a person's own from an archive, with the same history. Everybody it names is told as claimed. Throws
   * `FormatError` for one that is not whole; then nothing is left of it.
   */
  async read(person: Signed, given: Given, signal?: AbortSignal): Promise<View> {
    const archive = await this.files.unarchive(given, signal);
    const { about } = archive;
    if (about.kind === 'deck')
      throw new FormatError('This archive is of a kind of document that has no page here yet.');
    const { title, kind, createdAt: at } = about;
    return this.documents.makeWith(person, { title, kind, at, collection: null }, ({ key }) =>
      this.fill(key, archive, person),
    );
  }

  private async fill(document: number, { about, log, images }: WholeArchive, owner: Signed): Promise<void> {
    const people = await this.named(document, about);
    const named = (id: string): Signed => {
      const person = people.get(id);
      if (!person) throw new FormatError(`This archive names ${id} without saying who that is.`);
      return person;
    };
    for (const image of images) await this.images.store(document, Buffer.from(image));
    const rows = log.map((edit): StoredEdit => storedOf(document, edit, named));
    for (let i = 0; i < rows.length; i += BATCH) await this.log.append(rows.slice(i, i + BATCH));
    await this.seals.keep(document, log);
    await this.rest(document, about, (id) => named(id).key, owner);
  }

  private async about(document: View, log: readonly SealedEdit[]): Promise<ArchiveAbout> {
    const { versions, pastComments, landmarks, filings, shares } = this.database.models;
    const where = { document: document.key };
    const [cut, comments, named, filed, shared] = await Promise.all([
      versions.findAll({ where, order: [['number', 'ASC']], raw: true }),
      pastComments.findAll({ where, order: [['key', 'ASC']], raw: true }),
      landmarks.findAll({ where, order: [['key', 'ASC']], raw: true }),
      filings.findAll({ where, order: [['seq', 'ASC']], raw: true }),
      shares.findAll({ where: { ...where, person: { [Op.gt]: 0 } }, raw: true }),
    ]);
    const names = this.people.logNames;
    const id = (key: number): string => names.byKey(key);
    const ids = new Set([
      ...[...shared, ...comments, ...named].map(({ person }) => id(person)),
      ...log.flatMap(({ author, sources, cause }) => [
        author,
        ...(sources as Source[]).flatMap(({ of }) => (of ? [of.writer] : [])),
        ...((cause as Cause & { by?: string }).by === undefined ? [] : [(cause as { by: string }).by]),
      ]),
    ]);
    const roles = new Map(shared.map(({ person, role }) => [person, role]));
    return {
      archive: 1,
      title: document.title,
      kind: kindNamed(document.kind).name,
      createdAt: Number(document.createdAt),
      edits: log.length,
      chain: chainOf(log.map(({ digest }) => digest)),
      people: (await this.peopleOf(document.key, ids)).map(({ key, ...row }) => ({
        ...row,
        role: (roles.get(key) ?? null) as 'owner' | null,
      })),
      versions: cut.map((row) => ({
        ...without(row, 'document', 'discarded', 'discardedBy', 'thinned', 'erasure'),
        ...(Number(row.discarded) > 0 ? { discarded: Number(row.discarded) } : {}),
        ...(Number(row.thinned) > 0 ? { thinned: Number(row.thinned) } : {}),
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

  /** People by the names that logs have for them; of two with one name, who is somebody here, or claimed in this document. */
  private async peopleOf(document: number, ids: ReadonlySet<string>) {
    const { people, claims } = this.database.models;
    const rows = await people.findAll({ order: [['key', 'ASC']], raw: true });
    const claimed = new Map((await claims.findAll({ raw: true })).map((claim) => [claim.person, claim]));
    const isNear = ({ key }: (typeof rows)[number]): boolean =>
      (claimed.get(key)?.document ?? document) === document;
    const names = this.people.logNames;
    const out = new Map<string, Omit<ArchiveAbout['people'][number], 'role'> & { readonly key: number }>();
    for (const row of [...rows.filter(isNear), ...rows.filter((one) => !isNear(one))]) {
      const id = names.byKey(row.key);
      const { key, name, initials, colour } = row;
      if (ids.has(id) && !out.has(id))
        out.set(id, { key, id, name, initials, colour, email: claimed.get(key)?.address ?? row.email });
    }
    return [...out.values()];
  }

  /** The people an archive names, by the id it gives, each as somebody who is claimed in the document. */
  private async named(document: number, about: ArchiveAbout): Promise<ReadonlyMap<string, Signed>> {
    const out = new Map<string, Signed>();
    for (const { id, name, initials, colour, email } of about.people) {
      const claim = { says: id, name, initials, colour, address: email.toLowerCase() };
      out.set(id, await this.claims.person(document, claim));
    }
    return out;
  }

  /** Everything but the log. */
  private async rest(
    document: number,
    about: ArchiveAbout,
    key: (id: string) => number,
    owner: Signed,
  ): Promise<void> {
    const { versions, pastComments, landmarks, filings } = this.database.models;
    await this.database.writes.add(async (transaction) => {
      await versions.bulkCreate(
        about.versions.map((row) => ({
          ...without(row, 'comments'),
          discarded: row.discarded ?? 0,
          discardedBy: row.discarded ? owner.key : 0,
          thinned: row.thinned ?? 0,
          erasure: 0,
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

function storedOf(document: number, edit: ArchivedEdit, named: (id: string) => Signed): StoredEdit {
  const { steps, author } = edit;
  const { sources, cause } = renamed(edit, (id) => named(id).id);
  return {
    ...without(edit, 'salt', 'digest'),
    document,
    author: named(author).key,
    steps: JSON.stringify(steps),
    sources: sources.length > 0 ? JSON.stringify(sources) : null,
    quoted: null,
    cause: cause.kind === 'writing' ? null : JSON.stringify(cause),
  };
}
