import { readFileSync } from 'node:fs';
import { finished, plainText } from '@oxbow/core/content';
import { readAnyDocument } from '@oxbow/core/kinds';
import { ArchiveAbout, ArchivedEdit, Invalid, check } from '@oxbow/contract';
import {
  FormatError,
  NO_IMAGES,
  faultsOf,
  imagesIn,
  readArchive,
  writeArchive,
  pictureOf,
  readHtml,
  readFile,
  writeFile,
} from '@oxbow/core/formats';
import type { Format, ReadFormat, Reading, SealedEdit } from '@oxbow/core/formats';
import PostalMime from 'postal-mime';
import type { Address } from 'postal-mime';
import type { Node } from 'prosemirror-model';
import { giveWay } from '../threads/give-way.js';

/** A file: what it holds, or where it lies until it is read. */
export type Given = Uint8Array | { readonly path: string };

/** A file to read. */
export interface ReadTask {
  readonly kind: 'read';
  readonly format: ReadFormat;
  readonly given: Given;
}

/** A document, as a JSON text, to write as a file. */
export interface WriteTask {
  readonly kind: 'write';
  readonly format: Format;
  readonly doc: string;
  readonly about: About;
}

/** What a file says of itself, and the images it may show. */
export interface About {
  readonly title: string;
  readonly author: string;
  readonly at: string;
  readonly images: readonly Uint8Array[];
  /** Rules of CSS for a page of HTML. */
  readonly style?: string;
}

/** A reading as far as it crosses from one thread to another: documents as JSON texts. */
export interface Read extends Omit<Reading, 'doc' | 'before'> {
  readonly doc: string;
  readonly before: string | null;
}

/** A message to read. */
export interface LetterTask {
  readonly kind: 'letter';
  readonly bytes: Uint8Array;
}

/** A message, read. Times are ISO 8601. */
export interface ReadLetter {
  readonly from: { readonly name: string; readonly address: string };
  readonly to: readonly { readonly name: string; readonly address: string }[];
  readonly subject: string;
  readonly at: string;
  readonly text: string;
  readonly files: readonly { readonly name: string; readonly bytes: Uint8Array }[];
}

/** A history to write as an archive. */
export interface ArchiveTask {
  readonly kind: 'archive';
  readonly about: ArchiveAbout;
  readonly log: readonly SealedEdit[];
  readonly images: readonly Uint8Array[];
}

/** An archive to read and verify. */
export interface UnarchiveTask {
  readonly kind: 'unarchive';
  readonly given: Given;
}

/** An archive that was read and has no fault. */
export interface WholeArchive {
  readonly about: ArchiveAbout;
  readonly log: readonly ArchivedEdit[];
  readonly images: readonly Uint8Array[];
}

export type Task = ReadTask | WriteTask | LetterTask | ArchiveTask | UnarchiveTask;

/** What came of a task; `refused` says for people why nothing did. */
export type Done =
  | { readonly read: Read }
  | { readonly written: Uint8Array }
  | { readonly letter: ReadLetter }
  | { readonly archive: WholeArchive }
  | { readonly refused: string };

giveWay();

/** Reads or writes a file, or reads a message, in a worker thread. */
export default async function run(task: Task): Promise<Done> {
  try {
    if (task.kind === 'archive') return { written: writeArchive(task) };
    if (task.kind === 'unarchive') return { archive: wholeArchive(bytesOf(task.given)) };
    if (task.kind === 'letter') return { letter: await readLetter(task.bytes) };
    if (task.kind === 'write') {
      const doc = finished(readAnyDocument(task.doc));
      return { written: writeFile(task.format, doc, optionsOf(task.about)) };
    }
    const { doc, before, ...rest } = readFile(task.format, bytesOf(task.given));
    return { read: { ...rest, doc: jsonOf(doc), before: before && jsonOf(before) } };
  } catch (error) {
    if (error instanceof FormatError || error instanceof Invalid) return { refused: error.message };
    throw error;
  }
}

function bytesOf(given: Given): Uint8Array {
  return given instanceof Uint8Array ? given : readFileSync(given.path);
}

function jsonOf(doc: Node): string {
  return JSON.stringify(doc.toJSON());
}

/** Options of writing, with the images looked up by what they are. */
export function optionsOf({ images, ...about }: About) {
  const pictures = images.map((bytes) => pictureOf(bytes)).filter((picture) => picture !== null);
  const byHash = new Map(pictures.map((picture) => [picture.hash, picture]));
  return { ...about, picture: (hash: string) => byHash.get(hash) ?? null };
}

/** How far the clock of whoever wrote an archive may be ahead of this one, in milliseconds. */
const AHEAD = 5 * 60_000;

/** Reads an archive and holds it against itself, see `faultsOf`, and its times against the clock. */
export function wholeArchive(bytes: Uint8Array, now = Date.now()): WholeArchive {
  const { about: told, log: lines, parts } = readArchive(bytes);
  const about = check(ArchiveAbout, told);
  const log = lines.map((line) => check(ArchivedEdit, line));
  const faults = faultsOf(about, log, parts);
  const times = [
    about.createdAt,
    ...log.flatMap(({ acceptedAt, writtenAt }) => [acceptedAt, writtenAt]),
    ...about.versions.flatMap(({ at, comments }) => [at, ...comments.map((comment) => comment.at)]),
    ...about.landmarks.flatMap(({ at, until }) => [at, until]),
  ];
  if (times.some((time) => time > now + AHEAD)) faults.push('it tells of times that have not been yet');
  const filed = about.filings.map(({ seq }) => seq);
  if (new Set(filed).size < filed.length) faults.push('it tells twice of a file that was filed');
  if (faults.length > 0) throw new FormatError(`This archive is not whole: ${faults.join('; ')}.`);
  return { about, log, images: imagesIn(parts) };
}

/** How much of a message's words is kept. */
const LONGEST = 20_000;

/** Reads a message (RFC 5322 and MIME), within bounds on how deep its parts are nested. */
async function readLetter(bytes: Uint8Array): Promise<ReadLetter> {
  const mail = await PostalMime.parse(bytes, { maxNestingDepth: 20, maxHeadersSize: 256 * 1024 });
  const known = ({ name, address }: Address): ReadLetter['from'] => ({
    name,
    address: (address ?? '').toLowerCase(),
  });
  const boxes = (addresses: readonly Address[] = []) =>
    addresses.flatMap((one) => one.group ?? [one]).map(known);
  const time = Date.parse(mail.date ?? '');
  const text = mail.text ?? (mail.html ? plainText(readHtml(mail.html, NO_IMAGES)) : '');
  return {
    from: mail.from ? known(mail.from) : { name: '', address: '' },
    to: [...boxes(mail.to), ...boxes(mail.cc)],
    subject: (mail.subject ?? '').slice(0, 500),
    at: new Date(Number.isNaN(time) ? 0 : time).toISOString(),
    text: text.trim().slice(0, LONGEST),
    files: mail.attachments.flatMap(({ filename, content, disposition }) =>
      filename && disposition !== 'inline' && typeof content !== 'string'
        ? [{ name: filename.slice(0, 200), bytes: new Uint8Array(content) }]
        : [],
    ),
  };
}
