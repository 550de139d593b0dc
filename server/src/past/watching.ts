import type { Notice, Watch } from '@oxbow/contract';
import type { InstanceRange } from '@oxbow/core/history';
import { blockAt, lifeOf, lossesBy, textAt } from '@oxbow/core/past';
import type { Block } from '@oxbow/core/past';
import { nanoid } from 'nanoid';
import { Op } from 'sequelize';
import type { InferAttributes } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import { Trouble } from '../api/problem.js';
import type { Database } from '../store/database.js';
import type { NoticeRow, StoredDocument, WatchRow } from '../store/models.js';
import type { Chronicle, Chronicles } from './chronicles.js';

/** Idle time after which what somebody does counts as another sitting, and is told anew. */
const SITTING = 10 * 60_000;
/** Words of one writer that one sitting takes out before the writer is told. */
const MUCH = 40;
/** Milliseconds of quiet before changes are looked at. */
const QUIET = 1200;
const MOST = 100;
const LONGEST = 160;

type StoredWatch = InferAttributes<WatchRow>;
type Told = Pick<Notice, 'by' | 'text' | 'words' | 'undo'>;

/** Tells people of changes to what they watch, and writers at once when much of what they wrote disappears. */
export class Watching {
  private readonly soon = new Map<number, NodeJS.Timeout>();
  private readonly looking = new Set<Promise<void>>();
  private listener: (person: number, document: number) => void = () => undefined;

  /** `report` hears of trouble with telling; writing goes on without it. */
  constructor(
    private readonly database: Database,
    private readonly chronicles: Chronicles,
    private readonly people: People,
    private readonly report: (error: unknown) => void,
  ) {}

  /** Calls `listener` when somebody has a new notice, or one of theirs grew. */
  onNotice(listener: (person: number, document: number) => void): void {
    this.listener = listener;
  }

  /** Something was written; it is looked at when it has been quiet for a moment. */
  wrote(document: number): void {
    clearTimeout(this.soon.get(document));
    const timer = setTimeout(() => {
      this.soon.delete(document);
      const look = this.look(document).catch(this.report);
      this.looking.add(look);
      void look.finally(() => this.looking.delete(look));
    }, QUIET);
    this.soon.set(document, timer);
  }

  async close(): Promise<void> {
    for (const timer of this.soon.values()) clearTimeout(timer);
    await Promise.all(this.looking);
  }

  async list(document: StoredDocument, person: Signed): Promise<Watch[]> {
    const rows = await this.database.models.watches.findAll({
      where: { document: document.key, person: person.key },
      raw: true,
    });
    if (rows.length === 0) return [];
    const { tape } = await this.chronicles.open(document.key);
    return rows.map((row) => ({
      id: row.id,
      document: document.id,
      passage: row.passage === null ? null : (this.passage(tape, row)?.text ?? ''),
      since: row.since,
    }));
  }

  /** Watches a document, or the text block at a position of it. Watching twice is watching once. */
  async watch(document: StoredDocument, person: Signed, position: number | null): Promise<Watch> {
    const { tape } = await this.chronicles.open(document.key);
    let passage: string | null = null;
    let text: string | null = null;
    if (position !== null) {
      const atom = textAt(tape, position, tape.now);
      const block = atom === null ? null : blockAt(tape, atom, tape.now);
      if (!block) throw Trouble.field('position', 'is not in a text of this document');
      passage = kept(tape, block);
      text = block.text;
    }
    const where = { document: document.key, person: person.key, passage };
    const held = await this.database.models.watches.findOne({ where, raw: true });
    const row = held ?? { id: nanoid(10), ...where, since: tape.now };
    if (!held)
      await this.database.writes.add((transaction) =>
        this.database.models.watches.create(row, { transaction }),
      );
    return { id: row.id, document: document.id, passage: text, since: row.since };
  }

  async unwatch(document: StoredDocument, person: Signed, id: string): Promise<void> {
    const where = { id, document: document.key, person: person.key };
    const gone = await this.database.writes.add((transaction) =>
      this.database.models.watches.destroy({ where, transaction }),
    );
    if (gone === 0) throw new Trouble(404, 'That is not watched');
  }

