import type { Certificate, ErasedDocument, ErasurePreview, ErasureWish } from '@oxbow/contract';
import { LRUCache } from 'lru-cache';
import { nanoid } from 'nanoid';
import type { People, Signed } from '../access/people.js';
import { may } from '../access/policy.js';
import type { View } from '../access/view.js';
import type { Settings } from '../membership/settings.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Copies, Sets } from './copies.js';
import { timesBy } from './covers.js';
import type { Covers } from './covers.js';
import type { Eraser, Told } from './eraser.js';
import type { Extents } from './extent.js';
import { timesIn } from './holdings.js';
import type { Entry, Journal } from './journal.js';
import type { Messages } from './messages.js';
import type { Seeker } from './sought.js';
import type { WordsElsewhere } from './words-elsewhere.js';

/** How long a preview holds, in milliseconds, and how many are held. */
const [HOLDS, MOST_PREVIEWS] = [30 * 60_000, 200];
/** Texts of a preview, and letters of each, that are told. */
const [TEXTS, LONGEST] = [40, 400];

/** What a preview found, until it is acted on. */
interface Found {
  readonly person: number;
  readonly document: number;
  readonly sets: Sets;
  readonly texts: readonly string[];
  readonly images: readonly string[];
  readonly byWords: readonly number[];
}

/** Shows owners what an erasure would take, begins it on their word, and tells of those that were. */
export class Erasures {
  private readonly previews = new LRUCache<string, Found>({ max: MOST_PREVIEWS, ttl: HOLDS });

