import type { ErasedDocument, HoldingPlace } from '@oxbow/contract';
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
import type { Copies, Sets } from './copies.js';
import type { Derived } from './derived.js';
import { setsOf, timesBy } from './covers.js';
import type { Covers } from './covers.js';
import type { Extent, Extents } from './extent.js';
import type { Journal } from './journal.js';
import type { HeldMessage, Messages, MessagesSought } from './messages.js';
import { Slices } from '../threads/slices.js';
import { keepsArchives, sweep } from './sweep.js';
import type { Search, Searched } from './search.js';
import type { WordsElsewhere, WordsIn } from './words-elsewhere.js';

/** What an erasure came to, as it is kept: its certificate. */
export interface Told {
  readonly documents: readonly (Omit<ErasedDocument, 'document' | 'title'> & { readonly key: number })[];
  readonly places: readonly { readonly place: HoldingPlace; readonly times: number }[];
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
const NOT_IN_MESSAGES: MessagesSought = { addresses: new Set(), texts: [], quoting: new Set() };

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
    const sets = isThinning ? setsOf(rows) : await this.copies.reach(setsOf(rows));
    const extents = await this.measured(row, sets, rows);
    const sought = (): Promise<MessagesSought> =>
      isThinning ? Promise.resolve(NOT_IN_MESSAGES) : this.inMessages(sets, covers.texts);
    const before = await this.before(row, covers);
    const found = await this.find(row, sets, extents, covers, await sought());
    await this.note(row, sets, found, covers);
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
    const messages = held.length > 0 ? [{ place: 'message', times: held.length } as const] : [];
    const told: Told = {
      documents: await this.toldOf(key, covers),
      places: [...timesBy(words), ...messages],
      sent: held.filter(({ sent }) => sent).length,
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
    const words = await this.elsewhere.find({ documents, texts: covers.texts, events });
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

  /** How much each document holds, as it was before any of it was erased: that of a run which was broken off is kept. */
  private async measured(
    row: Stored<'erasures'>,
    sets: Sets,
    rows: readonly Stored<'erasedIn'>[],
  ): Promise<Map<number, Extent>> {
    const out = new Map<number, Extent>();
    for (const [document, set] of sets) {
      const extent = await this.extents.of(document, set);
      out.set(document, extent);
      const known = rows.find((one) => one.document === document);
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

  /** What is to be looked for in messages: those of whoever has any of the documents. */
  async inMessages(sets: Sets, texts: readonly string[]): Promise<MessagesSought> {
    const documents = [...sets.keys()];
    const [addresses, quoting] = await Promise.all([this.addresses(documents), this.quoting(sets)]);
    return { addresses, texts, quoting };
  }

  /** Names of messages that carried a moment which shows any of some sets, or a file by which any of it came. */
  private async quoting(sets: Sets): Promise<ReadonlySet<string>> {
    const names = new Set<string>();
    for (const [document, set] of sets) {
      const posted = await this.database.models.posted.findAll({ where: { document }, raw: true });
      const arrived = await this.database.models.arrivals.findAll({ where: { document }, raw: true });
      for (const { letter, seq } of arrived)
        if (set.of(seq).length > 0) names.add(await this.messages.nameOf(letter));
      if (posted.length === 0) continue;
      const { provenance } = await (await this.rooms.get(document)).storedHead();
      for (const { letter, seq } of posted) {
        const shown = provenance.runs.at(seq);
        if (shown.between(0, shown.size).some((run) => set.within(run).length > 0)) names.add(letter);
      }
    }
    return names;
  }

  private async addresses(documents: readonly number[]): Promise<ReadonlySet<string>> {
    const rows = await this.database.rows<{ email: string }>(
      `SELECT DISTINCT people.email FROM holdings JOIN people ON people.key = holdings.person
       WHERE holdings.document IN (:documents) AND people.email <> ''`,
      { documents: [...documents] },
    );
    return new Set(rows.map(({ email }) => email));
  }

  private get names(): LogNames {
    return this.people.logNames;
  }
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
