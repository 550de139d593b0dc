import type { ErasedDocument } from '@oxbow/contract';
import type { Instances } from '@oxbow/core/erasing';
import { chainOf } from '@oxbow/core/formats';
import { Mutex } from 'async-mutex';
import type { People } from '../access/people.js';
import type { LogNames, Seals } from '../archive/seals.js';
import { digestOf, loggedOf } from '../archive/seals.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import type { Blanker } from './blanker.js';
import type { AskingOwners } from './asking-owners.js';
import type { Copies, Sets } from './copies.js';
import type { Derived } from './derived.js';
import { setsOf, timesByDocument } from './covers.js';
import type { Covers, TimesIn } from './covers.js';
import type { Extent, Extents } from './extent.js';
import type { Journal } from './journal.js';
import type { HeldMessage, Messages, MessagesSought } from './messages.js';
import { Slices } from '../threads/slices.js';
import { keepsArchives, sweep } from './sweep.js';
import type { ReachByRights } from './reach-by-rights.js';
import type { Search, Searched } from './search.js';
import type { WordsElsewhere, WordsIn } from './words-elsewhere.js';

/** What an erasure came to, as it is kept: its certificate. */
export interface Told {
  readonly documents: readonly (Omit<ErasedDocument, 'document' | 'title' | 'asks'> & {
    readonly key: number;
  })[];
  readonly places: readonly TimesIn[];
  /** Messages that went out, of those that whoever erased wrote or received. */
  readonly sent: number;
  readonly checked: Searched & { readonly at: string; readonly archives: boolean };
}

/** What is erased beside instances: words and messages. */
interface Elsewhere {
  readonly words: readonly WordsIn[];
  readonly held: readonly HeldMessage[];
}

/** Edits read at a time. */
const PAGE = 250;
/** What goes by a rule was seen by nobody who has a message. */
const NONE: ReadonlySet<string> = new Set();
const NOT_IN_MESSAGES: MessagesSought = {
  texts: [],
  posted: NONE,
  arrived: NONE,
  everybody: NONE,
  owners: NONE,
};