  /** `report` hears of an erasure that failed; it goes on at the next start. */
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly settings: Settings,
    private readonly seeker: Seeker,
    private readonly copies: Copies,
    private readonly extents: Extents,
    private readonly elsewhere: WordsElsewhere,
    private readonly messages: Messages,
    private readonly eraser: Eraser,
    private readonly journal: Journal,
    private readonly report: (error: unknown) => void,
  ) {}

  /** Everything that holds what is to be erased. Throws 422 where there is nothing. */
  async preview(view: View, person: Signed, wish: ErasureWish): Promise<ErasurePreview> {
    ownsAll(view);
    const sought = await this.seeker.find(view, person, wish);
    const sets = await this.copies.reach(sought.sets);
    const here = sought.sets.get(view.key);
    const byOrigin = here ? await this.copies.reach(new Map([[view.key, here]])) : new Map();
    const byWords = [...sought.byWords].filter((document) => !byOrigin.has(document));
    const documents: ErasedDocument[] = [];
    const texts: string[] = [];
    const images = new Set(sought.images);
    const events = new Map<number, ReadonlySet<number>>();
    for (const [document, set] of sets) {
      const extent = await this.extents.of(document, set);
      if (extent.letters + extent.images === 0) continue;
      events.set(document, extent.events);
      for (const hash of extent.hashes) images.add(hash);
      if (document === view.key) texts.push(...extent.texts);
      documents.push(await this.told(document, person, extent, byWords.includes(document)));
    }
    if (documents.length === 0) throw new Trouble(422, 'Nothing of that ever stood in this document');
    const wanted = { documents: [...sets.keys()], texts: sought.texts, events };
    const found = await this.elsewhere.find(wanted);
    const { held } = await this.messages.look(await this.eraser.inMessages(sets, sought.texts));
    const id = nanoid(12);
    this.previews.set(id, {
      person: person.key,
      document: view.key,
      sets,
      texts: sought.texts,
      images: [...images],
      byWords,
    });
    const messages: ErasurePreview['places'] =
      held.length > 0 ? [{ place: 'message', times: held.length }] : [];
    return {
      id,
      texts: texts.slice(0, TEXTS).map((text) => text.slice(0, LONGEST)),
      documents: documents.sort((a, b) => Number(b.document === view.id) - Number(a.document === view.id)),
      places: [...timesBy(found), ...messages],
      sent: held.filter(({ sent }) => sent).length,
      needsSecond: await this.needsSecond(view.key),
    };
  }

  /** Erases what a preview showed, or asks another owner to agree. Throws 404 for a preview that holds no longer. */
  async begin(
    view: View,
    person: Signed,
    { preview, reason }: { readonly preview: string; readonly reason: string },
  ): Promise<Certificate> {
    const found = this.previews.get(preview);
    if (found?.person !== person.key || found.document !== view.key)
      throw new Trouble(404, 'That was looked for too long ago', 'Please look again, and then erase.');
    if (timesIn(reason, found.texts) > 0)
      throw Trouble.field('reason', 'says what is to be erased, and everybody may read it');
    const isAsked = await this.needsSecond(view.key);
    const { texts, images, byWords, sets } = found;
    const covers: Covers = { texts, images, byWords };
    const key = await this.database.writes.add(async (transaction) => {
      const { erasures, erasedIn } = this.database.models;
      const made = await erasures.create(
        {
          id: nanoid(12),
          document: view.key,
          kind: 'erasure',
          state: isAsked ? 'asked' : 'running',
          by: person.key,
          agreed: 0,
          reason: reason.trim(),
          at: Date.now(),
          done: 0,
          covers: JSON.stringify(covers),
          told: '{}',
        },
        { transaction },
      );
      await erasedIn.bulkCreate(
        [...sets].map(([document, set]) => ({
          erasure: made.key,
          document,
          seq: 0,
          ranges: JSON.stringify(set.ranges()),
          told: '{}',
        })),
        { transaction },
      );
      return made.key;
    });
    this.previews.delete(preview);
    if (!isAsked) this.run(key);
    return this.one(view, person, key);
  }

  /** A second owner agrees to an erasure, or declines it. Throws 404, and 403 for whoever asked themselves. */
  async answer(view: View, person: Signed, id: string, agree: boolean): Promise<Certificate> {
    const { erasures } = this.database.models;
    const row = await erasures.findOne({ where: { id, document: view.key, state: 'asked' }, raw: true });
    if (!row) throw new Trouble(404, 'Nobody asks for that any more');
    if (agree && row.by === person.key)
      throw new Trouble(403, 'Another owner has to agree', 'You asked for this erasure yourself.');
    await this.database.writes.add((transaction) =>
      erasures.update(
        agree
          ? { state: 'running', agreed: person.key }
          : { state: 'declined', covers: '', done: Date.now() },
        { where: { key: row.key, state: 'asked' }, transaction },
      ),
    );
    if (agree) this.run(row.key);
    return this.one(view, person, row.key);
  }

  /** What was erased in a document, as far as its history is told to somebody, newest first; owners see what is asked for too. */
  async list(view: View, person: Signed): Promise<Certificate[]> {
    const rows = await this.rows(view);
    const own = may(view, 'erase');
    const told = rows.filter(
      ({ state, seq }) => (own || state === 'done') && (view.first === 0 || seq > view.first),
    );
    return Promise.all(told.map((row) => this.certificate(view, person, row)));
  }

  /** Goes on with what a process that ended had begun, and does again what a backup does not know of yet. */
  async resume(): Promise<void> {
    await this.takeUp(await this.journal.read());
    const rows = await this.database.models.erasures.findAll({ where: { state: 'running' }, raw: true });
    for (const { key } of rows) await this.eraser.erase(key).catch(this.report);
    await this.eraser.sweep().catch(this.report);
  }

  /** Takes up erasures that the journal has and the data has not: the data was put back from before. */
  private async takeUp(entries: readonly Entry[]): Promise<void> {
    const { erasures, erasedIn, documents } = this.database.models;
    const known = new Set((await erasures.findAll({ attributes: ['id'], raw: true })).map(({ id }) => id));
    const keys = new Map(
      (await documents.findAll({ attributes: ['id', 'key'], raw: true })).map(({ id, key }) => [id, key]),
    );
    const person = (id: string): number => this.people.byId(id)?.key ?? 0;
    for (const { id, kind, by, agreed, reason, document, at, sets, images } of entries) {
      if (known.has(id)) continue;
      known.add(id);
      await this.database.writes.add(async (transaction) => {
        const covers: Covers = { texts: [], images, byWords: [], isAgain: true };
        const begun = { state: 'running', done: 0, covers: JSON.stringify(covers), told: '{}' };
        const made = await erasures.create(
          {
            id,
            kind,
            reason,
            at,
            by: person(by),
            agreed: person(agreed),
            document: keys.get(document) ?? 0,
            ...begun,
          },
          { transaction },
        );
        const rows = Object.entries(sets).flatMap(([one, ranges]) => {
          const key = keys.get(one);
          return key === undefined
            ? []
            : [{ erasure: made.key, document: key, seq: 0, ranges: JSON.stringify(ranges), told: '{}' }];
        });
        await erasedIn.bulkCreate(rows, { transaction });
      });
    }
  }

  private run(key: number): void {
    this.eraser.run(key).catch(this.report);
  }

  private async one(view: View, person: Signed, key: number): Promise<Certificate> {
    const row = (await this.rows(view)).find((one) => one.key === key);
    if (!row) throw new Trouble(404, 'There is no such erasure');
    return this.certificate(view, person, row);
  }

  private rows({ key }: View): Promise<(Stored<'erasures'> & { seq: number })[]> {
    return this.database.rows(
      `SELECT erasures.*, "erasedIn".seq FROM erasures JOIN "erasedIn" ON "erasedIn".erasure = erasures.key
       WHERE "erasedIn".document = :key AND erasures.kind = 'erasure' ORDER BY erasures.key DESC`,
      { key },
    );
  }

  private async certificate(
    view: View,
    person: Signed,
    row: Stored<'erasures'> & { seq: number },
  ): Promise<Certificate> {
    const told = JSON.parse(row.told) as Partial<Told>;
    const mayErase = may(view, 'erase');
    const seen = new Map((await this.people.documents(person)).map((one) => [one.key, one]));
    const documents = (told.documents ?? []).flatMap(({ key, ...rest }): ErasedDocument[] => {
      const held = seen.get(key);
      if (view.first > 0) return [];
      return [{ ...rest, document: held?.id ?? null, title: held?.title ?? '' }];
    });
    return {
      id: row.id,
      state: row.state as Certificate['state'],
      by: this.people.id(row.by),
      agreed: row.agreed > 0 ? this.people.id(row.agreed) : null,
      reason: row.reason,
      at: iso(row.at),
      done: Number(row.done) > 0 ? iso(row.done) : null,
      seq: row.seq > 0 ? row.seq - view.first : null,
      documents,
      places: [...(told.places ?? [])],
      sent: told.sent ?? 0,
      checked: told.checked ? { ...told.checked, archives: told.checked.archives === true } : null,
      mayAgree: mayErase && row.state === 'asked' && row.by !== person.key,
    };
  }

  private async told(
    document: number,
    person: Signed,
    { letters, images, edits, versions, numbers, now }: ErasedDocumentCounts,
    byWords: boolean,
  ): Promise<ErasedDocument> {
    const view = (await this.people.standings.views(person.key, [document]))[0];
    return {
      document: view?.id ?? null,
      title: view?.title ?? '',
      by: byWords ? 'words' : 'origin',
      now,
      numbers: view && view.first === 0 && may(view, 'lookBack') ? numbers : [],
      ...{ letters, images, edits, versions },
    };
  }

  private async needsSecond(document: number): Promise<boolean> {
    if (!(await this.settings.get()).secondOwner) return false;
    const owners = await this.database.rows(
      `SELECT DISTINCT person FROM holdings WHERE document = :document AND role = 'owner'`,
      { document },
    );
    return owners.length > 1;
  }
}

type ErasedDocumentCounts = Pick<
  ErasedDocument,
  'letters' | 'images' | 'edits' | 'versions' | 'numbers' | 'now'
>;

function ownsAll({ first }: View): void {
  if (first > 0)
    throw new Trouble(
      403,
      'You know this document from a day on',
      'Only an owner with all of its history can erase.',
    );
}

function iso(at: number): string {
  return new Date(Number(at)).toISOString();
}
