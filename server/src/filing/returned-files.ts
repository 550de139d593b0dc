import { Invalid, Takes, check } from '@oxbow/contract';
import type { Outcome, Returned, ReturnedFileForm, ReturnedForm, ReturnedInput } from '@oxbow/contract';
import { FormatError, checkGoesOn, formatOfFile } from '@oxbow/core/formats';
import type { Reading } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';
import type { Signed } from '../access/people.js';
import type { View } from '../access/view.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Places } from '../documents/places.js';
import type { Filing } from './filing.js';
import type { Images } from '../store/images.js';
import { Trouble } from '../trouble/trouble.js';
import type { Becoming } from '../going-back/becoming.js';

/** A file that was sent, and where it lies. */
interface Sent {
  readonly originalname: string;
  readonly path: string;
}

/** A file that came back, read. */
interface Reader {
  readonly file: string;
  readonly reading: Reading;
}

/** Longest list of file names that an edit is told to come from, in letters. */
const NAMES = 400;

/** Files that came back from readers, each with changes of its own to one moment. Nothing of them is kept but what is put on top. */
export class ReturnedFiles {
  constructor(
    private readonly filing: Filing,
    private readonly places: Places,
    private readonly becoming: Becoming,
    private readonly images: Images,
    private readonly comparisons: Comparisons,
  ) {}

  /** What all of them changed, passage by passage. Throws `FormatError` that names the file. */
  async gather(
    document: View,
    { base }: ReturnedForm,
    files: readonly Sent[],
    signal: AbortSignal,
  ): Promise<Returned> {
    const { readers, stand, docs } = await this.read(document, base, files, signal);
    const { lines, passages } = await this.comparisons.together(stand.doc, docs);
    return {
      base: stand.seq,
      readers: readers.map(({ file, reading }, i) => ({
        name: namesOf(readers)[i] ?? file,
        file,
        leftOut: reading.leftOut.length,
      })),
      lines: lines.map(({ kind, pieces }) => ({ kind, pieces: [...pieces] })),
      passages: passages.map(({ forms, ...passage }) => ({
        ...passage,
        forms: forms.map(({ text, by }) => ({ text, by: [...by] })),
      })),
    };
  }

  /** Puts what was decided on top, and keeps what was written since the moment that they had. Throws 422 when something is undecided. */
  async put(
    document: View,
    person: Signed,
    { base, takes, comment }: ReturnedInput,
    files: readonly Sent[],
    signal: AbortSignal,
  ): Promise<Outcome> {
    const decided = takesOf(takes);
    const { readers, stand, docs } = await this.read(document, base, files, signal);
    const { doc, passages } = await this.comparisons.together(stand.doc, docs, decided);
    const known = new Set(decided.map(([passage]) => passage));
    const open = passages.find(({ id, forms }) => forms.length > 1 && !known.has(id));
    if (open)
      throw Trouble.field(
        `takes/${open.id}`,
        `is missing: readers made different things of ${open.where ?? `“${open.base}”`}`,
      );
    for (const { reading } of readers) await this.images.storeAll(document.key, reading.pictures);
    const cause = {
      kind: 'filing',
      file: readers
        .map(({ file }) => file)
        .join(', ')
        .slice(0, NAMES),
      format: formatOfFile(readers[0]?.file ?? ''),
    } as const;
    const from = { doc: stand.doc, seq: stand.seq };
    return this.becoming.become(document, person, cause, async () => ({ target: doc, base: from }), {
      comment,
    });
  }

  /** What was decided as a file with tracked changes; each names who proposed it. */
  async redline(
    document: View,
    person: Signed,
    { base, takes, format }: ReturnedFileForm,
    files: readonly Sent[],
    signal: AbortSignal,
  ): Promise<Uint8Array> {
    const { readers, stand, docs } = await this.read(document, base, files, signal);
    const { doc, proposers, stands } = await this.comparisons.together(stand.doc, docs, takesOf(takes));
    const names = namesOf(readers);
    const at = new Date().toISOString();
    const who = proposers.map((by) => by.map((side) => names[side]).join(', '));
    const credits = stands.map(({ earlier, later }, change) =>
      (['earlier', 'later'] as const).flatMap((side) =>
        (side === 'earlier' ? earlier : later).map(({ from, to }) => ({
          side,
          from,
          to,
          author: who[change] ?? '',
          at,
        })),
      ),
    );
    return this.comparisons.redline(stand.doc, doc, {
      format,
      title: document.title,
      author: person.name,
      at,
      images: [
        ...(await this.images.shownIn(document.key, stand.doc)),
        ...readers.flatMap(({ reading }) => reading.pictures.map(({ bytes }) => bytes)),
      ],
      ends: [`${document.title}, ${stand.at}`, names.join(', ')],
      who,
      credits,
    });
  }

  private async read(document: View, moment: string, files: readonly Sent[], signal: AbortSignal) {
    const seq = await this.places.seqOf(document, moment, 'base');
    const stand = await this.places.at(document, seq);
    const readers: Reader[] = [];
    for (const sent of files) readers.push(await this.readOne(stand.doc, sent, signal));
    const docs = readers.map(({ file, reading }) => ({ doc: reading.doc, format: formatOfFile(file) }));
    return { stand: { ...stand, seq }, readers, docs };
  }

  private async readOne(now: Node, sent: Sent, signal: AbortSignal): Promise<Reader> {
    try {
      const { reading } = await this.filing.read(sent.originalname, sent, signal);
      checkGoesOn(reading.doc, now);
      return { file: sent.originalname, reading };
    } catch (error) {
      if (error instanceof FormatError) throw new FormatError(`${sent.originalname}: ${error.message}`);
      throw error;
    }
  }
}

/** Names of readers, each one's own: whoever a file says wrote it, or the file's name where that is nobody, or several alike. */
function namesOf(readers: readonly Reader[]): string[] {
  const told = readers.map(({ file, reading }) => reading.author.trim() || file.replace(/\.[^.]+$/, ''));
  return readers.map(({ file }, i) => {
    const name = told[i] ?? file;
    return told.filter((one) => one === name).length === 1 ? name : file;
  });
}

function takesOf(json: string): Takes {
  let value: unknown;
  try {
    value = JSON.parse(json);
  } catch {
    throw new Invalid([{ path: 'takes', message: 'is no JSON' }]);
  }
  return check(Takes, value);
}
