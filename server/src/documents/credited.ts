import { BEFORE } from '@oxbow/contract';
import type { ComparisonResult } from '@oxbow/contract';
import { creditChanges, toldChange } from '@oxbow/core/compare';
import type { Credit } from '@oxbow/core/compare';
import { handOf } from '@oxbow/core/history';
import type { Cause } from '@oxbow/core/history';
import type { RedlineFormat } from '@oxbow/core/formats';
import type { People } from '../access/people.js';
import type { Images } from '../store/images.js';
import type { Histories } from '../histories/histories.js';
import { Slices } from '../threads/slices.js';
import type { Places, Stand } from './places.js';
import type { Database } from '../store/database.js';
import type { View } from '../access/view.js';
import type { Comparisons } from '../compare/comparisons.js';

/** A moment of a document. */
export interface Place {
  readonly document: View;
  readonly seq: number;
}

/** Comparisons of moments, with who made each change. */
export class Credited {
  constructor(
    private readonly database: Database,
    private readonly histories: Histories,
    private readonly places: Places,
    private readonly people: People,
    private readonly comparisons: Comparisons,
    private readonly images: Images,
  ) {}

  /**
   * The changes between two moments with who made them. Of two moments of one document the earlier is taken as such,
   * whatever the order; of two documents, changes are credited to who wrote what the later one has.
   */
  async compare(one: Place, other: Place): Promise<ComparisonResult> {
    const [before, after] = inOrder(one, other);
    const same = before.document.key === after.document.key;
    const { document } = after;
    const [{ provenance }, a, b] = await Promise.all([
      this.histories.head(document),
      this.places.at(before.document, before.seq),
      this.places.at(document, after.seq),
    ]);
    const { changes, rows, totals, gist } = await this.comparisons.compare(a.doc, b.doc);
    const slices = new Slices();
    const credits = await slices.through(
      creditChanges(changes, provenance, same ? before.seq : -1, after.seq),
    );
    const made = await this.makers(document, credits);
    const shares = new Map<string, { wordsAdded: number; wordsRemoved: number }>();
    const words = await this.comparisons.words(a.doc, b.doc, changes, credits);
    for (const [seq, { added, removed }] of words) {
      const person = made(seq).person;
      const sum = shares.get(person) ?? { wordsAdded: 0, wordsRemoved: 0 };
      shares.set(person, { wordsAdded: sum.wordsAdded + added, wordsRemoved: sum.wordsRemoved + removed });
    }
    const told: ComparisonResult['changes'] = [];
    for (const [i, change] of changes.entries()) {
      const credited = (credits[i] ?? []).map(({ from, to, side, seq, origin }) => ({
        from,
        to,
        side,
        seq,
        ...made(seq),
        writer: handOf(provenance, origin) ?? made(origin > 0 ? origin : seq).person,
      }));
      told.push({ ...toldChange(change), credits: credited });
      await slices.rest();
    }
    return {
      earlier: { seq: before.seq, at: a.at },
      later: { seq: after.seq, at: b.at },
      changes: told,
      rows: [...rows],
      totals,
      shares: [...shares].map(([person, words]) => ({ person, ...words })),
      gist,
    };
  }

  /** The same as a file, and its name without an ending. */
  async redline(
    one: Place,
    other: Place,
    format: RedlineFormat,
  ): Promise<{ name: string; bytes: Uint8Array }> {
    const result = await this.compare(one, other);
    const [before, after] = inOrder(one, other);
    const [a, b] = await Promise.all([
      this.places.at(before.document, before.seq),
      this.places.at(after.document, after.seq),
    ]);
    const moment = ({ seq, version }: Stand): string =>
      version === null ? `edit ${seq}` : `version ${version}`;
    const end = (one: Stand): string => `${one.title}, ${moment(one)}, ${one.at}`;
    const name = (person: string): string => this.people.byId(person)?.name ?? person;
    const credits = result.changes.map((change) =>
      change.credits.map(({ person, ...credit }) => ({ ...credit, author: name(person) })),
    );
    const who = credits.map((stretches) => {
      const last = stretches.at(-1);
      return last ? `${last.author}, ${last.at}` : '';
    });
    const { title } = after.document;
    const bytes = await this.comparisons.redline(a.doc, b.doc, {
      format,
      title,
      author: name(b.by),
      at: b.at,
      images: [
        ...(await this.images.shownIn(before.document.key, a.doc)),
        ...(await this.images.shownIn(after.document.key, b.doc)),
      ],
      ends: [end(a), end(b)],
      who,
      credits,
    });
    return { name: `${title} ${moment(a)} to ${moment(b)}`, bytes };
  }

  /** Looks up who made edits, when, and with which file. */
  private async makers(view: View, credits: readonly (readonly Credit[])[]) {
    const seqs = [...new Set(credits.flat().flatMap((credit) => [credit.seq, credit.origin]))];
    const rows = await this.database.models.edits.findAll({
      where: { document: view.key, seq: seqs.flatMap((seq) => (seq > 0 ? [seq + view.first] : [])) },
      attributes: ['seq', 'author', 'acceptedAt', 'cause'],
      raw: true,
    });
    const made = new Map(
      rows.map((row) => [
        row.seq - view.first,
        {
          person: this.people.id(row.author),
          at: new Date(Number(row.acceptedAt)).toISOString(),
          file: fileOf(row.cause),
        },
      ]),
    );
    const since = new Date(view.since ?? 0).toISOString();
    const nobody = { person: view.first > 0 ? BEFORE : 'unknown', at: since, file: null };
    return (seq: number) => made.get(seq) ?? nobody;
  }
}

/** The name of the file that an edit filed. */
function fileOf(stored: string | null): string | null {
  const cause = stored === null ? null : (JSON.parse(stored) as Cause);
  return cause?.kind === 'filing' ? cause.file : null;
}

/** Two moments of one document by age; of two documents as they are given. */
function inOrder(one: Place, other: Place): [Place, Place] {
  return one.document.key === other.document.key && one.seq > other.seq ? [other, one] : [one, other];
}