  /** Somebody's notices, newest first, of documents they may still see. */
  async notices(person: Signed): Promise<Notice[]> {
    const documents = new Map(
      (await this.people.documents(person)).map((document) => [document.key, document]),
    );
    const rows = await this.database.models.notices.findAll({
      where: { person: person.key },
      order: [['at', 'DESC']],
      limit: MOST,
      raw: true,
    });
    return rows.flatMap((row) => {
      const document = documents.get(row.document);
      return document ? [{ ...shapeOf(row), document: document.id, title: document.title }] : [];
    });
  }

  async putAway(person: Signed, id: string): Promise<void> {
    const gone = await this.database.writes.add((transaction) =>
      this.database.models.notices.destroy({ where: { id, person: person.key }, transaction }),
    );
    if (gone === 0) throw new Trouble(404, 'There is no such notice');
  }

  /** Looks at what was written in a document since it was last looked at. */
  private async look(document: number): Promise<void> {
    const chronicle = await this.chronicles.open(document);
    await this.tellWatchers(document, chronicle);
    await this.tellWriters(document, chronicle);
  }

  private async tellWatchers(document: number, chronicle: Chronicle): Promise<void> {
    const { tape, traces, makers } = chronicle;
    const rows = await this.database.models.watches.findAll({
      where: { document, since: { [Op.lt]: tape.now } },
      raw: true,
    });
    for (const row of rows) {
      const mine = this.people.id(row.person);
      const others = traces.slice(row.since).filter(({ author }) => author !== mine);
      if (row.passage === null) {
        const words = others.reduce((sum, { wordsIn, wordsOut }) => sum + wordsIn + wordsOut, 0);
        if (others.length > 0)
          await this.tell(document, row.person, row.id, 'changed', others, {
            by: [...new Set(others.map(({ author }) => author))],
            text: '',
            words,
            undo: [],
          });
      } else {
        const before = this.passage(tape, row);
        const forms = before
          ? lifeOf(tape, before.atom, before.moment).filter(({ seq }) => seq > row.since)
          : [];
        const by = [...new Set(forms.map(({ seq }) => makers(seq).author))].filter(
          (author) => author !== mine,
        );
        const text = forms.at(-1)?.text ?? '';
        if (by.length > 0)
          await this.tell(
            document,
            row.person,
            row.id,
            'passage',
            forms.map(({ seq }) => ({ seq, at: makers(seq).at })),
            { by, text: (text || before?.text || '').slice(0, LONGEST), words: 0, undo: [] },
          );
      }
      const passage = row.passage === null ? null : this.now(tape, row);
      await this.database.writes.add((transaction) =>
        this.database.models.watches.update(
          { since: tape.now, passage },
          { where: { id: row.id }, transaction },
        ),
      );
    }
  }

  /** Tells writers when the sitting under way took out much of what they wrote, and unsays it when it is back. */
  private async tellWriters(document: number, { tape, traces, makers }: Chronicle): Promise<void> {
    const last = traces.at(-1);
    if (!last) return;
    const sitting: number[] = [];
    let at = last.at;
    for (let i = traces.length - 1; i >= 0; i--) {
      const trace = traces[i];
      if (!trace || at - trace.at > SITTING) break;
      if (trace.author === last.author) sitting.push(trace.seq);
      at = trace.at;
    }
    const losses = lossesBy(tape, makers, new Set(sitting)).filter(
      ({ writer, words }) => writer !== last.author && words >= MUCH,
    );
    for (const { writer, words, seqs } of losses) {
      const person = this.people.byId(writer);
      if (!person || !(await this.maySee(document, person.key))) continue;
      const text = textOf(tape, seqs, makers, writer);
      await this.tell(
        document,
        person.key,
        '',
        'lost',
        seqs.map((seq) => ({ seq, at: makers(seq).at })),
        { by: [last.author], text: text.slice(0, LONGEST), words, undo: [...seqs] },
      );
    }
    await this.unsay(document, tape, makers);
  }

