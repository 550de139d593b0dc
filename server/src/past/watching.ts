import type { Watch } from '@oxbow/contract';
import type { InstanceRange } from '@oxbow/core/history';
import { blockAt, lifeOf, lossesBy, textAt } from '@oxbow/core/past';
import type { Block } from '@oxbow/core/past';
import { nanoid } from 'nanoid';
import { Op } from 'sequelize';
import type { People, Signed } from '../access/people.js';
import type { Gate } from '../threads/gate.js';
import { Trouble } from '../trouble/trouble.js';
import type { Database } from '../store/database.js';
import type { Log } from '../store/log.js';
import type { View } from '../access/view.js';
import type { Stored } from '../store/models.js';
import { entire } from './chronicles.js';
import type { Chronicle, Chronicles } from './chronicles.js';
import type { Notices } from './notices.js';
import { SITTING } from './notices.js';

/** Words of one writer that one sitting takes out before the writer is told. */
const MUCH = 40;
/** How far back words are counted that may have been lost; longer than most sittings. Milliseconds. */
const LATELY = 3 * 3600_000;
/** Milliseconds of quiet before changes are looked at. */
const QUIET = 1200;
const LONGEST = 160;

type StoredWatch = Stored<'watches'>;

/** Tells people of changes to what they watch, and writers at once when much of what they wrote disappears. */
export class Watching {
  private readonly soon = new Map<number, NodeJS.Timeout>();
  private readonly looking = new Set<Promise<void>>();

  /** `report` hears of trouble with telling; writing goes on without it. It looks behind the `gate` that calls go through. */
  constructor(
    private readonly database: Database,
    private readonly log: Log,
    private readonly chronicles: Chronicles,
    private readonly people: People,
    private readonly notices: Notices,
    private readonly report: (error: unknown) => void,
    private readonly gate: Gate,
  ) {}

  /** Something was written; it is looked at when it has been quiet for a moment. */
  wrote(document: number): void {
    clearTimeout(this.soon.get(document));
    const timer = setTimeout(() => {
      this.soon.delete(document);
      const look = this.gate.pass(() => this.look(document)).catch(this.report);
      this.looking.add(look);
      void look.finally(() => this.looking.delete(look));
    }, QUIET);
    this.soon.set(document, timer);
  }

  async close(): Promise<void> {
    for (const timer of this.soon.values()) clearTimeout(timer);
    await Promise.all(this.looking);
  }

  async list(document: View, person: Signed): Promise<Watch[]> {
    const rows = await this.database.models.watches.findAll({
      where: { document: document.key, person: person.key },
      raw: true,
    });
    if (rows.length === 0) return [];
    const { tape } = await this.chronicles.open(entire(document.key));
    return rows.map((row) => ({
      id: row.id,
      document: document.id,
      passage: row.passage === null ? null : (this.passage(tape, row)?.text ?? ''),
      since: Math.max(0, row.since - document.first),
    }));
  }

  /** Watches a document, or the text block at a position of it. Watching twice is watching once. */
  async watch(document: View, person: Signed, position: number | null): Promise<Watch> {
    const { tape } = await this.chronicles.open(entire(document.key));
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
    return {
      id: row.id,
      document: document.id,
      passage: text,
      since: Math.max(0, row.since - document.first),
    };
  }

  async unwatch(document: View, person: Signed, id: string): Promise<void> {
    const where = { id, document: document.key, person: person.key };
    const gone = await this.database.writes.add((transaction) =>
      this.database.models.watches.destroy({ where, transaction }),
    );
    if (gone === 0) throw new Trouble(404, 'That is not watched');
  }

  /** Looks at what was written in a document since it was last looked at. */
  private async look(document: number): Promise<void> {
    if (!(await this.worthLooking(document))) return;
    const chronicle = await this.chronicles.open(entire(document));
    await this.tellWatchers(document, chronicle);
    await this.tellWriters(document, chronicle);
  }

  /** Whether anybody may have to be told: reading the history of a long document for nothing would hold up its writers. */
  private async worthLooking(document: number): Promise<boolean> {
    const { documents, watches } = this.database.models;
    if ((await watches.count({ where: { document } })) > 0) return true;
    if ((await this.notices.losses(document)).length > 0) return true;
    const row = await documents.findByPk(document, { attributes: ['seq', 'changedAt'], raw: true });
    if (!row) return false;
    const since = await this.log.lastBefore(document, row.seq, Number(row.changedAt) - LATELY);
    const [most] = await this.database.rows<{ words: number }>(
      `SELECT SUM("wordsOut") AS words FROM edits WHERE document = :document AND seq > :since
       GROUP BY author ORDER BY 1 DESC LIMIT 1`,
      { document, since },
    );
    return Number(most?.words ?? 0) >= MUCH;
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
          await this.notices.tell(document, row.person, row.id, 'changed', others, {
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
          await this.notices.tell(
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
      if (!person) continue;
      const text = textOf(tape, seqs, makers, writer);
      await this.notices.tell(
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
    for (const { id, person, undo } of await this.notices.losses(document)) {
      const writer = this.people.id(person);
      const left = lossesBy(tape, makers, new Set(undo)).find((loss) => loss.writer === writer);
      if ((left?.words ?? 0) < MUCH / 2) await this.notices.unsay(document, person, id);
    }
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