/** Erases what an erasure covers, step by step; each can be done again, so that one a fall broke off is gone on with. */
export class Eraser {
  private readonly turn = new Mutex();
  private listener: (documents: readonly number[]) => void = () => undefined;

  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly rooms: Rooms,
    private readonly seals: Seals,
    private readonly copies: Copies,
    private readonly reach: ReachByRights,
    private readonly owners: AskingOwners,
    private readonly extents: Extents,
    private readonly blanker: Blanker,
    private readonly derived: Derived,
    private readonly elsewhere: WordsElsewhere,
    private readonly messages: Messages,
    private readonly search: Search,
    private readonly journal: Journal,
  ) {}

  /** Calls `listener` when something was erased in documents. */
  onErased(listener: (documents: readonly number[]) => void): void {
    this.listener = listener;
  }

  /** Erases, and sees to it that nothing is left of it in files; one at a time. */
  run(key: number): Promise<void> {
    return this.turn.runExclusive(async () => {
      await this.go(key);
      await this.finish();
    });
  }

  /** Erases everything from what can be read; in files it may be left until they are swept. */
  erase(key: number): Promise<void> {
    return this.turn.runExclusive(() => this.go(key));
  }

  /** Sweeps the files after what was erased, which is done then. */
  sweep(): Promise<void> {
    return this.turn.runExclusive(() => this.finish());
  }

  /** Resolves when nothing is being erased. */
  async idle(): Promise<void> {
    await this.turn.runExclusive(() => undefined);
  }

  private async finish(): Promise<void> {
    const { erasures } = this.database.models;
    const where = { state: 'running', covers: '' };
    const rows = await erasures.findAll({ where, attributes: ['key'], raw: true });
    if (rows.length === 0) return;
    await sweep(this.database);
    const done = { state: 'done', done: Date.now() };
    const keys = rows.map(({ key }) => key);
    await this.database.writes.add((transaction) =>
      erasures.update(done, { where: { key: keys }, transaction }),
    );
  }

  private async go(key: number): Promise<void> {
    const { erasures, erasedIn } = this.database.models;
    const row = await erasures.findByPk(key, { raw: true });
    if (row?.state !== 'running' || row.covers === '') return;
    const covers = JSON.parse(row.covers) as Covers;
    const rows = await erasedIn.findAll({ where: { erasure: key }, raw: true });
    const isThinning = row.kind === 'thinning';
    const people = peopleOf(row);
    const decided = setsOf(rows);
    const { own: sets, others } = isThinning
      ? { own: decided, others: new Map<number, Instances>() }
      : await this.reach.of(decided, people, new Set(decided.keys()));
    const extents = await this.measured(row, sets, rows);
    const sought = (): Promise<MessagesSought> =>
      isThinning ? Promise.resolve(NOT_IN_MESSAGES) : this.inMessages(sets, covers.texts, people);
    const before = await this.before(row, covers);
    const found = await this.find(row, sets, extents, covers, await sought());
    await this.note(row, sets, found, covers);
    if (!covers.isAgain) await this.owners.ask(row, covers, others);
    await this.blankAll(row, sets, extents, covers);
    for (const one of [before, found]) await this.eraseElsewhere(one, covers);
    // What was being made of it when it was found, a notice or a message, is there by now.
    const late = await this.find(row, sets, extents, covers, await sought());
    if (late.words.length + late.held.length > 0) await this.note(row, sets, late, covers);
    await this.eraseElsewhere(late, covers);
    const words = [before, found, late].flatMap((one) => one.words);
    const held = joined([before, found, late].flatMap((one) => one.held));
    for (const [document, set] of sets) await this.certify(row, document, set);
    this.listener([...sets.keys()]);
    const searched = await this.search.look(sets, await sought());
    const { places, sent } = await this.messagesKnown(held, people);
    const told: Told = {
      documents: await this.toldOf(key, covers),
      places: [...timesByDocument(words), ...places],
      sent,
      checked: { ...searched, at: new Date().toISOString(), archives: keepsArchives(this.database) },
    };
    await this.database.writes.add((transaction) =>
      erasures.update({ covers: '', told: JSON.stringify(told) }, { where: { key }, transaction }),
    );
  }

  /** What the journal has of an erasure already, that a fall broke off or that is done again in a backup. */
  private async before({ id }: Stored<'erasures'>, { isAgain }: Covers): Promise<Elsewhere> {
    const noted = await this.journal.of(id);
    return {
      words: noted.flatMap((entry) => entry.words),
      held: isAgain ? await this.messages.there(noted.flatMap(({ messages }) => messages)) : [],
    };
  }

  private async eraseElsewhere({ words, held }: Elsewhere, { texts }: Covers): Promise<void> {
    await this.elsewhere.erase(words);
    await this.messages.erase(held, texts);
  }

  /** Finds what is to be erased beside instances; it is noted before anything of it is erased. */
  private async find(
    row: Stored<'erasures'>,
    sets: Sets,
    extents: ReadonlyMap<number, Extent>,
    covers: Covers,
    sought: MessagesSought,
  ): Promise<Elsewhere> {
    const events = new Map([...extents].map(([document, extent]) => [document, extent.events]));
    const documents = row.kind === 'thinning' ? [] : [...sets.keys()];
    const collections = await this.reach.collections(documents, peopleOf(row));
    const words = await this.elsewhere.find({ documents, collections, texts: covers.texts, events });
    const { held } = await this.messages.look(sought);
    return { words, held };
  }

  private async blankAll(
    { key, kind }: Stored<'erasures'>,
    sets: Map<number, Instances>,
    extents: ReadonlyMap<number, Extent>,
    { images }: Covers,
  ): Promise<void> {
    for (const [document, set] of sets) {
      const copies = (after: number) => this.copies.within(document, after);
      const all = await this.blanker.blank(document, set, kind === 'thinning' ? null : copies);
      sets.set(document, all);
      await this.keep(key, document, all);
      const from = Math.max(1, all.seqs.find((seq) => seq > 0) ?? 1);
      await this.derived.renew(document, from);
      await this.derived.collect(document, new Set([...images, ...(extents.get(document)?.hashes ?? [])]));
    }
  }

  /**
   * How much each document holds, as it was before any of it was erased: that of a run which was broken off is kept. Takes documents off
   * that were only reached, and hold nothing of it any more.
   */
  private async measured(
    row: Stored<'erasures'>,
    sets: Map<number, Instances>,
    rows: readonly Stored<'erasedIn'>[],
  ): Promise<Map<number, Extent>> {
    const out = new Map<number, Extent>();
    for (const [document, set] of sets) {
      const extent = await this.extents.of(document, set);
      const known = rows.find((one) => one.document === document);
      if (!known && extent.letters + extent.images === 0) {
        sets.delete(document);
        continue;
      }
      out.set(document, extent);
      const before = JSON.parse(known?.told ?? '{}') as Partial<Extent>;
      if (before.letters !== undefined && before.letters >= extent.letters) continue;
      const { letters, images, edits, versions, numbers, now } = extent;
      const told = JSON.stringify({ letters, images, edits, versions, numbers, now });
      const fields = {
        erasure: row.key,
        document,
        seq: known?.seq ?? 0,
        ranges: JSON.stringify(set.ranges()),
        told,
      };
      await this.database.writes.add((transaction) =>
        this.database.models.erasedIn.upsert(fields, { transaction }),
      );
    }
    return out;
  }

  private async keep(erasure: number, document: number, set: Instances): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.erasedIn.update(
        { ranges: JSON.stringify(set.ranges()) },
        { where: { erasure, document }, transaction },
      ),
    );
  }

  private async note(
    row: Stored<'erasures'>,
    sets: Sets,
    { words, held }: Elsewhere,
    covers: Covers,
  ): Promise<void> {
    const documents = await this.database.models.documents.findAll({
      where: { key: [...sets.keys()] },
      attributes: ['key', 'id'],
      raw: true,
    });
    const id = (key: number): string => (key === 0 ? '' : this.people.unvouchedId(key));
    await this.journal.note({
      id: row.id,
      kind: row.kind,
      by: id(row.by),
      agreed: id(row.agreed),
      reason: row.reason,
      document: documents.find(({ key }) => key === row.document)?.id ?? '',
      at: Number(row.at),
      sets: Object.fromEntries(documents.map(({ key, id }) => [id, sets.get(key)?.ranges() ?? []])),
      words,
      messages: held.map(({ name }) => name),
      images: covers.images,
    });
  }

  /** Puts word of an erasure into a document's history: how much, in which edits, and a digest of these as they stand now. */
  private async certify(row: Stored<'erasures'>, document: number, set: Instances): Promise<void> {
    const { erasedIn } = this.database.models;
    const where = { erasure: row.key, document };
    const held = await erasedIn.findOne({ where, raw: true });
    if (!held || held.seq > 0) return;
    const room = await this.rooms.get(document);
    const opened = await this.seals.opened(document);
    const { log } = this.rooms.moments;
    const digests: string[] = [];
    const slices = new Slices(false);
    for (const [first, last] of stretchesOf(opened))
      for (let after = first - 1; after < last; after += PAGE)
        for (const edit of await log.between(document, after, Math.min(after + PAGE, last))) {
          digests.push(digestOf('', loggedOf(edit, this.names)));
          await slices.rest();
        }
    const [result] = await room.submit({
      author: row.by,
      client: `erasure-${row.id}`,
      base: room.durable,
      edits: [
        {
          counter: 1,
          steps: [],
          sources: [],
          writtenAt: Date.now(),
          cause: {
            kind: row.kind as 'erasure' | 'thinning',
            id: row.id,
            letters: set.size,
            of: stretchesOf(opened),
            digest: chainOf(digests),
          },
        },
      ],
    });
    await this.database.writes.add((transaction) =>
      erasedIn.update({ seq: result?.seq ?? 0 }, { where, transaction }),
    );
  }

  private async toldOf(key: number, covers: Covers): Promise<Told['documents']> {
    const rows = await this.database.models.erasedIn.findAll({ where: { erasure: key }, raw: true });
    return rows.map(({ document, told }) => {
      const { letters, images, edits, versions, numbers, now } = JSON.parse(told) as Extent;
      const by = covers.byWords.includes(document) ? 'words' : 'origin';
      return { key: document, by, now, numbers, letters, images, edits, versions };
    });
  }

  /** The messages that are tied to some sets: that carried a moment which shows any of it, or a file by which any of it came. */
  async inMessages(sets: Sets, texts: readonly string[], people: readonly number[]): Promise<MessagesSought> {
    const [posted, arrived] = [new Set<string>(), new Set<string>()];
    for (const [document, set] of sets) {
      const where = { document };
      for (const { letter, seq } of await this.database.models.arrivals.findAll({ where, raw: true }))
        if (set.of(seq).length > 0) arrived.add(await this.messages.nameOf(letter));
      const moments = await this.database.models.posted.findAll({ where, raw: true });
      if (moments.length === 0) continue;
      const { provenance } = await (await this.rooms.get(document)).storedHead();
      for (const { letter, seq } of moments) {
        const shown = provenance.runs.at(seq);
        if (shown.between(0, shown.size).some((run) => set.within(run).length > 0)) posted.add(letter);
      }
    }
    const owners = await this.database.rows<{ person: number }>(
      `SELECT DISTINCT person FROM holdings WHERE document IN (:documents) AND role = 'owner'`,
      { documents: [0, ...sets.keys()] },
    );
    const mayErase = new Set([...people, ...owners.map(({ person }) => person)]);
    const addresses = await this.people.addresses();
    return {
      texts,
      posted,
      arrived,
      everybody: new Set(addresses.keys()),
      owners: new Set([...addresses].flatMap(([address, { key }]) => (mayErase.has(key) ? [address] : []))),
    };
  }

  /** Of some messages those that one of some people wrote or received, counted: of others nobody is told. */
  async messagesKnown(
    held: readonly HeldMessage[],
    people: readonly number[],
  ): Promise<{ readonly places: readonly TimesIn[]; readonly sent: number }> {
    const addresses = await this.people.addresses();
    const known = held.filter((message) =>
      message.addresses.some((address) => people.includes(addresses.get(address)?.key ?? 0)),
    );
    return {
      places: known.length > 0 ? [{ document: 0, place: 'message', times: known.length }] : [],
      sent: known.filter(({ sent }) => sent).length,
    };
  }

  private get names(): LogNames {
    return this.people.logNames;
  }
}

/** By whose rights an erasure goes: of who wants it and who agreed; where its owners were asked for somebody else, theirs alone. */
function peopleOf({ by, agreed, root }: Pick<Stored<'erasures'>, 'by' | 'agreed' | 'root'>): number[] {
  return [root > 0 ? 0 : by, agreed].filter((key) => key > 0);
}

/** Messages, each once. */
function joined(held: readonly HeldMessage[]): HeldMessage[] {
  return [...new Map(held.map((one) => [one.name, one])).values()];
}

/** Numbers in order as stretches of numbers that follow each other. */
function stretchesOf(numbers: readonly number[]): [first: number, last: number][] {
  const out: [number, number][] = [];
  for (const number of numbers) {
    const last = out.at(-1);
    if (last && last[1] === number - 1) last[1] = number;
    else out.push([number, number]);
  }
  return out;
}
