import type { Letter, PostInput } from '@oxbow/contract';
import { FORMATS } from '@oxbow/core/formats';
import type { RedlineFormat } from '@oxbow/core/formats';
import type { People, Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import type { Database } from '../store/database.js';
import type { Images } from '../store/images.js';
import type { Credited } from '../documents/credited.js';
import type { Places } from '../documents/places.js';
import type { Files } from '../formats/files.js';
import type { View } from '../access/view.js';
import { shapeOf } from './arrivals.js';
import type { Draft, Letters } from './letters.js';

/** Writes messages to the outside: versions and redlines as files, and word of what was shared. */
export class Post {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly places: Places,
    private readonly credited: Credited,
    private readonly images: Images,
    private readonly files: Files,
    private readonly letters: Letters,
    private readonly site: () => string,
  ) {}

  /** Sends a version, or a redline, of a document. `other` is what `earlier` is a moment of. */
  async send(
    document: View,
    other: View,
    person: Signed,
    { to, subject, text, later, earlier, format }: PostInput,
  ): Promise<Letter> {
    const end = { document, seq: await this.places.seqOf(document, later, 'later') };
    const start =
      earlier === undefined
        ? null
        : { document: other, seq: await this.places.seqOf(other, earlier, 'earlier') };
    const file = start ? await this.redline(start, end, format) : await this.version(end, format);
    return this.write(person, to, { subject, text, files: [file] }, start ? [start, end] : [end]);
  }

  /** Tells somebody that a document, or where its number is 0 a collection, was shared with them. */
  async tellShared(
    what: { readonly document: number; readonly id: string; readonly name: string },
    person: Signed,
    whose: Signed,
    role: string,
    message = '',
  ): Promise<void> {
    const isDocument = what.document > 0;
    const addresses = await this.people.addresses();
    const [address] = [...addresses].find(([, one]) => one.key === whose.key) ?? [];
    if (!address || whose.key === person.key) return;
    await this.write(person, [address], {
      subject: `“${what.name}” is shared with you`,
      text: [
        `${person.name} shared the ${isDocument ? 'document' : 'collection'} “${what.name}” with you. You are its ${role}.`,
        ...(message ? [message] : []),
        `It is on your shelf: ${this.site()}/${isDocument ? `documents/${what.id}` : ''}`,
      ].join('\n\n'),
      files: [],
    });
  }

  /** Notes what a message carries, so that it is found again when something of it is erased. */
  private async note(
    letter: string,
    moments: readonly { readonly document: View; readonly seq: number }[],
  ): Promise<void> {
    const rows = moments.map(({ document, seq }) => ({
      letter,
      document: document.key,
      seq: seq + document.first,
    }));
    await this.database.writes.add((transaction) =>
      this.database.models.posted.bulkCreate(rows, { ignoreDuplicates: true, transaction }),
    );
  }

  private async version(end: { document: View; seq: number }, format: PostInput['format']) {
    const { document, seq } = end;
    const { doc, at, by, version } = await this.places.at(document, seq);
    const bytes = await this.files.write(format, doc, {
      title: document.title,
      author: this.people.byId(by)?.name ?? '',
      at,
      images: await this.images.shownIn(document.key, doc),
    });
    return fileOf(
      `${document.title} ${version === null ? `edit ${seq}` : `version ${version}`}`,
      format,
      bytes,
    );
  }

  private async redline(
    earlier: { document: View; seq: number },
    later: { document: View; seq: number },
    format: PostInput['format'],
  ) {
    if (!isRedline(format)) throw Trouble.field('format', 'must be docx, odt or html for a redline');
    const { name, bytes } = await this.credited.redline(earlier, later, format);
    return fileOf(name, format, bytes);
  }

  private async write(
    person: Signed,
    to: readonly string[],
    { subject, text, files }: Pick<Draft, 'subject' | 'text' | 'files'>,
    moments: readonly { readonly document: View; readonly seq: number }[] = [],
  ): Promise<Letter> {
    const addresses = await this.people.addresses();
    const [address = ''] = [...addresses].find(([, one]) => one.key === person.key) ?? [];
    const stays = files.length > 0 && to.some((one) => addresses.has(one.toLowerCase()));
    const from = { name: person.name, address };
    const letter = await this.letters.send(
      { from, to, subject, text, at: new Date(), files },
      stays ? 'both' : 'out',
      (name) => this.note(name, moments),
    );
    return shapeOf({ ...letter, id: 'sent' }, addresses, () => null);
  }
}

function isRedline(format: PostInput['format']): format is RedlineFormat {
  return format === 'docx' || format === 'odt' || format === 'html';
}

function fileOf(name: string, format: PostInput['format'], bytes: Uint8Array): Draft['files'][number] {
  const { endings, type } = FORMATS[format];
  return { name: `${name.replace(/[\\/:*?"<>|]+/g, '_')}.${endings[0]}`, type, bytes };
}
