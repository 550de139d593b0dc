import { FormatError, formatOfFile, readDocument } from '@oxbow/core/formats';
import type { Format, Images } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';

type Readable = Exclude<Format, 'json'>;

/** Most characters of a text file. */
const LONGEST = 4_000_000;

/** The format of an uploaded file. Throws `FormatError` when it is none that can be read. */
export function fileFormat(file: Express.Multer.File): Readable {
  const format = formatOfFile(file.originalname);
  if (!format)
    throw new FormatError(
      'Only Markdown (.md), HTML (.html) and plain text (.txt) files can be read so far.',
    );
  return format;
}

/** A document title from a file's name. */
export function fileTitle(file: Express.Multer.File): string {
  const name = file.originalname
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  return (name.charAt(0).toUpperCase() + name.slice(1)).slice(0, 200) || 'Untitled';
}

/** An image that a file carries in itself. */
export interface Carried {
  readonly address: string;
  readonly data: Buffer;
}

/** Reads a file. `stored` gives the hash under which a carried image was stored; images from elsewhere are not loaded. */
export function readFile(
  file: Express.Multer.File,
  format: Readable,
  stored: readonly (readonly [string, string])[],
): { doc: Node; images: Carried[] } {
  const images: Carried[] = [];
  const hashes = new Map(stored);
  const from: Images = {
    address: (hash) => hash,
    stored: (address) => {
      const data = /^data:image\/[a-z+.-]+;base64,([A-Za-z0-9+/=\s]+)$/.exec(address)?.[1];
      if (data && !hashes.has(address)) images.push({ address, data: Buffer.from(data, 'base64') });
      return hashes.get(address) ?? null;
    },
  };
  return { doc: readDocument(format, decode(file.buffer), from), images };
}

function decode(bytes: Buffer): string {
  if (bytes.includes(0)) throw new FormatError('This file is not text.');
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    if (text.length > LONGEST)
      throw new FormatError(`This file is longer than ${LONGEST.toLocaleString('en')} characters.`);
    return text;
  } catch (error) {
    if (error instanceof FormatError) throw error;
    throw new FormatError('This file is not UTF-8 text.');
  }
}
