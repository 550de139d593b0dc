import type { ArrivalFiled, ArrivalFilingInput, Letter, LikeDocument } from '@oxbow/contract';
import { resemblance, shinglesOf } from '@oxbow/core/compare';
import { plainText } from '@oxbow/core/content';
import { READ_ENDINGS } from '@oxbow/core/formats';
import { kindOf } from '@oxbow/core/kinds';
import type { Claims } from '../access/claims.js';
import type { People, Signed } from '../access/people.js';
import { may } from '../access/policy.js';
import { Trouble } from '../trouble/trouble.js';
import { fileTitle } from '../filing/titles.js';
import type { Documents } from '../documents/documents.js';
import type { Filing } from '../filing/filing.js';
import type { Database } from '../store/database.js';
import { DocumentCache } from '../store/epochs.js';
import type { Moments } from '../store/moments.js';
import type { View } from '../access/view.js';
import type { Letters, StoredLetter } from './letters.js';

/** Documents a file is held against, those changed last. */
const MOST_DOCUMENTS = 200;
const MOST_LIKE = 5;
/** Below this, two texts only share turns of speech. */
const LEAST_LIKE = 0.02;
const PERSON_COLOURS = 12;

/** What came by mail with files, for whom it was addressed to, and what became of it. */
export class Arrivals {
  /** Shingles of documents as they were at a moment. */
  private readonly shingles: DocumentCache<ReadonlySet<number>>;

  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly claims: Claims,
    private readonly documents: Documents,
    private readonly moments: Moments,
    private readonly filing: Filing,
    private readonly letters: Letters,
  ) {
    this.shingles = new DocumentCache(database.epochs, { max: MOST_DOCUMENTS * 2 });
  }

  /** Messages with files that came to a person and were not put away, newest first. */
  async list(person: Signed): Promise<Letter[]> {
    const own = await this.to(person);
    const rows = await this.database.models.arrivals.findAll({ where: { person: person.key }, raw: true });
    const away = new Set(rows.flatMap(({ letter, file }) => (file < 0 ? [letter] : [])));
    const seen = new Map((await this.people.documents(person)).map((document) => [document.key, document]));
    const filed = new Map(
      rows.flatMap(({ letter, file, document, seq }) => {
        const held = seen.get(document);
        if (!held || seq < held.first) return [];
        return [
          [`${letter} ${file}`, { document: held.id, title: held.title, seq: seq - held.first }] as const,
        ];
      }),
    );
    const addresses = await this.people.addresses();
    return own
      .filter(({ id }) => !away.has(id))
      .map((letter) => shapeOf(letter, addresses, (file) => filed.get(`${letter.id} ${file}`) ?? null));
  }

  /** A file of a message that came to a person. */
  async file(person: Signed, id: string, index: string): Promise<StoredLetter['files'][number]> {
    const file = (await this.letter(person, id)).files[Number(index)];
    if (!file) throw new Trouble(404, 'There is no such file in this message');
    return file;
  }

  /** The documents a person may see that read most like a file; see `resemblance`. */
  async like(person: Signed, id: string, index: string): Promise<LikeDocument[]> {
    const { name, bytes } = await this.file(person, id, index);
    const { reading } = await this.filing.read(name, bytes);
    const own = shinglesOf(plainText(reading.doc));
    const documents = (await this.people.documents(person))
      .sort((a, b) => b.changedAt - a.changedAt)
      .slice(0, MOST_DOCUMENTS);
    const found: LikeDocument[] = [];
    for (const document of documents)
      found.push({
        document: document.id,
        title: document.title,
        likeness: resemblance(own, await this.shinglesIn(document)),
        mayWrite: may(document, 'write'),
      });
    return found
      .filter(({ likeness }) => likeness >= LEAST_LIKE)
      .sort((a, b) => b.likeness - a.likeness)
      .slice(0, MOST_LIKE);
  }

  /** Files a file of a message, by a person, with whoever it claims to be from as the author. `target` is what it goes on top of. */
  async put(
    person: Signed,
    id: string,
    index: string,
    target: View | null,
    input: ArrivalFilingInput,
  ): Promise<ArrivalFiled> {
    const letter = await this.letter(person, id);
    const { name, bytes } = await this.file(person, id, index);
    const read = await this.filing.read(name, bytes);
    const kind = kindOf(read.reading.doc).name;
    const file = async (document: View): Promise<ArrivalFiled> => {
      const author = await this.senderOf(letter, document, person);
      const by = author.key === person.key ? undefined : person.id;
      const { tracked, comment, major } = input;
      const outcome = await this.filing.file(document, author, read, { tracked, comment, major, by });
      await this.remember(person, id, Number(index), document.key, outcome.seq + document.first);
      return { document: document.id, seq: outcome.seq, version: outcome.version };
    };
    if (target) return file(target);
    const about = { title: input.title ?? fileTitle(name), collection: null, at: Date.now(), kind };
    let filed: ArrivalFiled | undefined;
    await this.documents.make(person, about, async (view) => (filed = await file(view)));
    if (!filed) throw new Trouble(404, 'There is no such document');
    return filed;
  }

  /** Puts a message away: it is listed no longer. */
  async putAway(person: Signed, id: string): Promise<void> {
    await this.letter(person, id);
    await this.remember(person, id, -1, 0, 0);
  }

  private async remember(person: Signed, letter: string, file: number, document: number, seq: number) {
    const row = { person: person.key, letter, file, document, seq };
    await this.database.writes.add((transaction) =>
      this.database.models.arrivals.upsert(row, { transaction }),
    );
  }

  private async to(person: Signed): Promise<StoredLetter[]> {
    const addresses = await this.people.addresses();
    return (await this.letters.arrived()).filter(
      ({ to, files }) =>
        files.length > 0 && to.some(({ address }) => addresses.get(address)?.key === person.key),
    );
  }

  private async letter(person: Signed, id: string): Promise<StoredLetter> {
    const found = (await this.to(person)).find((letter) => letter.id === id);
    if (!found) throw new Trouble(404, 'There is no such message');
    return found;
  }

  /** Whoever a message claims to be from: anybody can write any name on one, so only what was sent from here is believed. */
  private async senderOf({ from, own }: StoredLetter, document: View, by: Signed): Promise<Signed> {
    const known = (await this.people.addresses()).get(from.address);
    if (known && (own || known.key === by.key)) return known;
    const name = from.name.trim() || from.address || 'Somebody from outside';
    return this.claims.person(document.key, {
      says: '',
      name: known?.name ?? name.slice(0, 200),
      initials: known?.initials ?? initialsOf(name),
      colour: known?.colour ?? this.people.all.length % PERSON_COLOURS,
      address: from.address,
    });
  }

  private async shinglesIn(document: View): Promise<ReadonlySet<number>> {
    const seq = document.seq + document.first;
    const entry = this.shingles.entry(document.key, seq);
    if (entry.value) return entry.value;
    const made = shinglesOf(plainText(await this.moments.open(document.key, seq)));
    entry.set(made);
    return made;
  }
}

function initialsOf(name: string): string {
  const words = name.split(/[\s.@_-]+/).filter((word) => /\p{L}/u.test(word));
  const letters = [words[0], words.length > 1 ? words.at(-1) : undefined].map(
    (word) => [...(word ?? '')][0] ?? '',
  );
  return letters.join('').toUpperCase() || '?';
}

/** A message as the outside sees it. */
export function shapeOf(
  { id, from, to, subject, at, text, files }: Omit<StoredLetter, 'own'>,
  addresses: ReadonlyMap<string, Signed>,
  filed: (file: number) => Letter['files'][number]['filed'],
): Letter {
  const named = (one: StoredLetter['from']) => ({ ...one, person: addresses.get(one.address)?.id ?? null });
  return {
    id,
    from: named(from),
    to: to.map(named),
    subject,
    at,
    text,
    files: files.map(({ name, bytes }, i) => ({
      name,
      bytes: bytes.length,
      readable: READ_ENDINGS.some((ending) => name.toLowerCase().endsWith(ending)),
      filed: filed(i),
    })),
  };
}
