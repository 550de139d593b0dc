import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { asTold, withErased } from '../content/index.js';
import type { Comparison } from '../compare/compare.js';
import type { KindName } from '../kinds/index.js';
import { kindOf } from '../kinds/index.js';
import { Bound } from './bound.js';
import { adopted as adoptedDeck } from './decks/adopted.js';
import { odp, pptx } from './decks/format.js';
import { docx } from './docx/format.js';
import { FormatError } from './format.js';
import type { FileFormat, RedlineFileOptions } from './format.js';
import { html } from './html/format.js';
import { json } from './json/format.js';
import { markdown } from './markdown/format.js';
import type { Format, ReadFormat } from './names.js';
import { FORMATS } from './names.js';
import { odt } from './odt/format.js';
import type { Reading } from './reading.js';
import { adopted as adoptedBook } from './sheets/adopted.js';
import { adoptedValues } from './sheets/values-only.js';
import { csv, ods, xlsx } from './sheets/format.js';
import { text } from './text/format.js';
import type { Hands, WriteOptions } from './writing.js';

/** The formats themselves. A new one is a folder, a line here and one in `names.ts`. */
const FILES: Readonly<Record<Format, FileFormat>> = {
  docx,
  odt,
  xlsx,
  ods,
  csv,
  pptx,
  odp,
  markdown,
  html,
  text,
  json,
};

/** Reads a file of a format. Throws `FormatError` for one that cannot be read, or holds more than a document may. */
export function readFile(format: ReadFormat, bytes: Uint8Array): Reading {
  const { read } = FILES[format];
  if (!read) throw new FormatError(`${FORMATS[format].name} can be written only.`);
  const reading = read(bytes);
  new Bound().spend(reading.doc.content.size);
  return reading;
}

/** Writes a document as a file of a format, with the images it shows; what was erased in it as bars, but for JSON, which tells it as it is. */
export function writeFile(format: Format, doc: Node, options: WriteOptions): Uint8Array {
  checkHolds(format, doc);
  return FILES[format].write(format === 'json' ? doc : asTold(doc), options);
}

/** Throws `FormatError` for a document of a kind that a format does not hold. */
function checkHolds(format: Format, doc: Node): void {
  const { kinds, name } = FORMATS[format];
  const kind = kindOf(doc).name;
  if (!kinds.includes(kind)) throw new FormatError(`${name} cannot hold ${KINDS_TOLD[kind]}.`);
}

/** What documents of a kind are called in a sentence. */
const KINDS_TOLD: Readonly<Record<KindName, string>> = { text: 'text', sheet: 'sheets', deck: 'slides' };

/**
 * A document that was read from a file, as the next one of a document that it goes on with: what is likely the same takes its names there, and what was erased there is
 * erased in it. Throws
 * `FormatError` where they are of different kinds.
 */
export function asNextOf(read: Node, now: Node, chance: () => number, format: ReadFormat): Node {
  checkGoesOn(read, now);
  const kind = kindOf(now).name;
  const erased = withErased(read, now);
  if (kind === 'text') return erased;
  if (kind === 'deck') return adoptedDeck(erased, now, chance);
  return (FORMATS[format].valuesOnly ? adoptedValues : adoptedBook)(erased, now, chance);
}

/** A document that was read from a file of a format. */
export interface ReadSide {
  readonly doc: Node;
  readonly format: ReadFormat;
}

/** What readers add to a document of a kind, each with a name of its own. */
const ADDED: Readonly<Partial<Record<KindName, string>>> = { sheet: 'row', deck: 'slide' };

/** Documents that were read from files, as next ones of one that all go on with: see `asNextOf`. A row or slide that several added is one. */
export function asNextsOf(sides: readonly ReadSide[], now: Node, chance: () => number): Node[] {
  const type = ADDED[kindOf(now).name];
  const known = new Set(now.children.map(({ attrs }) => attrs['id'] as unknown));
  const added: Node[] = [];
  return sides.map(({ doc, format }) => {
    const next = asNextOf(doc, now.copy(now.content.append(Fragment.fromArray(added))), chance, format);
    const isNew = (block: Node): boolean =>
      block.type.name === type && block.textContent !== '' && !known.has(block.attrs['id']);
    for (const block of next.children.filter(isNew)) {
      known.add(block.attrs['id']);
      added.push(block);
    }
    return next;
  });
}

/** Throws `FormatError` where what was read is of another kind than the document that it is to go on with. */
export function checkGoesOn(read: Node, now: Node): void {
  const [kind, other] = [kindOf(read).name, kindOf(now).name];
  if (kind !== other)
    throw new FormatError(`This file holds ${KINDS_TOLD[kind]}, and the document ${KINDS_TOLD[other]}.`);
}

/** Formats a comparison can be written in: a page for reading and printing, and files whose changes are tracked. */
export type RedlineFormat = 'html' | 'docx' | 'odt';

/** Writes a comparison as a file; see `FileFormat`. */
export function writeRedline(
  format: RedlineFormat,
  comparison: Comparison,
  hands: Hands,
  options: RedlineFileOptions,
): Uint8Array {
  checkHolds(format, comparison.later);
  const { redline } = FILES[format];
  if (!redline) throw new FormatError(`${FORMATS[format].name} cannot tell changes.`);
  return redline(comparison, hands, options);
}
