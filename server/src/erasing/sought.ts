import { LEAST_SOUGHT } from '@oxbow/contract';
import type { ErasureWish } from '@oxbow/contract';
import { Instances, passageAt } from '@oxbow/core/erasing';
import type { InstanceRange, RunSequence } from '@oxbow/core/history';
import type { People, Signed } from '../access/people.js';
import { may } from '../access/policy.js';
import type { View } from '../access/view.js';
import type { Places } from '../documents/places.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Past } from '../past/past.js';
import type { Wanted } from '../past/seeking.js';
import type { Database } from '../store/database.js';
import { Trouble } from '../trouble/trouble.js';

/** Most texts that are looked for beside the passage they are of, the longest first. */
const MOST_TEXTS = 50;

/** What somebody wants erased: the instances it begins with, and the words to look for beside them. */
export interface Sought {
  readonly sets: ReadonlyMap<number, Instances>;
  readonly texts: readonly string[];
  readonly images: readonly string[];
  /** Documents in which the same words were written anew. */
  readonly byWords: ReadonlySet<number>;
}

/** Finds what is wanted: a passage, words or numbers wherever they stood, versions, a stretch of somebody's, an image. */
export class Seeker {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly rooms: Rooms,
    private readonly places: Places,
    private readonly past: Past,
  ) {}

  /** Throws 422 for a wish that says nothing, or where there is nothing. */
  async find(view: View, person: Signed, wish: ErasureWish): Promise<Sought> {
    const { find, numbers, passage, versions, image, person: whose } = wish;
    if (find !== undefined) return this.wherever(view, person, { text: find });
    if (numbers !== undefined) return this.wherever(view, person, { numbers });
    if (passage) return this.passage(view, person, passage);
    if (versions) return only(view.key, await this.versions(view, versions));
    if (image !== undefined) return this.image(view, person, image);
    if (whose !== undefined || wish.from !== undefined || wish.to !== undefined)
      return only(view.key, await this.stretch(view, wish));
    throw new Trouble(422, 'Say what is to be erased');
  }

  private async wherever(view: View, person: Signed, wanted: Wanted): Promise<Sought> {
    const sets = new Map<number, Instances>();
    const texts = new Set('text' in wanted ? [wanted.text.trim()] : []);
    for (const document of await this.own(view, person)) {
      const { ranges, texts: read } = await this.past.seeking.ever(document, wanted);
      if (ranges.length > 0) sets.set(document, Instances.of(ranges));
      for (const text of read) texts.add(text);
    }
    return {
      sets,
      texts: [...texts],
      images: [],
      byWords: new Set([...sets.keys()].filter((key) => key !== view.key)),
    };
  }

  private async passage(
    view: View,
    person: Signed,
    { moment, from, to }: NonNullable<ErasureWish['passage']>,
  ): Promise<Sought> {
    if (moment > view.seq) throw Trouble.field('passage', 'is of a moment that has not been yet');
    const doc = await this.rooms.histories.moment(view, moment);
    if (from >= to || to > doc.content.size) throw Trouble.field('passage', 'lies outside the document');
    const { runs } = await this.head(view.key);
    const set = passageAt(runs, moment, from, to);
    const texts = doc
      .textBetween(from, to, '\n', '\n')
      .split('\n')
      .map((text) => text.trim())
      .filter((text) => text.length >= LEAST_SOUGHT)
      .sort((a, b) => b.length - a.length)
      .slice(0, MOST_TEXTS);
    const images: string[] = [];
    doc.nodesBetween(from, to, (node) => {
      const hash: unknown = node.attrs['hash'];
      if (typeof hash === 'string') images.push(hash);
    });
    const sets = new Map([[view.key, set]]);
    const byWords = new Set<number>();
    for (const document of await this.own(view, person))
      for (const text of texts) {
        const { ranges } = await this.past.seeking.ever(document, { text });
        if (ranges.length === 0) continue;
        sets.set(document, (sets.get(document) ?? Instances.of([])).with(Instances.of(ranges)));
        if (document !== view.key) byWords.add(document);
      }
    return { sets, texts, images, byWords };
  }

  /** What stood in some versions, and at no other moment that is kept. */
  private async versions(view: View, numbers: readonly number[]): Promise<Instances> {
    const { versions, landmarks } = this.database.models;
    const rows = await versions.findAll({ where: { document: view.key }, raw: true });
    const asked = rows.filter(({ number }) => numbers.includes(number));
    if (asked.length < new Set(numbers).size)
      throw Trouble.field('versions', 'are not all versions of this document');
    const named = await landmarks.findAll({ where: { document: view.key, until: 0 }, raw: true });
    const { runs, seq } = await this.head(view.key);
    const gone = asked.map((row) => row.seq);
    const kept = [
      seq,
      ...named.map((row) => row.seq),
      ...rows.flatMap((row) => (numbers.includes(row.number) || Number(row.discarded) > 0 ? [] : [row.seq])),
    ].filter((moment) => !gone.includes(moment) || moment === seq);
    const stood =
      ({ seq: born, diedAt }: { seq: number; diedAt: number }) =>
      (moment: number) =>
        born <= moment && (diedAt === 0 || diedAt > moment);
    return fromRuns(runs, (run) => gone.some(stood(run)) && !kept.some(stood(run)));
  }

  /** What one person wrote behind one moment up to another. */
  private async stretch(view: View, wish: ErasureWish): Promise<Instances> {
    const after = wish.from === undefined ? 0 : await this.places.seqOf(view, wish.from, 'from');
    const upTo = wish.to === undefined ? view.seq : await this.places.seqOf(view, wish.to, 'to');
    const whose = this.people.byId(wish.person ?? '');
    if (!whose) throw Trouble.field('person', 'is nobody who wrote here');
    const rows = await this.database.rows<{ seq: number }>(
      'SELECT seq FROM edits WHERE document = :document AND author = :author AND seq > :after AND seq <= :upTo',
      { document: view.key, author: whose.key, after, upTo },
    );
    const own = new Set(rows.map(({ seq }) => seq));
    const { runs } = await this.head(view.key);
    return fromRuns(runs, ({ seq, origin }) => own.has(seq) && origin.seq === seq);
  }

  /** An image, wherever somebody's documents ever showed it. */
  private async image(view: View, person: Signed, hash: string): Promise<Sought> {
    const sets = new Map<number, Instances>();
    for (const document of await this.own(view, person)) {
      const rows = await this.database.rows<{ seq: number }>(
        'SELECT seq FROM edits WHERE document = :document AND steps LIKE :like',
        { document, like: `%${hash}%` },
      );
      const tokens = await this.rooms.moments.log.tokens(
        document,
        rows.map(({ seq }) => seq),
      );
      const ranges: InstanceRange[] = [...tokens].flatMap(([seq, all]) =>
        all.flatMap((token, offset) =>
          token.kind === 'leaf' && token.node.attrs['hash'] === hash ? [{ seq, offset, length: 1 }] : [],
        ),
      );
      if (ranges.length > 0) sets.set(document, Instances.of(ranges));
    }
    return { sets, texts: [], images: [hash], byWords: new Set() };
  }

  /** The document, and the others that somebody owns. */
  private async own(view: View, person: Signed): Promise<number[]> {
    const views = await this.people.documents(person);
    const others = views.filter((one) => one.key !== view.key && may(one, 'erase') && one.first === 0);
    return [view.key, ...others.map(({ key }) => key)];
  }

  private async head(document: number): Promise<{ runs: RunSequence; seq: number }> {
    const { provenance, seq } = await (await this.rooms.get(document)).storedHead();
    return { runs: provenance.runs, seq };
  }
}

function only(document: number, set: Instances): Sought {
  return { sets: new Map([[document, set]]), texts: [], images: [], byWords: new Set() };
}

function fromRuns(
  runs: RunSequence,
  wanted: (run: { seq: number; diedAt: number; origin: { seq: number } }) => boolean,
): Instances {
  const out: InstanceRange[] = [];
  for (const run of runs.all()) if (run.seq > 0 && wanted(run)) out.push(run);
  return Instances.of(out);
}
