import type { Certificate, ErasedDocument, ErasurePreview, ErasureWish } from '@oxbow/contract';
import { LRUCache } from 'lru-cache';
import { nanoid } from 'nanoid';
import type { People, Signed } from '../access/people.js';
import { may, mayErase } from '../access/policy.js';
import type { View } from '../access/view.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { AskingOwners } from './asking-owners.js';
import type { Sets } from './copies.js';
import { setsOf, timesByDocument, timesOf } from './covers.js';
import type { Covers } from './covers.js';
import type { Eraser, Told } from './eraser.js';
import type { Extents } from './extent.js';
import { timesIn } from './holdings.js';
import type { Entry, Journal } from './journal.js';
import type { Messages } from './messages.js';
import type { ReachByRights } from './reach-by-rights.js';
import type { SecondOwner } from './second-owner.js';
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
    private readonly second: SecondOwner,
    private readonly seeker: Seeker,
    private readonly reach: ReachByRights,
    private readonly owners: AskingOwners,
    private readonly extents: Extents,
    private readonly elsewhere: WordsElsewhere,
    private readonly messages: Messages,
    private readonly eraser: Eraser,
    private readonly journal: Journal,
    private readonly report: (error: unknown) => void,
  ) {}

  /**
   * Everything that holds what is to be erased, as far as this person may see it: of documents that they may not look back at nothing is
   * told or counted. Throws 422 where there is nothing.
   */
  async preview(view: View, person: Signed, wish: ErasureWish): Promise<ErasurePreview> {
    ownsAll(view);
    const sought = await this.seeker.find(view, person, wish);
    const { own, others } = await this.reach.of(sought.sets, [person.key], new Set());
    const here = sought.sets.get(view.key);
    const byOrigin = here ? await this.reach.of(new Map([[view.key, here]]), [person.key], new Set()) : null;
    const byWords = [...sought.byWords].filter((document) => !byOrigin?.own.has(document));
    const documents: ErasedDocument[] = [];
    const texts: string[] = [];
    const images = new Set(sought.images);
    const events = new Map<number, ReadonlySet<number>>();
    for (const [document, set] of own) {
      const extent = await this.extents.of(document, set);
      if (extent.letters + extent.images === 0) continue;
      events.set(document, extent.events);
      for (const hash of extent.hashes) images.add(hash);
      if (document === view.key) texts.push(...extent.texts);
      const by = byWords.includes(document) ? 'words' : 'origin';
      documents.push(...(await this.told(document, person, extent, by, false)));
    }
    if (documents.length === 0) throw new Trouble(422, 'Nothing of that ever stood in this document');
    for (const [document, set] of others) {
      const extent = await this.extents.of(document, set);
      if (extent.letters + extent.images > 0)
        documents.push(...(await this.told(document, person, extent, 'origin', true)));
    }
    const collections = await this.reach.collections([...own.keys()], [person.key]);
    const wanted = { documents: [...own.keys()], collections, texts: sought.texts, events };
    const found = timesByDocument(await this.elsewhere.find(wanted));
    const people = [person.key];
    const { held } = await this.messages.look(await this.eraser.inMessages(own, sought.texts, people));
    const { places, sent } = await this.eraser.messagesKnown(held, people);
    const id = nanoid(12);
    this.previews.set(id, {
      person: person.key,
      document: view.key,
      sets: own,
      texts: sought.texts,
      images: [...images],
      byWords,
    });
    return {
      id,
      texts: toldTexts(texts),
      documents: documents.sort((a, b) => Number(b.document === view.id) - Number(a.document === view.id)),
      places: timesOf([...found, ...places]),
      sent,
      needsSecond: await this.database.writes.add(
        async (transaction) => (await this.second.needed(view.key, person.key, transaction)).length > 0,
      ),
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
    const { texts, images, byWords, sets } = found;
    const covers: Covers = { texts, images, byWords };
    const { key, owners } = await this.database.writes.add(async (transaction) => {
      const { erasures, erasedIn } = this.database.models;
      const owners = await this.second.needed(view.key, person.key, transaction);
      const made = await erasures.create(
        {
          id: nanoid(12),
          document: view.key,
          kind: 'erasure',
          state: owners.length > 0 ? 'asked' : 'running',
          by: person.key,
          agreed: 0,
          reason: reason.trim(),
          at: Date.now(),
          done: 0,
          covers: JSON.stringify(covers),
          told: '{}',
          root: 0,
          owners: JSON.stringify(owners),
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
      return { key: made.key, owners };
    });
    this.previews.delete(preview);
    if (owners.length > 0) await this.owners.tell(view.key, owners, person.key, reason.trim());
    else this.run(key);
    return this.one(view, person, key);
  }

  /**
   * An owner agrees to an erasure, or declines it. Only who owned the document when it was asked can agree. Where somebody who owns nothing
   * here asked, and the organisation wants two owners, the first who agrees asks the others. Throws 404 and 403.
   */
  async answer(view: View, person: Signed, id: string, agree: boolean): Promise<Certificate> {
    const { erasures } = this.database.models;
    const where = { id, document: view.key, state: 'asked' };
    const outcome = await this.database.writes.add(async (transaction) => {
      const row = await erasures.findOne({ where, raw: true, transaction });
      if (!row) throw new Trouble(404, 'Nobody asks for that any more');
      if (!agree) {
        const declined = { state: 'declined', covers: '', done: Date.now() };
        await erasures.update(declined, { where: { key: row.key }, transaction });
        return { key: row.key, runs: false, asked: [] };
      }
      if (row.by === person.key)
        throw new Trouble(403, 'Another owner has to agree', 'You asked for this erasure yourself.');
      if (!ownersOf(row).includes(person.key))
        throw new Trouble(
          403,
          'Another owner has to agree',
          'You did not own this document when it was asked.',
        );
      const isOwners = (await this.people.ownership.lately(view.key, transaction)).includes(row.by);
      const needed = isOwners ? [] : await this.second.needed(view.key, person.key, transaction);
      const asked = needed.filter((owner) => ownersOf(row).includes(owner));
      const next =
        asked.length > 0
          ? { by: person.key, owners: JSON.stringify(asked) }
          : { state: 'running', agreed: person.key };
      await erasures.update(next, { where: { key: row.key }, transaction });
      return { key: row.key, runs: asked.length === 0, asked };
    });
    if (outcome.runs) this.run(outcome.key);
    await this.owners.tell(view.key, outcome.asked, person.key, '');
    return this.one(view, person, outcome.key);
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
            root: 0,
            owners: '[]',
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
    const isAsked = row.state === 'asked' && mayErase(view);
    const owners = isAsked ? ownersOf(row) : [];
    const whole = (await this.people.documents(person)).filter(
      (one) => may(one, 'lookBack') && one.first === 0,
    );
    const seen = new Map(view.first > 0 ? [] : whole.map((one) => [one.key, one]));
    const documents = (told.documents ?? []).flatMap(({ key, ...rest }): ErasedDocument[] => {
      const held = seen.get(key);
      return held ? [{ ...rest, document: held.id, title: held.title, asks: false }] : [];
    });
    const isOwn = row.by === person.key || row.agreed === person.key;
    const isTold = ({ document }: { document: number }): boolean =>
      document === 0 ? isOwn : seen.has(document);
    const { checked } = told;
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
      places: timesOf((told.places ?? []).filter(isTold)),
      sent: isOwn ? (told.sent ?? 0) : 0,
      checked: checked
        ? {
            at: checked.at,
            rows: checked.rows.filter(isTold).reduce((sum, { times }) => sum + times, 0),
            files: isOwn ? checked.files : 0,
            found: checked.found,
            archives: checked.archives,
          }
        : null,
      mayAgree: owners.includes(person.key),
      texts: isAsked ? toldTexts(await this.textsOf(row)) : [],
      askedOf: owners.map((key) => this.people.id(key)),
    };
  }

  /** What an erasure that is asked for takes of the document it is asked in. */
  private async textsOf({ key, document }: Stored<'erasures'>): Promise<readonly string[]> {
    const rows = await this.database.models.erasedIn.findAll({
      where: { erasure: key, document },
      raw: true,
    });
    const set = setsOf(rows).get(document);
    return set ? (await this.extents.of(document, set)).texts : [];
  }

  /** What a document holds, for somebody who may look back at all of it; of others nothing is told. */
  private async told(
    document: number,
    person: Signed,
    { letters, images, edits, versions, numbers, now }: ErasedDocumentCounts,
    by: ErasedDocument['by'],
    asks: boolean,
  ): Promise<ErasedDocument[]> {
    const [view] = await this.people.standings.views(person.key, [document]);
    if (!view || view.first > 0 || !may(view, 'lookBack')) return [];
    const { id, title } = view;
    return [{ document: id, title, by, now, numbers, asks, letters, images, edits, versions }];
  }
}

type ErasedDocumentCounts = Pick<
  ErasedDocument,
  'letters' | 'images' | 'edits' | 'versions' | 'numbers' | 'now'
>;

/** Who may agree to an erasure that is asked for, by number. */
function ownersOf({ owners }: Pick<Stored<'erasures'>, 'owners'>): number[] {
  return JSON.parse(owners) as number[];
}

function toldTexts(texts: readonly string[]): string[] {
  return texts.slice(0, TEXTS).map((text) => text.slice(0, LONGEST));
}

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