  /** Takes back notices of lost text that is there again. */
  private async unsay(document: number, tape: Chronicle['tape'], makers: Chronicle['makers']): Promise<void> {
    const rows = await this.database.models.notices.findAll({ where: { document, kind: 'lost' }, raw: true });
    for (const row of rows) {
      const { undo } = JSON.parse(row.told) as Told;
      const writer = this.people.id(row.person);
      const left = lossesBy(tape, makers, new Set(undo)).find((loss) => loss.writer === writer);
      if ((left?.words ?? 0) >= MUCH / 2) continue;
      await this.database.writes.add((transaction) =>
        this.database.models.notices.destroy({ where: { id: row.id }, transaction }),
      );
      this.listener(row.person, document);
    }
  }

  private async maySee(document: number, person: number): Promise<boolean> {
    return (await this.database.models.shares.count({ where: { document, person } })) > 0;
  }

  /** Writes a notice, or lets the one of the same sitting grow. */
  private async tell(
    document: number,
    person: number,
    watch: string,
    kind: Notice['kind'],
    edits: readonly { readonly seq: number; readonly at: number }[],
    told: Told,
  ): Promise<void> {
    if (watch && !(await this.maySee(document, person))) return;
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
        told: JSON.stringify({ ...told, words: sum, by: [...new Set([...(before?.by ?? []), ...told.by])] }),
      };
      await notices.upsert(row, { transaction });
    });
    this.listener(person, document);
  }

  /** A watched passage as it stood when it was last found. */
  private passage(
    tape: Chronicle['tape'],
    row: StoredWatch,
  ): { atom: number; moment: number; text: string } | null {
    const { moment, ranges } = JSON.parse(row.passage ?? NOWHERE) as Kept;
    const atom = atomOf(tape, ranges, moment);
    const block = atom === null ? null : blockAt(tape, atom, moment);
    return atom !== null && block ? { atom, moment, text: block.text } : null;
  }

  /** How a watched passage is found again from now on; as before, where it is gone for now. */
  private now(tape: Chronicle['tape'], row: StoredWatch): string | null {
    const { ranges } = JSON.parse(row.passage ?? NOWHERE) as Kept;
    const atom = atomOf(tape, ranges, tape.now);
    const block = atom === null ? null : blockAt(tape, atom, tape.now);
    return block ? kept(tape, block) : row.passage;
  }
}

/** How a passage is kept: by the instances of its text at a moment. */
interface Kept {
  readonly moment: number;
  readonly ranges: readonly InstanceRange[];
}
const NOWHERE = JSON.stringify({ moment: 0, ranges: [] } satisfies Kept);

function kept(tape: Chronicle['tape'], { moment, atoms }: Block): string {
  const ranges = atoms.map((atom) => ({
    seq: tape.born(atom),
    offset: tape.offset(atom),
    length: tape.length(atom),
  }));
  return JSON.stringify({ moment, ranges } satisfies Kept);
}

function shapeOf(row: InferAttributes<NoticeRow>): Omit<Notice, 'document' | 'title'> {
  return {
    id: row.id,
    kind: row.kind as Notice['kind'],
    first: row.first,
    last: row.last,
    at: new Date(Number(row.at)).toISOString(),
    read: false,
    ...(JSON.parse(row.told) as Told),
  };
}

/** The first atom that stood at a moment and holds some of these instances. */
function atomOf(tape: Chronicle['tape'], ranges: readonly InstanceRange[], moment: number): number | null {
  const births = new Map(ranges.map((range) => [range.seq, range]));
  for (let atom = 0; atom < tape.size; atom++) {
    if (!tape.isText(atom) || !tape.aliveAt(atom, moment)) continue;
    const range = births.get(tape.born(atom));
    if (
      range &&
      tape.offset(atom) < range.offset + range.length &&
      range.offset < tape.offset(atom) + tape.length(atom)
    )
      return atom;
  }
  return null;
}

/** The first of what some edits took out of one person's writing, in the order of the document. */
function textOf(
  tape: Chronicle['tape'],
  seqs: readonly number[],
  makers: Chronicle['makers'],
  writer: string,
): string {
  const wanted = new Set(seqs);
  let text = '';
  for (let atom = 0; atom < tape.size && text.length < LONGEST; atom++)
    if (wanted.has(tape.died(atom)) && tape.isText(atom) && makers(tape.origin(atom)).author === writer)
      text += tape.text(atom);
  return text;
}
